import type { AnyRuleset } from 'echo-rule';
import type { ServerRules } from 'echo-rule/server';
import * as firingRules from '../echo/javascript/firing.js';
import * as kilnRules from '../echo/javascript/kiln.js';
import * as potterRules from '../echo/javascript/potter.js';
import { firing } from '../rules/firing.rules.ts';
import { kiln } from '../rules/kiln.rules.ts';
import { potter } from '../rules/potter.rules.ts';

/** One part of the studio: a kind of record with its list and its form. */
export interface Part {
  /** Under which its pages are. */
  readonly path: string;
  readonly title: string;
  /** One of it, as people say it. */
  readonly one: string;
  /** The words on the button of a new one. */
  readonly begin: string;
  readonly ruleset: AnyRuleset;
  readonly rules: ServerRules<{ readonly [field: string]: unknown }>;
  readonly key: string;
  /** The fields that its list shows. */
  readonly columns: readonly string[];
  readonly words: {
    readonly [path: string]: { readonly label: string; readonly choices?: readonly (readonly [string, string])[] };
  };
}

export const parts: readonly Part[] = [
  {
    path: '/firings',
    title: 'Firings',
    one: 'firing',
    begin: 'Book this firing',
    ruleset: firing,
    rules: firingRules as unknown as Part['rules'],
    key: 'tag',
    columns: ['tag', 'title', 'kiln', 'potter', 'loadOn', 'glaze', 'pieces'],
    words: firingRules.fields,
  },
  {
    path: '/kilns',
    title: 'Kilns',
    one: 'kiln',
    begin: 'Add this kiln',
    ruleset: kiln,
    rules: kilnRules as unknown as Part['rules'],
    key: 'code',
    columns: ['code', 'name', 'hottest'],
    words: kilnRules.fields,
  },
  {
    path: '/potters',
    title: 'Potters',
    one: 'potter',
    begin: 'Add this potter',
    ruleset: potter,
    rules: potterRules as unknown as Part['rules'],
    key: 'handle',
    columns: ['handle', 'name', 'phone', 'email', 'inducted'],
    words: potterRules.fields,
  },
];
