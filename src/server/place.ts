import type { Schema } from '../core/declare/index.js';
import { decodeValue } from '../core/kinds/index.js';
import { type Table, tablesOf, tableTargets } from '../core/targets/index.js';
import type { Connection } from './connections/index.js';

/** Where the records of a ruleset are kept. */
export interface Place {
  readonly connection: Connection;
  readonly schema: Schema;
  readonly model: Schema[number];
  readonly root: Table;
  /** ` WHERE <key> = <place>`. */
  readonly whereKey: (at: number) => string;
}

/** The tables of a ruleset behind a connection. */
export function placeIn(connection: Connection, schema: Schema, model: Schema[number]): Place {
  const [root] = tablesOf(model);
  if (root === undefined) throw new Error(`no table for ${model.ruleset}`);
  const { spelling, wire } = tableTargets[connection.engine];
  const key = spelling.name(root.key[0]?.name ?? '');
  return { connection, schema, model, root, whereKey: (at) => ` WHERE ${key} = ${wire.place(at)}` };
}

/** A key as its column holds it; null for what none can be, such as the step of an address that somebody made up. */
export function keyIn({ model, root }: Place, key: string | number): string | number | null {
  const holds = root.key[0]?.holds;
  const field = typeof holds === 'object' ? holds : model.key === null ? null : model.fields[model.key];
  if (field == null) return /^-?[0-9]{1,15}$/.test(String(key)) ? key : null;
  const decoded = decodeValue(field, key, typeof key === 'string' ? 'form' : 'json');
  return 'refused' in decoded ? null : (decoded.value as string | number);
}
