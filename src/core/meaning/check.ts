import {
  type Constraint,
  type Enforcer,
  type Field,
  type Indices,
  type Model,
  noIndices,
  type Path,
  pointerToKey,
  pointerToPath,
} from '../model/index.js';
import { isLookup, judge } from '../operators/index.js';
import { takenBy } from './decode.js';
import { instancesOf, type Judged, judgingOf, pointersOf, valueIn } from './judging.js';
import type { Sent } from './partial.js';

/** A constraint that is broken at some place. */
export interface Broken {
  readonly constraint: Constraint;
  readonly pointer: string;
}

/** Broken constraints, in the order in which they are told. */
export interface Checked {
  readonly certain: readonly Broken[];
  /** Look-ups that are broken behind another fault of their fields. */
  readonly possible: readonly Broken[];
}

/** A constraint at one place, with all that it mentions readable. */
interface Instance {
  readonly constraint: Constraint;
  readonly indices: Indices;
  readonly subjects: readonly string[];
}

/**
 * Step three: judges every constraint. One is broken only where its predicate is false, never where it is unknown.
 *
 * @param enforcers whose constraints are judged
 * @param sent what a partial update sends; null for a whole record
 */
export function check(judged: Judged, enforcers: readonly Enforcer[], sent: Sent | null): Checked {
  const { model, decoding } = judged;
  const judgedHere = model.constraints.filter((one) => one.enforcedIn.some((enforcer) => enforcers.includes(enforcer)));
  const facets = new Map<Path, Constraint[]>();
  for (const one of judgedHere) {
    if (!one.facet || isLookup(one.predicate)) continue;
    facets.set(one.owner, [...(facets.get(one.owner) ?? []), one]);
  }
  const isBroken = ({ constraint, indices }: Instance) =>
    judge(constraint.predicate, judgingOf(judged, indices)) === false;
  const ownFaults = (owner: Path, indices: Indices): readonly Broken[] =>
    (facets.get(owner) ?? [])
      .flatMap((one) => instanceAt(judged, one, indices, sent))
      .filter(isBroken)
      .map(brokenAt);
  const whole = (facet: string) => model.constraints.find(({ id }) => id === `${model.ruleset}.${facet}`) as Constraint;
  const overAt = (pointer: string): Broken => ({ constraint: whole('limits'), pointer });

  const strangeAt = (pointer: string): readonly Broken[] =>
    (decoding.strange.get(pointer) ?? []).map((key) => ({
      constraint: whole('keys'),
      pointer: pointer + pointerToKey(key),
    }));
  // What nobody here has is not judged; what is worked out comes after what it is worked out from.
  const takes = takenBy(enforcers);
  const inside = (fields: Model['fields'], pointer: string, indices: Indices): readonly Broken[] =>
    Object.values(fields)
      .filter((field) => takes(field) || field.derivation !== null)
      .sort((a, b) => Number(a.derivation !== null) - Number(b.derivation !== null))
      .flatMap((field) => walk(field, pointer + pointerToKey(field.name), indices));
  const walk = (field: Field, pointer: string, indices: Indices): readonly Broken[] => {
    if (decoding.over.has(pointer)) return [overAt(pointer)];
    const own = ownFaults(field.path, indices);
    const value = valueIn(judged.canonical.row, field.path, indices);
    if (field.fields !== null) {
      if (decoding.refused.has(pointer)) return own;
      return [...own, ...strangeAt(pointer), ...(value === null ? [] : inside(field.fields, pointer, indices))];
    }
    const { item } = field;
    if (item === null || !Array.isArray(value)) return own;
    const items = value.map((_, index) =>
      walk(item, `${pointer}/${index}`, new Map([...indices, [field.path, index]])),
    );
    return [...own, ...items.flat()];
  };

  if (decoding.refused.has('')) return { certain: [{ constraint: whole('type'), pointer: '' }], possible: [] };
  if (decoding.over.has('')) return { certain: [overAt('')], possible: [] };
  const rules = judgedHere.filter(({ facet, predicate }) => !facet && !isLookup(predicate));
  const told = [
    ...strangeAt(''),
    ...inside(model.fields, '', noIndices()),
    ...rules
      .flatMap((rule) => everywhere(judged, rule, sent))
      .filter(isBroken)
      .map(brokenAt),
  ];
  const faulty = new Set(told.map(({ pointer }) => pointer));
  const lookups = judgedHere
    .filter(({ predicate }) => isLookup(predicate))
    .flatMap((lookup) => everywhere(judged, lookup, sent))
    .filter(isBroken);
  const behindFault = ({ subjects }: Instance) => subjects.some((pointer) => faulty.has(pointer));
  return {
    certain: [...told, ...lookups.filter((one) => !behindFault(one)).map(brokenAt)],
    possible: lookups.filter(behindFault).map(brokenAt),
  };
}

