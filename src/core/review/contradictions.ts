import { Bases } from '../cases/base.js';
import type { KnownField } from '../kinds/index.js';
import { ProblemError } from '../messages/index.js';
import { allFields, type Constraint, listsOf, type Path } from '../model/index.js';
import type { Finding } from './finding.js';
import { anyItem, givenWish, isSmallest, relevant, withoutEach } from './no-value.js';
import { findingOf, judgedAlone, listed, namesOf, type Subject, sayings } from './subject.js';

/** What is left to reason about: rules that can be kept together, and fields that are told already. */
export interface Sound {
  readonly kept: readonly Constraint[];
  readonly told: ReadonlySet<Path>;
}

/** More conflicts than this in one ruleset are not told at once. */
const MOST_CONFLICTS = 5;

/**
 * Rules that no record keeps together. After each conflict one rule of it is left out, the last that was declared, and
 * the rest is looked at again; what is left at the end can be kept together.
 */
export function contradictions(
  subject: Subject,
  told: ReadonlySet<Path>,
): { findings: readonly Finding[]; sound: Sound } {
  const { reasoner, model } = subject;
  const findings: Finding[] = [];
  let kept = judgedAlone(subject).filter(({ owner }) => !told.has(owner) && !within(owner, told));
  for (let round = 0; round < MOST_CONFLICTS; round++) {
    const decision = reasoner.decide(kept);
    if (decision.is === 'possible') break;
    if (decision.is === 'undecided') {
      if (!hasBase(subject)) findings.push(undecidedFinding(subject, decision.why));
      break;
    }
    const conflict = reasoner.conflict(kept);
    const shown = conflict.filter(({ predicate, facet }) => !facet || predicate.op !== 'given');
    const last = [...conflict].reverse().find(({ facet }) => !facet) ?? conflict.at(-1);
    if (last === undefined) break;
    kept = kept.filter((one) => one !== last);
    findings.push(
      findingOf(subject, {
        code: 'contradiction',
        severity: 'error',
        field: '',
        about: last,
        rules: conflict,
        message: `No record of ${model.ruleset} can be given: its rules contradict each other.`,
        proof: `There is no way to keep ${sayings(shown, subject)} together${required(conflict)}${isSmallest(subject, conflict, null) ? '; without any one of them there is' : ''}.`,
        examples: withoutEach(subject, conflict, null, null),
        mend: `Loosen or leave out one of ${namesOf(shown)}.`,
      }),
    );
  }
  // With still more conflicts everything would follow from what is left, and nothing of it would be worth telling.
  return { findings, sound: { kept: findings.length === MOST_CONFLICTS ? [] : kept, told } };
}

function required(conflict: readonly Constraint[]): string {
  const paths = conflict.filter(({ facet, predicate }) => facet && predicate.op === 'given').map(({ owner }) => owner);
  return paths.length === 0 ? '' : `, as ${listed(paths)} must be given`;
}

function within(owner: Path, told: ReadonlySet<Path>): boolean {
  return [...told].some((path) => owner.startsWith(`${path}.`) || owner.startsWith(`${path}[`));
}

/** A record may be found by trying where none could be worked out. */
function hasBase({ model, schema }: Subject): boolean {
  try {
    new Bases(schema).of(model, 0);
    return true;
  } catch (error) {
    if (error instanceof ProblemError) return false;
    throw error;
  }
}

function undecidedFinding(subject: Subject, why: string): Finding {
  const { model } = subject;
  return {
    code: 'undecided',
    severity: 'note',
    ruleset: model.ruleset,
    field: '',
    place: model.place,
    message: `Whether any record of ${model.ruleset} keeps all rules was not decided, and none was found.`,
    rules: [],
    proof: `It was not decided because ${why}.`,
    examples: [],
    mend: 'Try a record that should be accepted with echo-rule try.',
  };
}

/** Fields that no record can give, and lists that no record can have items of, though their own rules would allow it. */
export function onlyAbsent(subject: Subject, { kept, told }: Sound): readonly Finding[] {
  const { reasoner, model } = subject;
  const fields = (allFields(model) as readonly KnownField[]).filter(
    ({ path, fields: inner, derivation }) =>
      inner === null && derivation === null && !told.has(path) && !path.endsWith('[]'),
  );
  const found = new Set<Path>();
  return fields.flatMap((field) => {
    const isList = field.item !== null;
    if (listsOf(field.path).some((list) => found.has(list))) return [];
    if (!isList && !field.optional && !field.path.includes('.')) return [];
    if (isList && (field.facets.maxItems === 0 || told.has(`${field.path}[]`))) return [];
    const wish = isList ? ({ predicate: anyItem(field.path), is: 'true' } as const) : givenWish(field.path);
    if (!reasoner.isImpossible(kept, wish)) return [];
    found.add(field.path);
    const conflict = reasoner.conflict(kept, wish);
    const example = reasoner.decide(kept);
    return [
      findingOf(subject, {
        code: 'only_absent',
        severity: 'error',
        about: field,
        rules: conflict,
        message: `${field.path} can only be ${isList ? 'empty' : 'absent'}: any record that gives it is refused.`,
        proof: `Where it is given, ${sayings(conflict, subject)} can't be kept together.`,
        examples:
          example.is === 'possible'
            ? [{ words: 'accepted', value: relevant(example.example.row, conflict, [field.path]) }]
            : [],
        mend: `Correct ${namesOf(conflict)}, or leave the field out.`,
      }),
    ];
  });
}
