import type { Constraint, Path, Predicate } from '../model/index.js';
import { type TargetName, targetNames, targets } from '../targets/index.js';
import type { Sound } from './contradictions.js';
import type { Finding } from './finding.js';
import { findingOf, isDeclared, listed, nameOf, namesOf, type Subject, sayings } from './subject.js';

/**
 * Rules that every record keeps that keeps the others. The last declared is looked at first, and one that was told is
 * left out from then on, so that of two that say the same only one is told.
 *
 * @param idle the ids of rules that are told already to say nothing
 */
export function redundancies(subject: Subject, { kept }: Sound, idle: ReadonlySet<string>): readonly Finding[] {
  const { reasoner } = subject;
  const found: Finding[] = [];
  let left = kept;
  for (const rule of [...kept].reverse()) {
    if (
      idle.has(rule.id) ||
      !isDeclared(rule, subject) ||
      rule.predicate.op === 'distinct' ||
      rule.predicate.op === 'given'
    )
      continue;
    // A rule that holds in fewer places takes nothing from one that holds in more.
    const others = left.filter((one) => one !== rule && isEnforcedWherever(one, rule) && mayReplace(one, rule));
    const wish = { breaks: rule };
    if (!reasoner.isImpossible(others, wish)) continue;
    const by = reasonsFor(rule, others, subject);
    if (by === null) continue;
    left = left.filter((one) => one !== rule);
    found.push(
      findingOf(subject, {
        code: 'redundant',
        severity: 'note',
        about: rule,
        rules: [rule, ...by],
        message: `${namesOf([rule])} says nothing new.`,
        proof:
          by.length === 0
            ? 'No record whatever breaks it.'
            : `Every record that keeps ${sayings(by, subject)} keeps it.`,
        mend: `Leave ${nameOf(rule)} out, or keep it for its message.`,
      }),
    );
  }
  return found.reverse();
}

/** A facet sizes its field's column and control, so that only what is said of that field alone makes it superfluous. */
function mayReplace(one: Constraint, rule: Constraint): boolean {
  return !rule.facet || one.owner === rule.owner || one.subjects.every((path) => path === rule.owner);
}

function isEnforcedWherever(one: Constraint, rule: Constraint): boolean {
  return rule.enforcedIn.every((enforcer) => one.enforcedIn.includes(enforcer));
}

/** The targets that a rule is left to. */
const keeping: readonly TargetName[] = targetNames.filter((name) => targets[name].standsAlone);

/** The rules that make one superfluous, in every layer that holds it; null where some layer would lose it. */
function reasonsFor(rule: Constraint, others: readonly Constraint[], subject: Subject): readonly Constraint[] | null {
  const { reasoner } = subject;
  const wish = { breaks: rule };
  const by = reasoner.conflict(others, wish);
  if (heldWhereverHeld(rule, by, subject).length === by.length) return by;
  const held = heldWhereverHeld(rule, reasoner.linkedTo(others, wish), subject);
  return reasoner.isImpossible(held, wish) ? reasoner.conflict(held, wish) : null;
}

/** Of some rules, those that every target holds exactly that holds this one so. */
function heldWhereverHeld(rule: Constraint, others: readonly Constraint[], { ledger }: Subject): readonly Constraint[] {
  const exact = ledger.entries([rule, ...others], keeping).filter(({ fidelity }) => fidelity.is === 'exact');
  const places = (id: string) => exact.flatMap(({ constraint, target }) => (constraint === id ? [target] : []));
  const own = places(rule.id);
  return others.filter(({ id }) => own.every((target) => places(id).includes(target)));
}

type Unique = Extract<Predicate, { op: 'unique' }>;
type UniqueRule = Constraint & { readonly predicate: Unique };

/** Unique rules that another one makes superfluous: what is taken once by itself is taken once together with more. */
export function redundantUniques(subject: Subject): readonly Finding[] {
  const rules = subject.model.constraints.filter((one): one is UniqueRule => one.predicate.op === 'unique');
  const told = new Set<Constraint>();
  return rules.flatMap((rule) => {
    const by = rules.find((one) => one !== rule && !told.has(one) && implies(one, rule));
    if (by === undefined || !isDeclared(rule, subject) || (rule.facet && !by.facet)) return [];
    told.add(rule);
    return [
      findingOf(subject, {
        code: 'redundant',
        severity: 'note',
        about: rule,
        rules: [rule, by],
        message: `${nameOf(rule)} says nothing new.`,
        proof: `Two records that agree in ${listed(rule.predicate.of)} agree in ${listed(by.predicate.of)}, which ${by.id} forbids already.`,
        mend: `Leave ${nameOf(rule)} out.`,
      }),
    ];
  });
}

function implies({ predicate: one }: UniqueRule, { predicate: other }: UniqueRule): boolean {
  const of = (path: Path) => other.of.includes(path);
  const folds = one.fold === other.fold || one.fold === 'case';
  const among = one.among === null || JSON.stringify(one.among) === JSON.stringify(other.among);
  return one.of.every(of) && folds && among;
}
