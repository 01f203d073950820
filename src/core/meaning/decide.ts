import {
  type Enforcer,
  isSent,
  type LookUps,
  type Model,
  type Row,
  type Value,
  type Verdict,
  type Violation,
  type Wire,
} from '../model/index.js';
import type { Judging } from '../operators/index.js';
import { canonicalise } from './canonicalise.js';
import { type Broken, type Checked as BrokenRules, check, questions } from './check.js';
import { type Reading as ClockReading, type GivenClock, readClock } from './clock.js';
import { decode, isRecord, shaped } from './decode.js';
import { type JudgedBy, judgedBy, type ReadBy, readBy } from './judged-by.js';
import { type Judged, judgedAlone, judgingOf, type Matchers, type Store } from './judging.js';
import { merge, type Sent, withoutBlankSecrets, withShown } from './partial.js';

/** How a record is judged, beside the wire that it came on. */
export interface How {
  /** The stored rows, or null: look-ups are then unknown, hence not broken. */
  readonly store?: Store | null;
  readonly clock?: GivenClock;
  /** Missing keys mean unchanged, not absent. */
  readonly partial?: boolean;
  /** Of a partial update, the stored record in canonical form. */
  readonly existing?: Row | null;
  /** Of a partial update by form, the paths of the fields that it showed. */
  readonly shown?: readonly string[];
  /** What the server asks by the names of rules; a rule whose function is missing is an error. */
  readonly lookUps?: LookUps;
  /** Whose constraints are judged: all that a server and its database hold unless given. */
  readonly enforcers?: readonly Enforcer[];
}

/** All that a server and its database hold. */
export const behindThePage: readonly Enforcer[] = ['server', 'database'];

interface Step {
  readonly judged: Judged;
  readonly sent: Sent | null;
}

/** Steps one and two, and what a partial update is put over. */
function prepare(model: Model, input: unknown, wire: Wire, by: ReadBy, how: How): Step {
  const { existing = null, partial = false } = how;
  const { tree, unknownNames } = shaped(model, input, wire);
  const shown = partial && wire === 'form' && how.shown !== undefined ? withShown(model, tree, how.shown) : tree;
  const kept = partial && wire === 'form' ? withoutBlankSecrets(model, shown) : shown;
  const merged = partial ? merge(model, kept, existing, wire) : null;
  const decoding = decode(model, merged === null ? shown : merged.tree, wire, by, unknownNames);
  const canonical = canonicalise(model, decoding, wire, !partial);
  const [store, clock] = [how.store ?? null, readClock(how.clock, model.zone)];
  const judged = { model, decoding, canonical, store, clock, matchers: new Map(), firstPlaces: new WeakMap() };
  return { judged, sent: merged?.sent ?? null };
}

/**
 * The reference: what every layer must answer. Plain on purpose; compiled code is held against it.
 *
 * @param input one record as it came off the wire: for `form` an object of texts or lists of texts by the names of its
 *   controls, for `json` any JSON value, for `row` the values that a driver would bind
 */
export function decide(model: Model, input: unknown, wire: Wire, how: How = {}): Verdict {
  return decideBy(judgedBy(model, how.enforcers ?? behindThePage), model, input, wire, how);
}

/** The same, with the constraints that are judged sorted out before. */
export function decideBy(by: JudgedBy, model: Model, input: unknown, wire: Wire, how: How): Verdict {
  const { judged, sent } = prepare(model, input, wire, by, how);
  return verdictOf(judged, check(judged, by, sent), sent);
}

/** @param sent what a partial update sends; null for a whole record */
export function verdictOf(judged: Judged, { certain, possible }: BrokenRules, sent: Sent | null): Verdict {
  if (certain.length === 0 && possible.length === 0) return { accepted: accepted(judged, sent) };
  return { refused: certain.map(violationOf), possibly: possible.map(violationOf) };
}

/** Step four: a broken constraint as a violation, at the field that it blames. */
function violationOf({ constraint, pointer }: Broken): Violation {
  return { pointer, rule: constraint.id, message: constraint.message };
}

/** The canonical record; of a partial update without the stored record, what was sent only. */
function accepted({ model, canonical }: Judged, sent: Sent | null): Row {
  if (sent === null || sent.complete) return canonical.row;
  return sentOnly(model.fields, canonical.row, '', sent) as Row;
}

function sentOnly(fields: Model['fields'], row: Row, pointer: string, sent: Sent): Value {
  const entries = Object.entries(row).flatMap(([name, value]): readonly (readonly [string, Value])[] => {
    const at = `${pointer}/${name}`;
    const inner = fields[name]?.fields ?? null;
    if (!sent.has(at)) return [];
    if (inner === null || value === null) return [[name, value]];
    return [[name, sentOnly(inner, value as Row, at, sent)]];
  });
  return Object.fromEntries(entries);
}

/**
 * The same, and then the functions that rules ask, on fields with no other fault.
 *
 * @throws ProblemError `look_up_missing` where a rule's function was not given
 */
export async function decideAsking(model: Model, input: unknown, wire: Wire, how: How = {}): Promise<Verdict> {
  const by = judgedBy(model, how.enforcers ?? behindThePage);
  const { judged, sent } = prepare(model, input, wire, by, how);
  const verdict = verdictOf(judged, check(judged, by, sent), sent);
  const before = 'refused' in verdict ? verdict.refused : [];
  if (judged.decoding.refused.has('') || judged.decoding.over.has('')) return verdict;
  const faulty = new Set(before.map(({ pointer }) => pointer));
  const answers = await Promise.all(
    questions(judged, by, sent, faulty, how.lookUps ?? {}).map(async (question) =>
      (await question.ask()) ? [] : [violationOf(question)],
    ),
  );
  const refused = answers.flat();
  if (refused.length === 0) return verdict;
  return { refused: [...before, ...refused], possibly: 'refused' in verdict ? verdict.possibly : [] };
}

/**
 * What a server would read off a wire, checked or not: canonical values, and the raw ones that it can't read. With other
 * enforcers, what they would read: a page has fields that a server passes over.
 */
export function read(
  model: Model,
  input: { readonly [name: string]: unknown },
  wire: Wire,
  enforcers: readonly Enforcer[] = behindThePage,
): Row {
  const { judged } = prepare(model, input, wire, readBy(model, enforcers), {});
  const { tree } = shaped(model, input, wire);
  const raw = isRecord(tree) ? tree : {};
  const value = (name: string): Value => {
    const pointer = `/${name}`;
    const { refused } = judged.decoding;
    const unread = [...refused].some((one) => one === pointer || one.startsWith(`${pointer}/`));
    return unread ? rawValue(raw[name]) : (judged.canonical.row[name] ?? null);
  };
  return Object.fromEntries(
    Object.values(model.fields)
      .filter(isSent)
      .map(({ name }) => [name, value(name)]),
  );
}

/** The entries of a form that sent a value once are that value. */
function rawValue(given: unknown): Value {
  return (Array.isArray(given) && given.length === 1 ? given[0] : (given ?? null)) as Value;
}

/**
 * A canonical record to be judged by itself, as an operator judges it; look-ups are unknown.
 *
 * @param matchers patterns that are ready from records before
 */
export function judgingFor(
  model: Model,
  row: Row,
  clock?: GivenClock | ClockReading,
  matchers: Matchers = new Map(),
): Judging {
  const reading = clock !== undefined && 'now' in clock ? clock : readClock(clock, model.zone);
  return judgingOf(judgedAlone(model, row, reading, matchers));
}
