import type { Schema } from '../core/declare/index.js';
import { decodeValue, type KnownField, targetOf, valueField } from '../core/kinds/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import { type Case, fieldAt, type Row, type Value } from '../core/model/index.js';
import { modelOf, type OpenLayer } from './layer.js';

/**
 * By ruleset, keys of records that are there already and remain: cases refer to them instead of records of their own. For
 * what an interface shows and does not take.
 */
export interface ExistingKeys {
  readonly [ruleset: string]: readonly (string | number)[];
}

type Fields = Schema[number]['fields'];
type Raw = { readonly [name: string]: unknown };
/** By the key of a record of a case, the key of the one that is there. */
type Pairs = ReadonlyMap<Value, Value>;
type Change = (field: KnownField, ruleset: string, value: unknown) => unknown;

/** A case does not apply to the records that are there; the message says why. */
class NoSuchRecord extends Error {}

/**
 * A layer whose cases refer to records that are there.
 *
 * @throws ProblemError `layer_unfit` for a ruleset that is not declared or has no key, and for what is no such key
 */
export function overExisting(
  layer: OpenLayer,
  schema: Schema,
  existing: ExistingKeys | undefined,
  kind: string,
): OpenLayer {
  if (existing === undefined) return layer;
  const reason = unfitKeys(schema, existing);
  if (reason !== null) throw new ProblemError([problems.layerUnfit(null, kind, reason)]);
  return {
    ...layer,
    async *answer(cases) {
      const rekeyed = new Map<Case, Rekeyed>();
      for (const one of cases) {
        const result = withExistingKeys(one, schema, existing);
        if ('notApplicable' in result) yield [one, result] as const;
        else rekeyed.set(result.changed, result);
      }
      for await (const [changed, answer] of layer.answer([...rekeyed.keys()])) {
        const { original, back } = rekeyed.get(changed) as Rekeyed;
        const isStored = 'accepted' in answer && answer.accepted !== null;
        yield [original, isStored ? { ...answer, accepted: back(answer.accepted as Row) } : answer] as const;
      }
    },
  };
}

/** A case with other keys, and the way back for what is stored of it. */
interface Rekeyed {
  readonly changed: Case;
  readonly original: Case;
  back(record: Row): Row;
}

function unfitKeys(schema: Schema, existing: ExistingKeys): string | null {
  for (const [ruleset, keys] of Object.entries(existing)) {
    const model = schema.find((one) => one.ruleset === ruleset);
    if (model === undefined) return `existing: there is no ruleset ${ruleset}`;
    const field = model.key === null ? undefined : model.fields[model.key];
    if (field === undefined) return `existing: ${ruleset} has no key`;
    if (keys.length === 0) return `existing: no key of ${ruleset} is given`;
    const wrong = keys.find((key) => 'refused' in decodeValue(valueField(field) as KnownField, key, 'json'));
    if (wrong !== undefined) return `existing: ${JSON.stringify(wrong)} is no key of ${ruleset}`;
  }
  return null;
}

/** A case with the keys of records that are there, in place of those that it would store; or why there are none for it. */
function withExistingKeys(
  one: Case,
  schema: Schema,
  existing: ExistingKeys,
): Rekeyed | { readonly notApplicable: string } {
  const pairs = new Map<string, Pairs>();
  for (const [ruleset, given] of Object.entries(existing)) {
    const { key } = modelOf(ruleset, schema);
    const own = one.before.filter((stored) => stored.ruleset === ruleset).map(({ row }) => row[key ?? ''] ?? null);
    if (own.length > given.length)
      return { notApplicable: `it needs ${own.length} records of ${ruleset}, and ${given.length} are there` };
    pairs.set(ruleset, pairsOf(own, given));
  }
  const there = new KeyChange(schema, existing, (field, ruleset, value) =>
    existingKeyFor(field, value, pairs.get(ruleset) ?? new Map(), existing[ruleset] ?? []),
  );
  const back = new KeyChange(
    schema,
    existing,
    (_, ruleset, value) => [...(pairs.get(ruleset) ?? [])].find(([, given]) => given === value)?.[0] ?? value,
  );
  const { fields } = modelOf(one.ruleset, schema);
  try {
    const changed: Case = {
      ...one,
      before: one.before
        .filter(({ ruleset }) => !Object.hasOwn(existing, ruleset))
        .map(({ ruleset, row }) => ({ ruleset, row: there.record(modelOf(ruleset, schema).fields, row) as Row })),
      existing: one.existing === null ? null : (there.record(fields, one.existing) as Row),
      input: one.wire === 'form' ? there.entries(fields, one.input) : there.record(fields, one.input),
    };
    return { changed, original: one, back: (record) => back.record(fields, record) as Row };
  } catch (error) {
    if (error instanceof NoSuchRecord) return { notApplicable: error.message };
    throw error;
  }
}

