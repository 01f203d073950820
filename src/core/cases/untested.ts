import type { Schema } from '../declare/index.js';
import { type KnownField, targetOf } from '../kinds/index.js';
import { judgingFor } from '../meaning/index.js';
import { type Constraint, fieldAt, listsOf, type PredicateOf, type Row, secretIn } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { Languages, Reasoner } from '../reason/index.js';
import type { CaseSet } from './case-set.js';
import { caseClock } from './clock.js';
import { asOnPage } from './page-only.js';
import { storedFormsIn } from './stored-forms.js';
import { concerned } from './unique-conditions.js';

type Model = Schema[number];

/** Why a rule has no case on some side; the code is the reason's name everywhere. */
export const untestedReasons = {
  storeFills: 'the store fills the field, and nobody sends it',
  serverMakes: 'the server makes the value, and nobody sends it',
  askedElsewhere: 'the server calls its function; no case does',
  undeclaredDropped: 'keys that are not declared are dropped',
  neverBroken: 'proved: no record breaks it',
  neverKept: 'proved: no record keeps it',
  impliedByOthers: 'proved: a record that breaks it breaks other rules, which are reported instead',
  ownFunction: 'it is a plain function, and no value was found for this side',
  noTarget: 'no other stored records were found that its references could lead to',
  noOtherRow: 'no second record was found that differs where it must',
  tooMany: 'the inputs for it are beyond the budget of cases',
  undecided: 'no such record was found, and it is not proved that there is none',
  notFound: 'no such record was found',
} as const;
export type UntestedReason = keyof typeof untestedReasons;

/** A rule that no case accepts, or no case refuses. */
export interface UntestedRule {
  readonly ruleset: string;
  readonly rule: string;
  readonly lacks: 'accepting' | 'refusing' | 'both';
  readonly reason: UntestedReason;
  /** The reason in words. */
  readonly words: string;
}

/**
 * The rules of rulesets that have no accepting case, or no refusing one. An accepting case is one that is expected to be
 * accepted and in which the rule holds; a refusing one is expected to be refused by this rule.
 *
 * @param sets the cases of each ruleset
 */
export function untestedRules(sets: readonly CaseSet[], schema: Schema): readonly UntestedRule[] {
  const languages = new Languages();
  return sets.flatMap((set) => {
    const { ruleset } = set;
    const model = schema.find((one) => one.ruleset === ruleset);
    return model === undefined ? [] : untestedOf(model, set, languages);
  });
}

function untestedOf(model: Model, set: CaseSet, languages: Languages): readonly UntestedRule[] {
  const { cases } = set;
  const accepting = new Set<string>();
  const refusing = new Set<string>();
  for (const { constraint, expected, does } of cases) {
    // A deletion shows what the reference does then, and not that it must lead somewhere.
    if (does === 'delete') continue;
    if ('accepted' in expected) accepting.add(constraint);
    else for (const { rule } of expected.refused) refusing.add(rule);
  }
  const accepted = cases.flatMap((one) =>
    'accepted' in one.expected && one.does !== 'delete'
      ? [{ ...one.expected.accepted, ...storedFormsIn(one, model) }]
      : [],
  );
  const page = asOnPage(model) ?? model;
  const whyNot = new WhyNot(page, set, new Reasoner(page, languages));
  return model.constraints.flatMap((rule): readonly UntestedRule[] => {
    const isAccepted = accepting.has(rule.id) || accepted.some((row) => holdsIn(rule, row, page));
    const isRefused = refusing.has(rule.id);
    if (isAccepted && isRefused) return [];
    const lacks = isAccepted ? 'refusing' : isRefused ? 'accepting' : 'both';
    const reason = whyNot.of(rule, lacks);
    return [{ ruleset: model.ruleset, rule: rule.id, lacks, reason, words: untestedReasons[reason] }];
  });
}

