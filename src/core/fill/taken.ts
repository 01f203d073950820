import { instancesOf, judgingFor, valueIn } from '../meaning/index.js';
import type { Constraint, Model, PredicateOf, Row } from '../model/index.js';
import { foldCase } from '../operators/index.js';

/** Values that no two records may share, by the rules that say so. */
export class Taken {
  readonly #model: Model;
  readonly #rules: readonly {
    readonly rule: Constraint;
    readonly unique: PredicateOf<'unique'>;
    readonly keys: Set<string>;
  }[];

  constructor(model: Model) {
    this.#model = model;
    this.#rules = model.constraints.flatMap((rule) =>
      rule.predicate.op === 'unique' ? [{ rule, unique: rule.predicate, keys: new Set<string>() }] : [],
    );
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

  /** One key for each item of the list that a rule is about, otherwise one; none where a part is absent. */
  #keysOf(row: Row, { of, fold, among }: PredicateOf<'unique'>): readonly string[] {
    if (among !== null && judgingFor(this.#model, row).truth(among) !== true) return [];
    return instancesOf(row, of[0] ?? '').flatMap((indices) => {
      const values = of.map((path) => valueIn(row, path, indices));
      if (values.includes(null)) return [];
      const folded = values.map((value) => (fold === 'case' && typeof value === 'string' ? foldCase(value) : value));
      return [JSON.stringify(folded)];
    });
  }
}
