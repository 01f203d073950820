import { uniqueKeysOf } from '../meaning/index.js';
import type { Constraint, Model, PredicateOf, Row } from '../model/index.js';
import { caseClock } from './clock.js';

/** Values that no two records may share, by the rules that say so. */
export class Taken {
  readonly #model: Model;
  readonly #rules: readonly {
    readonly rule: Constraint;
    readonly unique: PredicateOf<'unique'>;
    readonly keys: Set<string>;
  }[];

  /** @param rows those whose values are taken already */
  constructor(model: Model, rows: readonly Row[] = []) {
    this.#model = model;
    this.#rules = model.constraints.flatMap((rule) =>
      rule.predicate.op === 'unique' ? [{ rule, unique: rule.predicate, keys: new Set<string>() }] : [],
    );
    for (const row of rows) this.take(row);
  }

  /** The rules that a record would break by a value that is taken. */
  brokenBy(row: Row): readonly Constraint[] {
    return this.#rules
      .filter(({ unique, keys }) => {
        const own = this.#keysOf(row, unique);
        return own.some((key) => keys.has(key)) || new Set(own).size < own.length;
      })
      .map(({ rule }) => rule);
  }

  take(row: Row): void {
    for (const { unique, keys } of this.#rules) for (const key of this.#keysOf(row, unique)) keys.add(key);
  }

  #keysOf(row: Row, unique: PredicateOf<'unique'>): readonly string[] {
    return uniqueKeysOf(this.#model, row, unique, caseClock(this.#model));
  }
}
