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
import type { Memory, Outcome } from './memory.js';
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

/** The constraints that some enforcers judge, sorted out once for a model: its records are many. */
export interface JudgedBy {
  readonly takes: (field: Field) => boolean;
  readonly facets: ReadonlyMap<Path, readonly Constraint[]>;
  readonly rules: readonly Constraint[];
  readonly lookups: readonly Constraint[];
  readonly limits: Constraint;
  readonly keys: Constraint;
  readonly type: Constraint;
  /** The pointers of what a constraint mentions, where none of it is in a list. */
  readonly plain: ReadonlyMap<Constraint, readonly string[]>;
  /** The fields at the top that a rule mentions; none for a rule over what is worked out, or over the record. */
  readonly tops: ReadonlyMap<Constraint, readonly string[]>;
  /** The fields of each record in the order in which they are judged, by its path. */
  readonly fields: ReadonlyMap<Model['fields'], readonly Field[]>;
}

/** @param enforcers whose constraints are judged */
export function judgedBy(model: Model, enforcers: readonly Enforcer[]): JudgedBy {
  const judged = model.constraints.filter((one) => one.enforcedIn.some((enforcer) => enforcers.includes(enforcer)));
  const facets = new Map<Path, Constraint[]>();
  for (const one of judged) {
    if (!one.facet || isLookup(one.predicate)) continue;
    const known = facets.get(one.owner);
    if (known === undefined) facets.set(one.owner, [one]);
    else known.push(one);
  }
  const whole = (facet: string) => model.constraints.find(({ id }) => id === `${model.ruleset}.${facet}`) as Constraint;
  const plain = judged.filter(({ subjects }) => subjects.every((path) => !path.includes('[')));
  // What nobody here has is not judged; what is worked out comes after what it is worked out from.
  const takes = takenBy(enforcers);
  const fields = new Map<Model['fields'], readonly Field[]>();
  const sort = (inner: Model['fields']): void => {
    const taken = Object.values(inner).filter((field) => takes(field) || field.derivation !== null);
    fields.set(
      inner,
      taken.sort((a, b) => Number(a.derivation !== null) - Number(b.derivation !== null)),
    );
    for (const field of Object.values(inner)) sortIn(field);
  };
  const sortIn = ({ fields: inner, item }: Field): void => {
    if (inner !== null) sort(inner);
    if (item !== null) sortIn(item);
  };
  sort(model.fields);
  const rules = judged.filter(({ facet, predicate }) => !facet && !isLookup(predicate));
  const tops = rules.flatMap((rule): readonly (readonly [Constraint, readonly string[]])[] => {
    const names = [...new Set(rule.subjects.map((path) => path.split(/[.[]/)[0] ?? path))];
    const isSent = (name: string) => Object.hasOwn(model.fields, name) && model.fields[name]?.derivation === null;
    return names.length > 0 && names.every(isSent) ? [[rule, names]] : [];
  });
  return {
    takes,
    facets,
    tops: new Map(tops),
    rules,
    lookups: judged.filter(({ predicate }) => isLookup(predicate)),
    limits: whole('limits'),
    keys: whole('keys'),
    type: whole('type'),
    plain: new Map(plain.map((one) => [one, one.subjects.map((path) => pointerToPath(path))])),
    fields,
  };
}

/**
 * Step three: judges every constraint. One is broken only where its predicate is false, never where it is unknown.
 *
 * @param by the constraints that are judged
 * @param sent what a partial update sends; null for a whole record
 * @param memory what came of the records before; null to judge all of it
 */
export function check(judged: Judged, by: JudgedBy, sent: Sent | null, memory: Memory | null = null): Checked {
  const { decoding } = judged;
  const isBroken = ({ constraint, indices }: Instance) =>
    judge(constraint.predicate, judgingOf(judged, indices)) === false;
  const ownFaults = (owner: Path, indices: Indices): readonly Broken[] => {
    const judging = judgingOf(judged, indices);
    const faults: Broken[] = [];
    for (const one of by.facets.get(owner) ?? []) {
      for (const instance of instanceAt(judged, by, one, indices, sent)) {
        if (judge(one.predicate, judging) === false) faults.push(brokenAt(instance));
      }
    }
    return faults;
  };
  const overAt = (pointer: string): Broken => ({ constraint: by.limits, pointer });

  const strangeAt = (pointer: string): readonly Broken[] =>
    (decoding.strange.get(pointer) ?? []).map((key) => ({
      constraint: by.keys,
      pointer: pointer + pointerToKey(key),
    }));
  const inside = (fields: Model['fields'], pointer: string, indices: Indices): readonly Broken[] =>
    (by.fields.get(fields) ?? []).flatMap((field) => walk(field, pointer + pointerToKey(field.name), indices));
  const walk = (field: Field, pointer: string, indices: Indices): readonly Broken[] => {
    if (decoding.over.has(pointer)) return [overAt(pointer)];
    const outcome = indices.size === 0 && field.path === field.name ? decoding.outcomes?.get(field.name) : undefined;
    if (outcome?.faults != null) return outcome.faults;
    const found = within(field, pointer, indices);
    if (outcome !== undefined) outcome.faults = found;
    return found;
  };
  const within = (field: Field, pointer: string, indices: Indices): readonly Broken[] => {
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
  const brokenAnew = (rule: Constraint) => everywhere(judged, by, rule, sent).filter(isBroken).map(brokenAt);
  /** Of fields that came out as they did before, a rule says what it said. */
  const brokenOf = (rule: Constraint): readonly Broken[] => {
    const tops = memory === null ? undefined : by.tops.get(rule);
    const of = tops?.map((name) => decoding.outcomes?.get(name));
    if (memory === null || of === undefined || of.includes(undefined)) return brokenAnew(rule);
    const known = of as readonly Outcome[];
    const broken = memory.ofRule(rule, known, judged.clock) ?? brokenAnew(rule);
    memory.noteRule(rule, { of: known, clock: judged.clock, broken });
    return broken;
  };

  if (decoding.refused.has('')) return { certain: [{ constraint: by.type, pointer: '' }], possible: [] };
  if (decoding.over.has('')) return { certain: [overAt('')], possible: [] };
  const told = [...strangeAt(''), ...inside(judged.model.fields, '', noIndices()), ...by.rules.flatMap(brokenOf)];
  const faulty = new Set(told.map(({ pointer }) => pointer));
  const lookups = by.lookups.flatMap((lookup) => everywhere(judged, by, lookup, sent)).filter(isBroken);
  const behindFault = ({ subjects }: Instance) => subjects.some((pointer) => faulty.has(pointer));
  return {
    certain: [...told, ...lookups.filter((one) => !behindFault(one)).map(brokenAt)],
    possible: lookups.filter(behindFault).map(brokenAt),
  };
}

/** The server functions to be asked, each with its values: those with no fault and nothing absent. */
export function questions(
  judged: Judged,
  by: JudgedBy,
  sent: Sent | null,
  faulty: ReadonlySet<string>,
): readonly (Broken & { readonly ask: () => unknown })[] {
  return by.lookups.flatMap((constraint) => {
    const { predicate } = constraint;
    if (predicate.op !== 'asks') return [];
    return everywhere(judged, by, constraint, sent).flatMap((instance) => {
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
function everywhere(judged: Judged, by: JudgedBy, constraint: Constraint, sent: Sent | null): readonly Instance[] {
  const list = constraint.over === null ? constraint.owner : `${constraint.over}[]`;
  const at = instancesOf(judged.canonical.row, list);
  return at.flatMap((indices) => instanceAt(judged, by, constraint, indices, sent));
}

/**
 * The constraint at one place; none where it is not judged there. What could not be read is neither given nor missing:
 * nothing but its own type is judged. Of what a partial update sends, a constraint must mention some; where the stored
 * record is not known, all that it mentions must be sent.
 */
function instanceAt(
  judged: Judged,
  by: JudgedBy,
  constraint: Constraint,
  indices: Indices,
  sent: Sent | null,
): readonly Instance[] {
  const { decoding, canonical } = judged;
  const { predicate } = constraint;
  if (predicate.op === 'bounded' || predicate.op === 'closed') return [];
  const subjects =
    by.plain.get(constraint) ?? constraint.subjects.flatMap((path) => pointersOf(canonical.row, path, indices));
  if (predicate.op !== 'typed' && (decoding.refused.size > 0 || decoding.over.size > 0)) {
    const unread = (pointer: string) => isUnder(pointer, decoding.refused) || isUnder(pointer, decoding.over);
    if (subjects.some(unread)) return [];
  }
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
  if (constraint.facet && isWithinAbsent(judged, constraint.owner, indices)) return [];
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
