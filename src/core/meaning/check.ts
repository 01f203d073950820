import type { Constraint, Model, Path, Row, Term, Value } from '../model/index.js';
import { isLookup, type Judging, judge } from '../operators/index.js';
import type { Canonical } from './canonicalise.js';
import type { Decoding } from './decode.js';

/** The stored rows that look-ups are judged on: those of a ruleset, without the record that is being written. */
export type Store = (ruleset: string) => readonly Row[];

/** Broken constraints, in the order of the model. */
export interface Broken {
  readonly certain: readonly Constraint[];
  /** Look-ups that are broken behind another fault of their fields. */
  readonly possible: readonly Constraint[];
}

/** Step three: judges every constraint. One is broken only where its predicate is false, never where it is unknown. */
export function check(model: Model, decoding: Decoding, canonical: Canonical, store: Store | null): Broken {
  const judging = judgingOf(model, decoding, canonical, store);
  if (decoding.refused.has('')) {
    return { certain: model.constraints.filter(({ id }) => id === `${model.ruleset}.type`), possible: [] };
  }
  // What could not be read is neither given nor missing: nothing but its own type is judged.
  const broken = model.constraints.filter(({ predicate, subjects }) => {
    const readable = predicate.op === 'typed' || !subjects.some((path) => decoding.refused.has(path));
    return readable && judge(predicate, judging) === false;
  });
  const faulty = new Set(broken.filter(({ predicate }) => !isLookup(predicate)).map(({ blame }) => blame));
  const behindFault = ({ predicate, subjects }: Constraint) =>
    isLookup(predicate) && subjects.some((path) => faulty.has(path));
  return { certain: broken.filter((one) => !behindFault(one)), possible: broken.filter(behindFault) };
}

function judgingOf(model: Model, decoding: Decoding, canonical: Canonical, store: Store | null): Judging {
  const value = (path: Path): Value => canonical.values.get(path) ?? null;
  const term = (of: Term): Value => {
    if ('field' in of) return value(of.field);
    if ('literal' in of) return of.literal;
    const inner = term(of.lengthOf);
    return inner === null ? null : [...String(inner)].length;
  };
  const judging: Judging = {
    value,
    term,
    truth: (predicate) => judge(predicate, judging),
    refusedAtDecode: (path) => decoding.refused.has(path),
    notCanonical: (path) => canonical.notCanonical.has(path),
    strangeKeys: () => decoding.strangeKeys,
    stored: (ruleset) => store?.(ruleset ?? model.ruleset) ?? null,
  };
  return judging;
}
