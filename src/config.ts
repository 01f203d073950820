import type { LookUps } from './core/model/index.js';
import type { TargetName } from './core/targets/index.js';
import type { Layer } from './layers/layer.js';

/** The project's settings: what `echo-rule.config.ts` exports as its default. */
export interface Settings {
  /** Globs of the files that export rulesets, relative to the configuration. */
  readonly rules: readonly string[];
  /** The folder of the made files, relative to the configuration. */
  readonly output: string;
  /** What is made; all targets unless told. */
  readonly targets?: readonly TargetName[];
  /**
   * Files of rows that belong to the project (the kilns that there are), by ruleset, relative to the configuration: JSON
   * Lines, a JSON list, or CSV. `fill` checks them, and writes them first.
   */
  readonly records?: { readonly [ruleset: string]: string };
  /** What rules ask someone else, by ruleset and the rule's name: `try` asks it as the server does. */
  readonly lookUps?: { readonly [ruleset: string]: LookUps };
  /** Who is asked by `probe` and `try`, under the names that reports show. */
  readonly layers?: { readonly [name: string]: Layer };
}

/** Gives the settings back; it is there for their types. */
export function settings(said: Settings): Settings {
  return said;
}
