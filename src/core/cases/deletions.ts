import { homeOf } from '../declare/index.js';
import { instancesOf, valueIn } from '../meaning/index.js';
import { english, phrase } from '../messages/index.js';
import {
  type DeletedRow,
  fieldAt,
  type Indices,
  type Path,
  type PredicateOf,
  type Row,
  type Value,
  type Verdict,
  withValue,
} from '../model/index.js';
import { caseClock } from './clock.js';
import { brokenRules, type Context, type Criterion, type Draft, type Stored } from './context.js';
import { namedBy } from './storable.js';

type Reference = PredicateOf<'refersTo'>;
type Named = ReturnType<typeof namedBy>[number];

/**
 * The row that a reference leads to is deleted: that is refused, or the reference is cleared, or what holds it is deleted
 * too, as the reference declares.
 */
export const deletions: Criterion = (context) =>
  context.model.constraints.flatMap(({ id, predicate }): readonly Draft[] => {
    if (predicate.op !== 'refersTo' || !isStoredReference(context.model, predicate.of)) return [];
    for (const { row: existing, before } of candidates(context, predicate, id)) {
      const draft = deletion(context, { id, predicate }, existing, before);
      if (draft !== null) return [draft];
    }
    return [];
  });

/** No foreign key looks into a column of JSON. */
function isStoredReference(model: Context['model'], of: Path): boolean {
  return fieldAt(model, of).enforcedIn.includes('database') && homeOf(model.fields, of) !== null;
}

/** Valid records that may have the reference, with the rows that they refer to. */
function* candidates(context: Context, { of }: Reference, id: string): Iterable<Pick<Stored, 'row'> & Before> {
  const { base, before, other, otherBefore, choices } = context;
  yield { row: base, before };
  yield { row: other, before: otherBefore };
  const list = of.slice(0, -'[]'.length);
  for (const seed of of.endsWith('[]') ? SEEDS_OF_ENTRIES : []) {
    const row = context.settle(withValue(base, list, [context.keyFor(fieldAt(context.model, of), seed)]), [list], id);
    if (brokenRules(context, row).length === 0) yield { row, before: context.targets(row) };
  }
  if (of.includes('[]')) return;
  for (const key of choices.get(of) ?? []) {
    const row = context.settle(withValue(base, of, key), [of], id);
    if (key !== null && brokenRules(context, row).length === 0) yield { row, before: context.targets(row) };
  }
}

/** Entries of lists name rows of these seeds, that hardly anything else names. */
const SEEDS_OF_ENTRIES = [61, 67];

interface Before {
  readonly before: readonly Stored[];
}

/** The draft, where nothing but this reference leads to the row that is deleted. */
function deletion(
  context: Context,
  { id, predicate }: { readonly id: string; readonly predicate: Reference },
  existing: Row,
  before: readonly Stored[],
): Draft | null {
  const { model, schema } = context;
  const { of, to } = predicate;
  const places = instancesOf(existing, of);
  const key = places.map((indices) => valueIn(existing, of, indices) ?? null).find((value) => value !== null);
  if (key === undefined) return null;
  const leads = ([ruleset, named]: Named) => ruleset === to && named === key;
  const held = (row: Row, by: Context['model']) =>
    namedBy(row, by).filter((named) => leads(named) && isStoredReference(by, named[2]));
  const own = places.filter((indices) => valueIn(existing, of, indices) === key);
  if (held(existing, model).length > own.length) return null;
  const others = before.flatMap(({ ruleset, row }) => {
    const other = schema.find((one) => one.ruleset === ruleset);
    return other === undefined ? [] : held(row, other);
  });
  const isThere = before.some(({ ruleset, row }) => ruleset === to && row[predicate.key] === key);
  if (!isThere || others.length > 0) return null;
  const expected = expectedOf(context, predicate, existing, own);
  if (expected === null) return null;
  const input: DeletedRow = { ruleset: to, key };
  const reason = `the ${to} that it refers to is deleted`;
  return { constraint: id, reason, wire: 'row', input, before, does: 'delete', existing, expected };
}

/** What is to be expected of the deletion; null where what is left would break other rules. */
function expectedOf(context: Context, { of, to }: Reference, existing: Row, own: readonly Indices[]): Verdict | null {
  const { model } = context;
  const does = fieldAt(model, of).facets.onDelete ?? 'refuse';
  if (does === 'refuse') {
    const message = phrase(english, { keys: ['inUse'], label: '', limit: '' });
    return { refused: [{ pointer: '', rule: `${to}.inUse`, message }], possibly: [] };
  }
  const home = homeOf(model.fields, of) ?? '';
  if (does === 'cascade' && home === '') return { accepted: {} };
  const isInList = home !== '' && fieldAt(model, home).item !== null;
  // From behind: what is removed from a list moves what comes after it.
  const left = [...own].reverse().reduce<Row>((row, indices) => {
    if (does === 'clear') return changedAt(row, of, indices, () => null);
    return isInList
      ? changedAt(row, home, indices, (list) => withoutItem(list, indices.get(home) ?? 0))
      : changedAt(row, home, indices, () => null);
  }, existing);
  const verdict = context.decide(left, 'row', { clock: caseClock(model), existing });
  return 'accepted' in verdict ? verdict : null;
}

function withoutItem(list: Value, at: number): Value {
  return Array.isArray(list) ? list.filter((_, index) => index !== at) : list;
}

/** A record with another value at a path, where that leads through lists at some items of them. */
function changedAt(row: Row, path: string, indices: Indices, change: (value: Value) => Value): Row {
  const steps = path.split('.');
  const visit = (inside: Value, at: number): Value => {
    const [step = ''] = steps.slice(at);
    const record = (inside ?? {}) as Row;
    const name = step.replace(/(?:\[\])+$/, '');
    const around = steps.slice(0, at + 1).join('.');
    const inner = (value: Value): Value => (at === steps.length - 1 ? change(value) : visit(value, at + 1));
    const value = record[name] ?? null;
    if (step === name) return { ...record, [name]: inner(value) };
    const index = indices.get(around.slice(0, -'[]'.length)) ?? 0;
    const list = Array.isArray(value) ? value : [];
    return { ...record, [name]: list.map((item, place) => (place === index ? inner(item) : item)) };
  };
  return visit(row, 0) as Row;
}
