import { type Problem, problems } from '../messages/index.js';
import {
  allFields,
  type Constraint,
  type Enforcer,
  enforcers,
  type Field,
  listsOf,
  type Path,
  type Predicate,
  type RuleFunction,
} from '../model/index.js';
import { isLookup, mentions, sourcesOf } from '../operators/index.js';
import { worded } from './constraints.js';
import { labelOf } from './names.js';
import type { AnyRule } from './rules.js';

type Fields = { readonly [name: string]: Field };

/** What rules are lowered into: their problems, and the functions of custom ones. */
export interface Gathering {
  readonly found: Problem[];
  readonly functions: { [name: string]: RuleFunction };
}

/** A named rule; null where it has a problem (a foreign field, a blamed field that it does not mention). */
export function ruleConstraint(
  ruleset: string,
  name: string,
  said: AnyRule,
  fields: Fields,
  { found, functions }: Gathering,
): Constraint | null {
  const own = 'holds' in said ? said : null;
  const inner = 'holds' in said ? said.holds : said;
  const whole = withNames('lookup' in inner ? inner.lookup : inner.expression, name, functions);
  const { over, predicate } = byItem(whole);
  const { place } = said;
  const subjects = [...new Set(mentions(predicate).flatMap((path) => sourcesOf(path, { fields })))];
  const labels = new Map(allFields({ fields }).map(({ path, label }) => [path, label]));
  const foreign = subjects.find((path) => !labels.has(path));
  if (foreign !== undefined) {
    found.push(problems.ruleForeign(place, name, foreign));
    return null;
  }
  const blame = own?.blame ?? subjects[0] ?? '';
  if (!subjects.includes(blame)) {
    found.push(problems.blameUnmentioned(place, name, blame, subjects.join(', ')));
    return null;
  }
  const lists = listsOf(blame);
  if (lists.length > (over === null ? 0 : listsOf(over).length + 1)) {
    found.push(problems.blameWithin(place, name, blame, lists.at(-1) ?? ''));
    return null;
  }
  const label = labels.get(blame) ?? blame;
  const together = predicate.op === 'unique' && predicate.of.length > 1;
  const words = together ? 'combination' : predicate.op === 'unique' ? 'unique' : 'rule';
  const phrased = {
    keys: [words],
    label: together ? predicate.of.map((path) => labels.get(path) ?? path).join(' and ') : label,
    limit: labelOf(name).toLowerCase(),
  };
  return {
    id: `${ruleset}.${name}`,
    place,
    stage: isLookup(predicate) ? 'lookup' : 'comparison',
    subjects,
    blame,
    facet: false,
    owner: '',
    over,
    predicate,
    enforcedIn: own?.enforcedIn ?? enforcersOf(predicate),
    ...worded(phrased, own?.message ?? null),
  };
}

/** Where a predicate can be enforced at all. */
function enforcersOf(predicate: Predicate): readonly Enforcer[] {
  if (predicate.op === 'asks') return ['server'];
  return enforcers;
}

/** What must hold of each item is judged item by item, so that it can be told at the item. */
function byItem(predicate: Predicate): { readonly over: Path | null; readonly predicate: Predicate } {
  if (predicate.op !== 'each') return { over: null, predicate };
  const inner = byItem(predicate.holds);
  return { over: inner.over ?? predicate.over, predicate: inner.predicate };
}

/** The predicate as data: each function in it is kept by name, the rule's own and a number where there are several. */
function withNames(predicate: Predicate, rule: string, functions: { [name: string]: RuleFunction }): Predicate {
  if (predicate.op === 'asks') return { ...predicate, name: rule };
  const named = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(named);
    if (typeof value !== 'object' || value === null) return value;
    const entries = Object.entries(value).filter(([key]) => key !== 'function');
    const made = Object.fromEntries(entries.map(([key, inner]) => [key, named(inner)]));
    if (!('function' in value)) return made;
    const name = Object.hasOwn(functions, rule) ? `${rule}${Object.keys(functions).length}` : rule;
    functions[name] = value.function as RuleFunction;
    return { ...made, name };
  };
  return named(predicate) as Predicate;
}
