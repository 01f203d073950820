import type { KnownField } from '../kinds/index.js';
import { encode } from '../meaning/index.js';
import { formName, type Model, type Path, type Row, type Value, type Wire } from '../model/index.js';
import { putRaw, rawAt, singleFields } from './places.js';

type Input = { [name: string]: unknown };

/** A field at the top as a wire carries it. */
interface Carried {
  readonly value: Value;
  readonly entries: readonly (readonly [name: string, raw: unknown])[];
}

/** So many values of a field are remembered as they are carried. */
const MOST_KEPT = 16;

/** What wires carry for records of one ruleset: of fields that are the same as in a record before, it is known. */
export class Carrier {
  readonly #model: Model<KnownField['kind']>;
  /** The fields with a value of their own, with the names that a form sends them under. */
  readonly #single: readonly { readonly path: Path; readonly name: string; readonly isTop: boolean }[];
  readonly #known: { readonly [W in Wire]: Map<string, Map<Value, Carried>> } = {
    form: new Map(),
    json: new Map(),
    row: new Map(),
  };

  constructor(model: Model<KnownField['kind']>) {
    this.#model = model;
    this.#single = singleFields(model).map(({ path }) => ({
      path,
      name: formName(path),
      isTop: !path.includes('.'),
    }));
  }

  /** A record on a wire. Unlike what `encode` gives, absent fields are there, as an empty text or null. */
  carried(row: Row, wire: Wire): Input {
    const input: Input = {};
    for (const name of Object.keys(row)) {
      for (const [key, raw] of this.#field(name, row[name] ?? null, wire)) input[key] = raw;
    }
    const isForm = wire === 'form';
    for (const { path, name, isTop } of this.#single) {
      if (isForm || isTop) {
        if (!Object.hasOwn(input, name)) input[name] = isForm ? '' : null;
      } else if (rawAt(input, path, wire) === undefined) putRaw(input, path, null, wire);
    }
    return input;
  }

  #field(name: string, value: Value, wire: Wire): Carried['entries'] {
    const byValue = this.#known[wire].get(name) ?? new Map<Value, Carried>();
    this.#known[wire].set(name, byValue);
    const known = byValue.get(value);
    if (known !== undefined && Object.is(known.value, value)) return known.entries;
    const entries = Object.entries(encode(this.#model, { [name]: value }, wire));
    if (byValue.size >= MOST_KEPT) byValue.clear();
    byValue.set(value, { value, entries });
    return entries;
  }
}
