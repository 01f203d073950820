import type { Schema } from '../declare/index.js';
import type { Entry } from '../model/index.js';
import { html } from './html/index.js';
import { javascript } from './javascript/index.js';
import { jsonSchema } from './json-schema/index.js';
import { mariadb } from './mariadb/index.js';
import { postgresql } from './postgresql/index.js';
import { postgresqlDocuments } from './postgresql-documents/index.js';
import type { TableTarget } from './sql/index.js';
import { sqlite } from './sqlite/index.js';
import { everything, type Target } from './target.js';

/** What constraints are compiled for: a new target is a folder beside these, and a name here. */
export const targets = {
  javascript,
  html,
  postgresql,
  mariadb,
  sqlite,
  'json-schema': jsonSchema,
  'postgresql-documents': postgresqlDocuments,
} satisfies { readonly [name: string]: Target };
export type TargetName = keyof typeof targets;
export const allTargetNames = Object.keys(targets) as readonly TargetName[];
/** Those that are made unless settings name others. */
export const targetNames: readonly TargetName[] = allTargetNames.filter(
  (name) => (targets[name] as Target).onRequest !== true,
);

/** What every constraint of a schema, or those that are wanted, became in each target. */
export function ledgerOf(schema: Schema, names = targetNames, wanted = everything): readonly Entry[] {
  return names.flatMap((name) => targets[name].ledger(schema, wanted));
}

/** The targets that keep records in tables, by the name of the engine. */
export const tableTargets = { postgresql, mariadb, sqlite } satisfies { readonly [name: string]: TableTarget };
export type EngineName = keyof typeof tableTargets;
