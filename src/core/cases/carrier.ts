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

/** A record, and what it carries, all in all and by field. */
interface Usual {
  readonly row: Row;
  readonly names: readonly string[];
  readonly input: Input;
  readonly entries: ReadonlyMap<string, Carried['entries']>;
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

  /** The first record of each wire: most others differ from it in one field or two. */
  readonly #usual: { [W in Wire]: Usual | null } = { form: null, json: null, row: null };
  /** The fields with others in them. */
  readonly #records: ReadonlySet<string>;

  constructor(model: Model<KnownField['kind']>) {
    this.#model = model;
    this.#records = new Set(Object.values(model.fields).flatMap(({ name, fields }) => (fields === null ? [] : [name])));
    this.#single = singleFields(model).map(({ path }) => ({
      path,
      name: formName(path),
      isTop: !path.includes('.'),
    }));
  }

  /** A record on a wire. Unlike what `encode` gives, absent fields are there on the form and row wires: as an empty text, as NULL. */
  carried(row: Row, wire: Wire): Input {
    const usual = this.#usual[wire];
    if (usual !== null) return this.#like(usual, row, wire) ?? this.#whole(row, wire);
    const first = this.#first(row, wire);
    this.#usual[wire] = first;
    return { ...first.input };
  }

  #first(row: Row, wire: Wire): Usual {
    const names = Object.keys(row);
    const entries = new Map(names.map((name) => [name, this.#field(name, row[name] ?? null, wire)]));
    return { row, names, input: this.#whole(row, wire), entries };
  }

  /** What a record carries that differs from the usual one in fields of one entry each; null for any other. */
  #like({ row: before, names, input, entries }: Usual, row: Row, wire: Wire): Input | null {
    const own = Object.keys(row);
    if (own.length !== names.length) return null;
    const like = { ...input };
    for (let at = 0; at < own.length; at += 1) {
      const name = own[at] as string;
      if (name !== names[at]) return null;
      const value = row[name] ?? null;
      if (Object.is(value, before[name] ?? null)) continue;
      const [first, second] = this.#field(name, value, wire);
      const known = entries.get(name) ?? [];
      if (first === undefined || second !== undefined || known.length !== 1 || this.#records.has(name)) return null;
      if (first[0] !== known[0]?.[0]) return null;
      like[first[0]] = first[1];
    }
    return like;
  }

  #whole(row: Row, wire: Wire): Input {
    const input: Input = {};
    for (const name of Object.keys(row)) {
      for (const [key, raw] of this.#field(name, row[name] ?? null, wire)) input[key] = raw;
    }
    if (wire === 'json') return input;
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
