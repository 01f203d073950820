import type { Schema } from '../declare/index.js';
import { isTrimmed, type KnownField } from '../kinds/index.js';
import { derive, instancesOf, uniqueKeysOf, valueIn } from '../meaning/index.js';
import { type Answer, type Case, type Constraint, pointerToPath, type Row } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import type { Check } from './handling.js';

type Model = Schema[number];

/** What servers get wrong with the records that they keep. */
export const storings = {
  'stored before look-ups': 'the record is stored before it is compared with others, and stays',
  'duplicate of itself': 'a record that is changed counts as its own duplicate',
  'compared as it came': 'repeats are looked for before the text is trimmed',
  'absent values collide': 'two records without a value count as repeats',
  'null means unchanged': 'null in a partial update changes nothing',
  'missing means cleared': 'what a partial update does not send is cleared',
  'replacement merged': 'what a replacement leaves out stays',
  'repeats not looked for': 'nothing looks for repeats',
  'targets not looked for': 'nothing looks whether the target exists',
} as const;
export type Storing = keyof typeof storings;

/** The storings that make a difference to some record of a ruleset. */
export function storingsOf({ constraints, fields }: Model): readonly Storing[] {
  const uniques = constraints.flatMap(({ predicate }) => (predicate.op === 'unique' ? [predicate] : []));
  const isOptional = (path: string) => fields[path]?.optional === true;
  const isText = (path: string) => fields[path] !== undefined && isTrimmed(fields[path] as KnownField);
  const applies: Partial<{ readonly [S in Storing]: boolean }> = {
    'stored before look-ups': constraints.some(({ predicate }) => isLookup(predicate)),
    'duplicate of itself': uniques.length > 0,
    'compared as it came': uniques.some(({ of }) => of.some(isText)),
    'absent values collide': uniques.some(({ of, among }) => of.length === 1 && of.some(isOptional) && among === null),
    'repeats not looked for': uniques.length > 0,
    'targets not looked for': constraints.some(({ predicate }) => predicate.op === 'refersTo'),
  };
  return (Object.keys(storings) as Storing[]).filter((storing) => applies[storing] ?? true);
}

/** A server with the records of a case in memory: checks, compares, stores. */
export class MemoryStore {
  readonly #model: Model;
  readonly #check: Check;
  readonly #mistake: Storing | null;

  constructor(model: Model, check: Check, mistake: Storing | null) {
    this.#model = model;
    this.#check = check;
    this.#mistake = mistake;
  }

  /** What it makes of a case, with the rows before it stored. */
  answer(one: Case): Answer {
    const { existing, does, clock } = one;
    const wire = one.wire === 'form' ? 'form' : 'json';
    const partial = does === 'patch';
    const checked = this.#check(this.#received(one), {
      wire,
      clock,
      partial: partial && this.#mistake !== 'missing means cleared',
      existing: partial ? existing : null,
    });
    if (!checked.ok) {
      return this.#expectsLookUps(one)
        ? { notApplicable: 'it looks nothing up for a record that fails its checks' }
        : { refused: checked.violations };
    }
    const row = checked.value;
    const compared = this.#mistake === 'compared as it came' ? withRaw(row, one.input) : row;
    const refused = this.#model.constraints.flatMap((rule) =>
      this.#places(rule, compared, one).map((pointer) => ({ pointer, rule: rule.id, message: rule.message })),
    );
    if (refused.length === 0) return { accepted: row };
    return this.#mistake === 'stored before look-ups'
      ? { refused, residue: 'refuses it, and stores a row all the same' }
      : { refused };
  }

  #expectsLookUps({ expected }: Case): boolean {
    const lookUps = this.#model.constraints.filter(({ predicate }) => isLookup(predicate)).map(({ id }) => id);
    return 'refused' in expected && expected.refused.some(({ rule }) => lookUps.includes(rule));
  }

  #received({ input, does, existing }: Case): unknown {
    const isRecord = typeof input === 'object' && input !== null && !Array.isArray(input);
    if (!isRecord) return input;
    if (this.#mistake === 'null means unchanged' && does === 'patch')
      return Object.fromEntries(Object.entries(input).filter(([, value]) => value !== null));
    if (this.#mistake === 'replacement merged' && does === 'replace') return { ...existing, ...input };
    return input;
  }

  /** Where a look-up is broken, as JSON Pointers. */
  #places({ predicate, blame }: Constraint, row: Row, one: Case): readonly string[] {
    const rowsOf = (ruleset: string) =>
      one.before.filter((stored) => stored.ruleset === ruleset).map((stored) => stored.row);
    if (predicate.op === 'refersTo') {
      if (this.#mistake === 'targets not looked for') return [];
      // A record may refer to itself.
      const itself = { ...row, ...derive(this.#model, row, one.clock) };
      const own = predicate.to === one.ruleset ? [itself, one.existing ?? {}] : [];
      const keys = new Set([...rowsOf(predicate.to), ...own].map((stored) => stored[predicate.key] ?? null));
      return instancesOf(row, predicate.of)
        .filter((indices) => !keys.has(valueIn(row, predicate.of, indices) ?? null))
        .filter((indices) => valueIn(row, predicate.of, indices) !== null)
        .map((indices) => pointerToPath(blame, indices));
    }
    if (predicate.op !== 'unique' || this.#mistake === 'repeats not looked for') return [];
    const others = rowsOf(one.ruleset);
    const stored =
      this.#mistake === 'duplicate of itself' && one.existing !== null ? [...others, one.existing] : others;
    const keysOf = (of: Row) => {
      const keys = uniqueKeysOf(this.#model, of, predicate, one.clock);
      const isAbsent = keys.length === 0 && predicate.among === null && this.#mistake === 'absent values collide';
      return isAbsent ? ['absent'] : keys;
    };
    const taken = new Set(stored.flatMap(keysOf));
    return keysOf(row).some((key) => taken.has(key)) ? [pointerToPath(blame)] : [];
  }
}

/** The record with the texts that came. */
function withRaw(row: Row, input: unknown): Row {
  const raw = input as { readonly [name: string]: unknown };
  const texts = Object.entries(row).filter(
    ([name, value]) => typeof value === 'string' && typeof raw[name] === 'string',
  );
  return { ...row, ...Object.fromEntries(texts.map(([name]) => [name, raw[name] as string])) };
}
