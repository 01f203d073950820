import {
  type Constraint,
  type Enforcer,
  type Field,
  isSent,
  type Model,
  type Path,
  pointerToKey,
  pointerToPath,
} from '../model/index.js';
import { isLookup } from '../operators/index.js';

type Fields = Model['fields'];

/** A field of a record that is read, and where it is within that record. */
export interface Taken {
  readonly field: Field;
  /** The JSON Pointer of it from the record. */
  readonly pointer: string;
  /** Which of the fields it is that are taken; -1 for what is not. */
  readonly at: number;
}

/** What some enforcers read of a record, sorted out once for a model: its records are many. */
export interface ReadBy {
  /** The fields of each record that someone of them has, by the record's fields: of the others, the keys are passed over. */
  readonly taken: ReadonlyMap<Fields, readonly Taken[]>;
  /** The keys of each record that somebody sends. */
  readonly names: ReadonlyMap<Fields, ReadonlySet<string>>;
  /** Keys at the top that are passed over, though nobody declared them. */
  readonly ignored: ReadonlySet<string>;
}

/** The constraints that some enforcers judge. */
export interface JudgedBy extends ReadBy {
  /** The rules of each field alone. */
  readonly facets: ReadonlyMap<Path, readonly Constraint[]>;
  readonly rules: readonly Constraint[];
  readonly lookups: readonly Constraint[];
  readonly limits: Constraint;
  readonly keys: Constraint;
  readonly type: Constraint;
  /** The pointers of what a constraint mentions, where none of it is in a list. */
  readonly plain: ReadonlyMap<Constraint, readonly string[]>;
  /** The fields of each record in the order in which they are judged: what is worked out comes last. */
  readonly judged: ReadonlyMap<Fields, readonly Taken[]>;
}

/** @param enforcers who reads */
export function readBy(model: Model, enforcers: readonly Enforcer[]): ReadBy {
  const takes = takenBy(enforcers);
  return {
    taken: byRecord(model, (fields) => {
      const taken = Object.values(fields).filter(takes);
      return taken.map((field, at) => ({ field, pointer: pointerToKey(field.name), at }));
    }),
    names: byRecord(model, (fields) => {
      const sent = Object.values(fields).filter(isSent);
      return new Set(sent.map(({ name }) => name));
    }),
    ignored: new Set(model.ignore),
  };
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
  const rules = judged.filter(({ facet, predicate }) => !facet && !isLookup(predicate));
  const read = readBy(model, enforcers);
  const isWorkedOut = ({ derivation }: Field) => derivation !== null;
  return {
    ...read,
    facets,
    rules,
    lookups: judged.filter(({ predicate }) => isLookup(predicate)),
    limits: whole('limits'),
    keys: whole('keys'),
    type: whole('type'),
    plain: new Map(plain.map((one) => [one, one.subjects.map((path) => pointerToPath(path))])),
    judged: byRecord(model, (fields) => [
      ...(read.taken.get(fields) ?? []).filter(({ field }) => !isWorkedOut(field)),
      ...workedOutIn(fields),
    ]),
  };
}

/** True for the fields that someone of these enforcers has. */
function takenBy(enforcers: readonly Enforcer[]): (field: Field) => boolean {
  return (field) => isSent(field) && field.enforcedIn.some((enforcer) => enforcers.includes(enforcer));
}

function workedOutIn(fields: Fields): readonly Taken[] {
  const found = Object.values(fields).filter(({ derivation }) => derivation !== null);
  return found.map((field) => ({ field, pointer: pointerToKey(field.name), at: -1 }));
}

/** What there is of each record of a model, those in lists too. */
function byRecord<T>(model: Model, of: (fields: Fields) => T): ReadonlyMap<Fields, T> {
  const found = new Map<Fields, T>();
  const sort = (fields: Fields): void => {
    found.set(fields, of(fields));
    for (const field of Object.values(fields)) sortIn(field);
  };
  const sortIn = ({ fields, item }: Field): void => {
    if (fields !== null) sort(fields);
    if (item !== null) sortIn(item);
  };
  sort(model.fields);
  return found;
}
