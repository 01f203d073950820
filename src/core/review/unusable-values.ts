import { choicesOf, type KnownField, valueDomain } from '../kinds/index.js';
import { allFields, fieldTerm, type Path, type Predicate, type Value } from '../model/index.js';
import type { Wish } from '../reason/index.js';
import type { Sound } from './contradictions.js';
import type { Finding } from './finding.js';
import { findingOf, namesOf, type Subject, sayings } from './subject.js';

/** The wish that a field has a certain value. */
function valueWish(field: KnownField, value: Value): Wish {
  const domain = valueDomain(field);
  const predicate: Predicate = {
    op: 'compare',
    left: fieldTerm(field.path),
    by: '=',
    right: { term: 'literal', value, domain },
    domain,
  };
  return { predicate, is: 'true' };
}

function fieldsLeft({ model }: Subject, told: ReadonlySet<Path>): readonly KnownField[] {
  return (allFields(model) as readonly KnownField[]).filter(({ path }) => !told.has(path));
}

/** Defaults that make every record refused that leaves the field out. */
export function refusedDefaults(subject: Subject, { kept, told }: Sound): readonly Finding[] {
  const { reasoner } = subject;
  return fieldsLeft(subject, told).flatMap((field) => {
    if (field.default === null) return [];
    const wish = valueWish(field, field.default);
    if (!reasoner.isImpossible(kept, wish)) return [];
    const conflict = reasoner.conflict(kept, wish);
    const value = JSON.stringify(field.default);
    return [
      findingOf(subject, {
        code: 'default_refused',
        severity: 'error',
        about: field,
        rules: conflict,
        message: `The default of ${field.path}, ${value}, is refused by ${namesOf(conflict)}.`,
        proof: `No record with ${value} there keeps ${sayings(conflict, subject)}.`,
        examples: [{ words: 'the default', value: field.default }],
        mend: 'Give a default that a record could be stored with, or none.',
      }),
    ];
  });
}

/** Choices that no record can have. */
export function unreachableChoices(subject: Subject, { kept, told }: Sound): readonly Finding[] {
  const { reasoner } = subject;
  return fieldsLeft(subject, told).flatMap((field) =>
    choicesOf(field).flatMap(([code, label]) => {
      const wish = valueWish(field, code);
      if (!reasoner.isImpossible(kept, wish)) return [];
      const conflict = reasoner.conflict(kept, wish);
      return [
        findingOf(subject, {
          code: 'choice_unreachable',
          severity: 'warning',
          about: field,
          rules: conflict,
          message: `The choice ${JSON.stringify(code)} (${label}) of ${field.path} can't be taken.`,
          proof: `Every record with it breaks ${conflict.length === 1 ? '' : 'one of '}${sayings(conflict, subject)}.`,
          examples: [{ words: 'the choice', value: code }],
          mend: `Take the choice out, or correct ${namesOf(conflict)}.`,
        }),
      ];
    }),
  );
}
