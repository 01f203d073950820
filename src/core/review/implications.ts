import { type Constraint, fieldAt, type Path, type Predicate, valueAt } from '../model/index.js';
import { mentions } from '../operators/index.js';
import type { Sound } from './contradictions.js';
import type { Finding } from './finding.js';
import { relevant } from './no-value.js';
import { findingOf, listed, nameOf, type Subject, sayings } from './subject.js';

interface Implication {
  readonly rule: Constraint;
  readonly condition: Predicate;
  readonly conclusion: Predicate;
}

/** The implications in a rule: `not this, or that`, wherever all of its parts must hold. */
function implicationsIn(rule: Constraint, predicate = rule.predicate): readonly Implication[] {
  if (predicate.op === 'and') return predicate.all.flatMap((one) => implicationsIn(rule, one));
  if (predicate.op !== 'or' || predicate.any.length !== 2) return [];
  const [left, conclusion] = predicate.any;
  if (left === undefined || conclusion === undefined || left.op !== 'not') return [];
  return [{ rule, condition: left.holds, conclusion }];
}

function allImplications(subject: Subject): readonly Implication[] {
  return subject.model.constraints.filter(({ facet }) => !facet).flatMap((rule) => implicationsIn(rule));
}

/** Implications whose condition no record can meet that keeps the other rules. */
export function neverFiring(subject: Subject, { kept }: Sound): readonly Finding[] {
  const { reasoner } = subject;
  return allImplications(subject).flatMap(({ rule, condition }) => {
    const others = kept.filter((one) => one !== rule);
    const wish = { predicate: condition, is: 'true' } as const;
    if (!kept.includes(rule) || !reasoner.isImpossible(others, wish)) return [];
    const conflict = reasoner.conflict(others, wish);
    return [
      findingOf(subject, {
        code: 'never_fires',
        severity: 'warning',
        about: rule,
        rules: [rule, ...conflict],
        message: `The condition of ${nameOf(rule)} is never met, so the rule says nothing.`,
        proof:
          conflict.length === 0
            ? 'No values whatever make the condition true.'
            : `No record that keeps ${sayings(conflict, subject)} makes the condition true.`,
        mend: `Correct the condition of ${nameOf(rule)}, or leave the rule out.`,
      }),
    ];
  });
}

/** Implications that an absent value passes: the condition is met, and what should follow is neither true nor false. */
export function unknownConclusions(subject: Subject, { kept }: Sound): readonly Finding[] {
  const { reasoner, model } = subject;
  return allImplications(subject).flatMap(({ rule, condition, conclusion }) => {
    const optional = [...new Set(mentions(conclusion))].filter((path) => canBeAbsent(path, subject));
    if (optional.length === 0 || !kept.includes(rule)) return [];
    const decision = reasoner.decide(kept, {
      together: [
        { predicate: condition, is: 'true' },
        { predicate: conclusion, is: 'unknown' },
      ],
    });
    if (decision.is !== 'possible') return [];
    const { row } = decision.example;
    const paths = optional.filter((path) => path.includes('[]') || valueAt(row, path) === null);
    // Unknown for another reason, such as a slug of which nothing is left, is none that a presence would mend.
    if (paths.length === 0) return [];
    const given = paths.map((path) => `${handleText(path)}.given().and(`).join('');
    return [
      findingOf(subject, {
        code: 'conclusion_unknown',
        severity: 'warning',
        about: rule,
        rules: [rule],
        message: `${nameOf(rule)} is passed by a record that leaves ${listed(paths)} out.`,
        proof: `A comparison with an absent value is unknown, and a rule of ${model.ruleset} is broken only where it is false.`,
        examples: [{ words: 'accepted', value: relevant(row, [rule]) }],
        mend: `If ${listed(paths)} must be there then, say so: .implies(${given}…${')'.repeat(paths.length)}); if absent is fine, say .implies(${handleText(paths[0] ?? '')}.missing().or(…)).`,
      }),
    ];
  });
}

/** A field as a rule names it; what is in a list, by the entry at hand. */
function handleText(path: Path): string {
  const inEntry = path.slice(path.lastIndexOf('[]') + 2);
  return path.includes('[]') ? `entry${inEntry}` : `it.${path}`;
}

function canBeAbsent(path: Path, { model }: Subject): boolean {
  const field = fieldAt(model, path);
  if (field.fields !== null || field.item !== null || field.derivation !== null) return false;
  const above = path.split('.').slice(0, -1);
  return field.optional || above.some((_, at) => fieldAt(model, above.slice(0, at + 1).join('.')).optional);
}
