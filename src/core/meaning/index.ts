import { encodeValue } from '../kinds/index.js';
import { fieldAt, type Model, type Row, type Value, type Verdict, type Wire } from '../model/index.js';
import { blame } from './blame.js';
import { canonicalise } from './canonicalise.js';
import { check, type Store } from './check.js';
import { decode } from './decode.js';

/**
 * The reference: what every layer must answer. Plain and slow on purpose; compiled code is held against it.
 *
 * @param input one record as it came off the wire: for `form` an object of texts or lists of texts, for `json` any
 *   JSON value, for `row` the values that a driver would bind
 * @param store the stored rows, or null: look-ups are then unknown, hence not broken
 */
export function decide(model: Model, input: unknown, wire: Wire, store: Store | null = null): Verdict {
  const decoding = decode(model, input, wire);
  const canonical = canonicalise(model, decoding.values, wire);
  const { certain, possible } = check(model, decoding, canonical, store);
  if (certain.length === 0 && possible.length === 0) {
    const paths = Object.keys(model.fields);
    return { accepted: Object.fromEntries(paths.map((path) => [path, canonical.values.get(path) ?? null])) };
  }
  const told = (constraints: typeof certain) => constraints.flatMap((one) => blame(one, decoding.strangeKeys));
  return { refused: told(certain), possibly: told(possible) };
}

/** What a server would read off a wire, checked or not: canonical values, and the raw ones that it can't read. */
export function read(model: Model, input: { readonly [name: string]: unknown }, wire: Wire): Row {
  const decoding = decode(model, input, wire);
  const { values } = canonicalise(model, decoding.values, wire);
  const raw = (path: string) => (input[path] ?? null) as Value;
  const valueAt = (path: string) => (decoding.refused.has(path) ? raw(path) : (values.get(path) ?? null));
  return Object.fromEntries(Object.keys(model.fields).map((path) => [path, valueAt(path)]));
}

/** The one spelling of a canonical record on a wire; decoding it gives the record back. Absent fields are left out. */
export function encode(model: Model, row: Row, wire: Wire): { [name: string]: Value } {
  const given = Object.entries(row).filter(([, value]) => value !== null);
  return Object.fromEntries(given.map(([path, value]) => [path, encodeValue(fieldAt(model, path), value, wire)]));
}

export type { Store } from './check.js';
export { type Checked, type Validator, validator } from './validator.js';
