import { addDays } from '../../kinds/index.js';
import type { Comparator, Predicate, PredicateOf, Term, Value } from '../../model/index.js';
import { mentions } from '../../operators/index.js';
import type { Rewriting } from '../mistake.js';
import { namedRules } from '../places.js';
import { withPredicate } from '../remodel.js';

type Change = (predicate: Predicate) => Predicate | null;

/** A comparison holds at its limit too, or no more. */
export const comparisonLoosened = changing('a comparison holds at its limit too', comparing({ '<': '<=', '>': '>=' }));
export const comparisonTightened = changing(
  'a comparison holds at its limit no more',
  comparing({ '<=': '<', '>=': '>' }),
);
/** A comparison looks the other way. */
export const comparisonFlipped = changing(
  'a comparison looks the other way',
  comparing({ '<': '>', '<=': '>=', '>': '<', '>=': '<=' }),
);
/** Both sides of a comparison have changed places. */
export const operandsSwapped = changing('both sides have changed places', (one) =>
  one.op === 'compare' && one.by !== '=' && one.right.term === 'field'
    ? { ...one, left: one.right, right: one.left }
    : null,
);
/** Any of the conditions is enough, where all must hold; or the reverse. */
export const conditionsSwapped = changing('and stands for or, or the reverse', (one) => {
  if (one.op === 'and') return { op: 'or', any: one.all };
  return one.op === 'or' ? { op: 'and', all: one.any } : null;
});
/** The opposite is asked for. */
export const negationDropped = changing('a "not" is missing', (one) => (one.op === 'not' ? one.holds : null));
/** One of several conditions is not there. */
export const conditionDropped = changing('the last condition is missing', (one) => {
  const parts = one.op === 'and' ? one.all : one.op === 'or' ? one.any : [];
  const rest = parts.slice(0, -1);
  const [only] = rest;
  if (only === undefined) return null;
  if (rest.length === 1) return only;
  return one.op === 'and' ? { op: 'and', all: rest } : { op: 'or', any: rest };
});
/** A number or a day that is compared with is one step off. */
export const literalOff = changing('what is compared with is one step off', (one) => {
  if (one.op !== 'compare') return null;
  const right = stepped(one.right);
  return right === null ? null : { ...one, right };
});
/** One of the values that are looked for is not there. */
export const memberDropped = changing('one of the values is missing', (one) =>
  one.op === 'member' && one.among.length > 1 ? { ...one, among: one.among.slice(1) } : null,
);

/** A rule is broken where one of its values is absent. */
export const absentBreaks: Rewriting = (model) =>
  namedRules(model).flatMap(({ id, predicate, over }) => {
    const paths = [...new Set(mentions(predicate))].filter((path) => !path.includes('[]'));
    const optional = paths.filter((path) => model.fields[path]?.optional === true);
    if (over !== null || optional.length === 0) return [];
    const all = [...optional.map((of): Predicate => ({ op: 'given', of })), predicate];
    return [
      { model: withPredicate(model, id, { op: 'and', all }), words: 'an absent value breaks the rule', constraint: id },
    ];
  });

/** The message is not at the field that is to blame, but at another one of the rule. */
export const blameMoved: Rewriting = (model) =>
  namedRules(model).flatMap((rule) => {
    const other = rule.subjects.find((path) => path !== rule.blame && !path.includes('[]'));
    if (other === undefined) return [];
    const constraints = model.constraints.map((one) => (one.id === rule.id ? { ...one, blame: other } : one));
    return [{ model: { ...model, constraints }, words: `${other} is blamed`, constraint: rule.id }];
  });

function comparing(table: Partial<{ readonly [C in Comparator]: Comparator }>): Change {
  return (one) => {
    const by = one.op === 'compare' ? table[one.by] : undefined;
    return by === undefined ? null : { ...(one as PredicateOf<'compare'>), by };
  };
}

/** Each named rule with the change made in the first place that takes it. */
function changing(words: string, change: Change): Rewriting {
  return (model) =>
    namedRules(model).flatMap(({ id, predicate }) => {
      const changed = changedFirst(predicate, change);
      return changed === null ? [] : [{ model: withPredicate(model, id, changed), words, constraint: id }];
    });
}

function changedFirst(predicate: Predicate, change: Change): Predicate | null {
  const own = change(predicate);
  if (own !== null) return own;
  if (predicate.op === 'not') {
    const holds = changedFirst(predicate.holds, change);
    return holds === null ? null : { ...predicate, holds };
  }
  if (predicate.op === 'each' || predicate.op === 'some') {
    const holds = changedFirst(predicate.holds, change);
    return holds === null ? null : { ...predicate, holds };
  }
  if (predicate.op !== 'and' && predicate.op !== 'or') return null;
  const parts = predicate.op === 'and' ? predicate.all : predicate.any;
  for (const [at, part] of parts.entries()) {
    const changed = changedFirst(part, change);
    if (changed === null) continue;
    const all = parts.map((one, index) => (index === at ? changed : one));
    return predicate.op === 'and' ? { op: 'and', all } : { op: 'or', any: all };
  }
  return null;
}

function stepped(term: Term): Term | null {
  if (term.term !== 'literal') return null;
  const value = next(term.value, term.domain);
  return value === null ? null : { ...term, value };
}

function next(value: Value, domain: string): Value {
  if (typeof value === 'number') return value + 1;
  return domain === 'date' && typeof value === 'string' ? addDays(value, 1) : null;
}