/** The server functions to be asked, each with its values: those with no fault and nothing absent. */
export function questions(
  judged: Judged,
  enforcers: readonly Enforcer[],
  sent: Sent | null,
  faulty: ReadonlySet<string>,
): readonly (Broken & { readonly ask: () => unknown })[] {
  return judged.model.constraints.flatMap((constraint) => {
    const { predicate } = constraint;
    if (predicate.op !== 'asks' || !constraint.enforcedIn.some((one) => enforcers.includes(one))) return [];
    return everywhere(judged, constraint, sent).flatMap((instance) => {
      const values = predicate.of.map((path) => judgingOf(judged, instance.indices).value(path));
      if (values.includes(null) || instance.subjects.some((pointer) => faulty.has(pointer))) return [];
      return [{ ...brokenAt(instance), ask: () => judged.model.functions[predicate.name]?.(...values) }];
    });
  });
}

function brokenAt({ constraint, indices }: Instance): Broken {
  return { constraint, pointer: pointerToPath(constraint.blame, indices) };
}

/** A named rule or a look-up at every item that it is judged on. */
function everywhere(judged: Judged, constraint: Constraint, sent: Sent | null): readonly Instance[] {
  const list = constraint.over === null ? constraint.owner : `${constraint.over}[]`;
  const at = instancesOf(judged.canonical.row, list);
  return at.flatMap((indices) => instanceAt(judged, constraint, indices, sent));
}

/**
 * The constraint at one place; none where it is not judged there. What could not be read is neither given nor missing:
 * nothing but its own type is judged. Of what a partial update sends, a constraint must mention some; where the stored
 * record is not known, all that it mentions must be sent.
 */
function instanceAt(judged: Judged, constraint: Constraint, indices: Indices, sent: Sent | null): readonly Instance[] {
  const { decoding, canonical } = judged;
  const { predicate } = constraint;
  if (predicate.op === 'bounded' || predicate.op === 'closed') return [];
  const subjects = constraint.subjects.flatMap((path) => pointersOf(canonical.row, path, indices));
  const unread = (pointer: string) => isUnder(pointer, decoding.refused) || isUnder(pointer, decoding.over);
  if (predicate.op !== 'typed' && subjects.some(unread)) return [];
  if (sent !== null) {
    const among = subjects.map((pointer) => sent.has(pointer));
    if (!(sent.complete ? among.includes(true) : among.every(Boolean))) return [];
  }
  // A derived value is required only where all that it is worked out from is there.
  if (predicate.op === 'given' && constraint.facet && constraint.owner !== constraint.blame) {
    const judging = judgingOf(judged, indices);
    if (constraint.subjects.some((path) => judging.value(path) === null)) return [];
  }
  // What an absent optional record would have in it is not there to be missed.
  const field = constraint.facet ? constraint.owner : '';
  if (field !== '' && isWithinAbsent(judged, field, indices)) return [];
  return [{ constraint, indices, subjects }];
}

function isWithinAbsent({ canonical }: Judged, path: Path, indices: Indices): boolean {
  if (!path.includes('.')) return false;
  const above = path.split('.').slice(0, -1);
  return above.some((_, at) => valueIn(canonical.row, above.slice(0, at + 1).join('.'), indices) === null);
}

function isUnder(pointer: string, pointers: ReadonlySet<string>): boolean {
  if (pointers.size === 0) return false;
  for (const one of pointers) if (pointer === one || pointer.startsWith(`${one}/`)) return true;
  return false;
}