/** The key of each record of a case, and the one that takes its place; one that is there keeps its own. */
function pairsOf(own: readonly Value[], given: readonly (string | number)[]): Pairs {
  const free = given.filter((key) => !own.includes(key));
  return new Map(own.map((key) => [key, given.some((other) => other === key) ? key : (free.shift() ?? null)]));
}

/** A reference's raw value with the key that is there; any other value as it is. */
function existingKeyFor(field: KnownField, value: unknown, pairs: Pairs, given: readonly (string | number)[]): unknown {
  for (const [own, key] of pairs) {
    if (value === own) return key;
    if (typeof value !== 'string') continue;
    if (value.trim() === String(own)) return value.replace(String(own), () => String(key));
    const isRead = 'value' in decodeValue(field, value, 'form');
    if (isRead && value.trim().toLowerCase() === String(own).toLowerCase())
      throw new NoSuchRecord('it spells a key in other letters, and the record that is there has another key');
  }
  if (given.some((key) => key === value))
    throw new NoSuchRecord('its reference to no record is the key of one that is there');
  return value;
}

/** Changes the keys in a record's references to the rulesets whose records are there. */
class KeyChange {
  readonly #schema: Schema;
  readonly #existing: ExistingKeys;
  readonly #change: Change;

  constructor(schema: Schema, existing: ExistingKeys, change: Change) {
    this.#schema = schema;
    this.#existing = existing;
    this.#change = change;
  }

  /** A record as JSON or a row carries it; anything else as it is. */
  record(fields: Fields, record: unknown): unknown {
    if (typeof record !== 'object' || record === null || Array.isArray(record)) return record;
    const entries = Object.entries(record as Raw).map(([name, value]) => {
      const field = Object.hasOwn(fields, name) ? fields[name] : undefined;
      return [name, field === undefined ? value : this.#value(field, value)] as const;
    });
    return Object.fromEntries(entries);
  }

  /** The entries of a form, by the fields that their names are of. */
  entries(fields: Fields, entries: unknown): unknown {
    if (typeof entries !== 'object' || entries === null) return entries;
    const changed = Object.entries(entries as Raw).map(([name, raw]) => {
      const field = fieldOfName(fields, name);
      if (field === null) return [name, raw] as const;
      return [
        name,
        Array.isArray(raw) ? raw.map((one) => this.#single(field, one)) : this.#single(field, raw),
      ] as const;
    });
    return Object.fromEntries(changed);
  }

  #value(field: KnownField, value: unknown): unknown {
    const { item, fields } = field;
    if (item !== null) return Array.isArray(value) ? value.map((one) => this.#value(item, one)) : value;
    return fields === null ? this.#single(field, value) : this.record(fields, value);
  }

  #single(field: KnownField, value: unknown): unknown {
    const ruleset = this.#leadsTo(field);
    return ruleset === null ? value : this.#change(field, ruleset, value);
  }

  /** The ruleset whose records are there that a field refers to: its target, or the one that the target's key refers to. */
  #leadsTo(field: KnownField): string | null {
    const target = targetOf(field);
    if (target === null) return null;
    if (Object.hasOwn(this.#existing, target.to)) return target.to;
    return this.#leadsTo(fieldAt(modelOf(target.to, this.#schema), target.key));
  }
}

/** The field that a form sends under a name such as `shelf[bay]` or `helpers[0]`; null for any other name. */
function fieldOfName(fields: Fields, name: string): KnownField | null {
  let within: Fields | null = fields;
  let field: KnownField | null = null;
  for (const step of name.split(/[[\]]+/).filter((part) => part !== '')) {
    if (field?.item != null && /^[0-9]+$/.test(step)) field = field.item;
    else if (within !== null && Object.hasOwn(within, step)) field = within[step] ?? null;
    else return null;
    within = field?.fields ?? null;
  }
  return field;
}