/** True where an accepted record shows that a rule is kept, and is not just silent about what is absent. */
function holdsIn({ predicate, subjects, over, facet, owner }: Constraint, row: Row, model: Model): boolean {
  if (predicate.op === 'typed' || predicate.op === 'closed' || predicate.op === 'bounded')
    return predicate.op !== 'typed' || subjects.every((path) => isThere(row, path, model));
  if (isLookup(predicate)) return subjects.every((path) => isThere(row, path, model));
  if (over !== null || (facet && owner.includes('[]'))) return subjects.every((path) => isThere(row, path, model));
  return judgingFor(model, row, caseClock(model)).truth(predicate) === true;
}

/** True for a field that is given; of a list, that has an entry. */
function isThere(row: Row, path: string, model: Model): boolean {
  const [list] = listsOf(path);
  const judging = judgingFor(model, row, caseClock(model));
  return list === undefined ? judging.value(path) !== null : judging.count(list) > 0;
}

class WhyNot {
  readonly #model: Model;
  readonly #set: CaseSet;
  readonly #reasoner: Reasoner;

  constructor(model: Model, set: CaseSet, reasoner: Reasoner) {
    this.#model = model;
    this.#set = set;
    this.#reasoner = reasoner;
  }

  of(rule: Constraint, lacks: UntestedRule['lacks']): UntestedReason {
    const { predicate, owner, facet } = rule;
    const { fields } = this.#model;
    const paths = facet && owner !== '' ? [owner] : rule.subjects;
    const named = paths.map((path) => fieldAt(this.#model, path));
    if (predicate.op === 'asks') return 'askedElsewhere';
    if (predicate.op === 'closed') return 'undeclaredDropped';
    if (named.some(({ path }) => secretIn(path, fields) !== undefined)) return 'serverMakes';
    if (named.some(({ generated, derivation }) => generated !== null && derivation === null)) return 'storeFills';
    if (predicate.op === 'custom') return 'ownFunction';
    if (predicate.op === 'unique') return this.#withoutRepeat(predicate);
    const proved = this.#proved(rule, lacks);
    if (proved !== null) return proved;
    if (named.some((field) => this.#isToCrowded(field))) return 'noTarget';
    if (this.#set.crowded.has(rule.id)) return 'noOtherRow';
    return this.#set.leftOut.has(rule.id) ? 'tooMany' : 'notFound';
  }

  /** Why no record repeats another: none is one that the rule is about, or no second one was found. */
  #withoutRepeat(predicate: PredicateOf<'unique'>): UntestedReason {
    const own = this.#model.constraints.filter((one) => !isLookup(one.predicate));
    const about = this.#reasoner.decide(own, { predicate: concerned(predicate), is: 'true' }).is;
    return about === 'impossible' ? 'neverBroken' : about === 'undecided' ? 'undecided' : 'noOtherRow';
  }

  /** True for a reference, or a list of them, to rows that can't be told apart. */
  #isToCrowded(field: KnownField): boolean {
    const target = targetOf(field.item ?? field);
    return target !== null && this.#set.crowdedTargets.has(target.to);
  }

  #proved(rule: Constraint, lacks: UntestedRule['lacks']): UntestedReason | null {
    if (isLookup(rule.predicate)) return null;
    const others = this.#model.constraints.filter((one) => one !== rule && !isLookup(one.predicate));
    if (lacks !== 'accepting') {
      const breaking = this.#reasoner.decide([], { breaks: rule }).is;
      if (breaking === 'impossible') return 'neverBroken';
      const alone = this.#reasoner.decide(others, { breaks: rule }).is;
      if (alone === 'impossible') return 'impliedByOthers';
      if (breaking === 'undecided' || alone === 'undecided') return 'undecided';
    }
    if (lacks === 'refusing') return null;
    const keeping = this.#reasoner.decide(others, { predicate: rule.predicate, is: 'true' }).is;
    return keeping === 'impossible' ? 'neverKept' : keeping === 'undecided' ? 'undecided' : null;
  }
}
