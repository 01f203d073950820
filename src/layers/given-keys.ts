import type { Schema } from '../core/declare/index.js';
import { type KnownField, targetOf, valueField } from '../core/kinds/index.js';
import { fieldAt, type Row, type Value } from '../core/model/index.js';
import { modelOf } from './layer.js';

type Model = Schema[number];
type Raw = { readonly [name: string]: unknown };
/** A key in a case, and the one that the table gave the same row. */
type Pair = readonly [own: number, given: number];

/** Tables count to no more than this for the rows of cases; keys that nobody has are put so far from them. */
const MOST_COUNTED = 100_000;
const FAR = 1_998_000_000;

/** True for a ruleset whose rows get a key that the store counts. */
export function countsKeys({ key, fields }: Model): boolean {
  return key !== null && fields[key]?.generated === 'identity';
}

/**
 * The keys that tables counted for the rows of a case. A counter is never set to a key: it would continue from there when the
 * row is gone again. What refers to such a row gets the key that the row has, and is read back with the key of the case.
 */
export class GivenKeys {
  readonly #schema: Schema;
  readonly #pairs = new Map<string, Pair[]>();

  constructor(schema: Schema) {
    this.#schema = schema;
  }

  /** Notes the key that a row was given. */
  note(ruleset: string, own: Value, given: unknown): void {
    const pairs = this.#pairs.get(ruleset) ?? [];
    pairs.push([Number(own), Number(given)]);
    this.#pairs.set(ruleset, pairs);
  }

  /** True for a key that a table counted to for a row of the case. */
  wasGiven(ruleset: string, key: Value): boolean {
    return (this.#pairs.get(ruleset) ?? []).some(([, given]) => given === Number(key));
  }

  /** A record of a case with the keys that the tables gave, whatever else its values are. */
  toTable(model: Model, record: Raw): Raw {
    return this.#record(model.fields, record, ([own, given]) => [own, given]) as Raw;
  }

  /** A record of the tables with the keys of the case. */
  fromTable(model: Model, record: Row): Row {
    return this.#record(model.fields, record, ([own, given]) => [given, own]) as Row;
  }

  #record(fields: Model['fields'], record: Raw, turned: (pair: Pair) => Pair): Raw {
    const entries = Object.entries(record).map(([name, value]) => {
      const field = Object.hasOwn(fields, name) ? fields[name] : undefined;
      return [name, field === undefined ? value : this.#value(field, value, turned)] as const;
    });
    return Object.fromEntries(entries);
  }

  #value(field: KnownField, value: unknown, turned: (pair: Pair) => Pair): unknown {
    const { item, fields } = field;
    if (item !== null) return Array.isArray(value) ? value.map((one) => this.#value(item, one, turned)) : value;
    if (fields !== null) {
      const isRecord = typeof value === 'object' && value !== null && !Array.isArray(value);
      return isRecord ? this.#record(fields, value as Raw, turned) : value;
    }
    const counted = this.#countedBy(field);
    if (counted === null) return value;
    for (const pair of this.#pairs.get(counted) ?? []) {
      const changed = withKey(value, turned(pair));
      if (changed !== value) return changed;
    }
    return this.#unstored(counted, field, value, turned);
  }

  /** A key that no row of the case has, far from those that a table may count to for another row. */
  #unstored(counted: string, field: KnownField, value: unknown, turned: (pair: Pair) => Pair): unknown {
    if (typeof value !== 'number' || !Number.isInteger(value) || value < 1 || value > MOST_COUNTED) return value;
    const { max } = valueField(field).facets;
    if (typeof max === 'number' && max < FAR + MOST_COUNTED) return value;
    const [from, to] = turned([value, FAR + value]);
    if (from === value) this.note(counted, value, to);
    return to;
  }

  /** The ruleset whose counted keys a field holds, if any: that of its target, or the one that the target's key leads to. */
  #countedBy(field: KnownField): string | null {
    const target = targetOf(field);
    if (target === null) return null;
    const there = modelOf(target.to, this.#schema);
    return countsKeys(there) ? target.to : this.#countedBy(fieldAt(there, target.key));
  }
}

/** A value that is a key, or a spelling of one that a column may read as it, with another key in its place. */
function withKey(value: unknown, [from, to]: Pair): unknown {
  if (typeof value === 'number') return Math.abs(value - from) < 1 ? to + (value - from) : value;
  return typeof value === 'string' && new RegExp(`(?<![1-9])${from}(?![0-9])`).test(value)
    ? value.replace(String(from), String(to))
    : value;
}
