import { Bases } from '../cases/base.js';
import { drawnValue } from '../cases/draw.js';
import type { Grammars } from '../cases/grammars.js';
import { Taken } from '../cases/taken.js';
import { usualRows } from '../cases/usual-rows.js';
import type { Schema } from '../declare/index.js';
import { addDays, type KnownField, targetOf } from '../kinds/index.js';
import { derive } from '../meaning/index.js';
import { ProblemError, problems } from '../messages/index.js';
import { allFields, fieldAt, type Row, randomFrom, seedOf, type Value, withValue } from '../model/index.js';
import { keyOf, makeRecord } from './record-maker.js';
import type { Words } from './words.js';

export { carriedRecords, formColumns } from './carried.js';
export { type CheckedRows, checkRows, type GivenRow, readRows } from './given-rows.js';
export type { Person, Place, Words } from './words.js';

export interface FillRequest {
  readonly count: number;
  readonly seed: number;
  readonly words: Words;
  /** The rulesets that get so many records; without it, those that no other refers to. */
  readonly rulesets?: readonly string[];
  /** Rows that are written as they are, and come first. */
  readonly fixed?: ReadonlyMap<string, readonly Row[]>;
  /** Rows that are there already: nothing repeats them, and references may name them. */
  readonly beside?: ReadonlyMap<string, readonly Row[]>;
}

/** The records of one ruleset; each ruleset comes after those that it refers to. */
export interface FilledRuleset {
  readonly ruleset: string;
  /** With the keys that the store would give. */
  readonly rows: readonly Row[];
  /** The number of the last row that is there already, where the table counts its rows. */
  readonly counted: number;
  /** How many of them, from the first, were given. */
  readonly fixed: number;
  /** Why there are fewer than a tenth of the count, where there are. */
  readonly short: string | null;
}

/** Records that others refer to are one to so many. */
const TO_EACH = 10;
const FEWEST = 4;
/** The first record's day; those behind it are spread over as many days as there are records, at most three years. */
const FIRST_DAY = '2026-03-02';
const MOST_DAYS = 1095;

/**
 * Plausible records that keep all rules, those over several fields and the unique ones too, with every reference resolved.
 * The same request gives the same records.
 *
 * @throws ProblemError `fill_exhausted` where so many records of an asked ruleset can't be told apart, or can't be made
 */
export function fillSchema(schema: Schema, request: FillRequest): readonly FilledRuleset[] {
  const { count, rulesets, fixed = new Map(), beside = new Map() } = request;
  const asked = rulesets ?? unreferred(schema);
  const wanted = withReferred(schema, asked);
  const bases = new Bases(schema);
  const made: FilledRuleset[] = [];
  const rowsOf = (ruleset: string): readonly Row[] => [
    ...(beside.get(ruleset) ?? []),
    ...(made.find((one) => one.ruleset === ruleset)?.rows ?? []),
  ];
  for (const model of schema.filter(({ ruleset }) => wanted.has(ruleset))) {
    const { ruleset } = model;
    const isAsked = asked.includes(ruleset);
    const given = fixed.get(ruleset) ?? [];
    const there = beside.get(ruleset) ?? [];
    const first = lastCounted(model, there);
    const enough = given.length + there.length > 0 ? 0 : Math.max(Math.ceil(count / TO_EACH), FEWEST);
    const keys = { seed: request.seed, grammars: bases.grammars };
    const rows: Row[] = given.map((row: Row, at: number) => withKey(model, row, first + at, keys));
    const taken = new Taken(model, [...there, ...rows]);
    // Cases are to find room beside these records: what they send is left to them, as long as there is more.
    const apart = new Taken(model, [...there, ...rows, ...usualRows(model, bases)]);
    const maker = {
      model,
      bases,
      taken,
      grammars: bases.grammars,
      words: request.words,
      seed: request.seed,
      series: new Map(),
      keysOf: (field: KnownField): readonly Value[] => {
        const target = schema.find((one) => one.ruleset === targetOf(field)?.to);
        const own = target === model ? rows : [];
        return target === undefined ? [] : [...rowsOf(target.ruleset), ...own].map((row) => keyOf(target, row));
      },
    };
    const roomy = { ...maker, taken: apart, series: new Map() };
    const most = isAsked ? count : enough;
    let short: string | null = null;
    for (let number = 0; number < most; number += 1) {
      const day = addDays(FIRST_DAY, Math.floor((number * Math.min(most, MOST_DAYS)) / most)) ?? FIRST_DAY;
      const unlike = makeRecord(roomy, number, day);
      const one = 'exhausted' in unlike ? makeRecord(maker, number, day) : unlike;
      if ('exhausted' in one) {
        const why = one.exhausted;
        if (isAsked) throw exhausted(model, number, count, why?.id ?? null);
        short = why === null ? 'no more were found that keep all rules' : `no more differ by ${why.id}`;
        break;
      }
      const whole = withKey(model, one.row, first + rows.length, keys);
      taken.take(whole);
      apart.take(whole);
      rows.push(whole);
    }
    made.push({ ruleset, rows, fixed: given.length, short, counted: first });
  }
  return made;
}

function exhausted(model: Schema[number], found: number, count: number, rule: string | null): ProblemError {
  const { place, ruleset } = model;
  return new ProblemError([problems.fillExhausted(place, ruleset, String(found), String(count), rule ?? '')]);
}

/** A record with what its store would fill in: the key, so that others can name it, and what is worked out. */
function withKey(
  model: Schema[number],
  row: Row,
  at: number,
  { seed, grammars }: Pick<FillRequest, 'seed'> & { readonly grammars: Grammars },
): Row {
  const whole = { ...row, ...derive(model, row, { instant: `${FIRST_DAY}T12:00:00Z` }) };
  const field = model.key === null ? null : fieldAt(model, model.key);
  if (field === null || field.generated === null || field.derivation !== null) return whole;
  const drawn = () => drawnValue(field, randomFrom(seedOf(`${seed} ${model.ruleset} ${at}`)), grammars);
  return withValue(whole, field.path, field.generated === 'identity' ? at + 1 : drawn());
}

/** The greatest number among the keys of rows, where the store counts them; else how many there are. */
function lastCounted(model: Schema[number], rows: readonly Row[]): number {
  const keys = rows.map((row) => Number(row[model.key ?? 'id'] ?? 0)).filter(Number.isSafeInteger);
  return keys.reduce((most, key) => Math.max(most, key), model.key === null ? rows.length : 0);
}

/** Rulesets that no other refers to; all where each is referred to by another. */
function unreferred(schema: Schema): readonly string[] {
  const referred = new Set(schema.flatMap((model) => targetsIn(model).filter((target) => target !== model.ruleset)));
  const roots = schema.map(({ ruleset }) => ruleset).filter((ruleset) => !referred.has(ruleset));
  return roots.length > 0 ? roots : schema.map(({ ruleset }) => ruleset);
}

/** The asked rulesets with all that they refer to. */
function withReferred(schema: Schema, asked: readonly string[]): ReadonlySet<string> {
  const wanted = new Set(asked);
  for (const ruleset of wanted) {
    const model = schema.find((one) => one.ruleset === ruleset);
    for (const target of model === undefined ? [] : targetsIn(model)) wanted.add(target);
  }
  return wanted;
}

function targetsIn(model: Schema[number]): readonly string[] {
  return allFields(model).flatMap((field) => targetOf(field)?.to ?? []);
}
