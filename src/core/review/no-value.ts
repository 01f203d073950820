import type { KnownField } from '../kinds/index.js';
import { type Constraint, listsOf, type Path, type Predicate, type Row, type Value } from '../model/index.js';
import type { Wish } from '../reason/index.js';
import type { Example, Finding } from './finding.js';
import { findingOf, judgedAlone, listed, nameOf, ownFields, type Subject, saying } from './subject.js';

/** The wish that a field has a value. */
export function givenWish(of: Path): Wish {
  return { predicate: { op: 'given', of }, is: 'true' };
}

/** That a list has an item or more. */
export function anyItem(over: Path): Predicate {
  return {
    op: 'compare',
    left: { term: 'count', over, where: null },
    by: '>=',
    right: { term: 'literal', value: 1, domain: 'number' },
    domain: 'number',
  };
}

/** Fields whose own rules leave no value, each with the smallest set of rules that does. */
export function withoutValue(subject: Subject): readonly Finding[] {
  const { reasoner } = subject;
  return ownFields(subject).flatMap((field) => {
    const own = rulesOf(field, subject);
    const wish = givenWish(field.path);
    if (!reasoner.isImpossible(own, wish)) return [];
    const conflict = reasoner.conflict(own, wish);
    const says = listed(conflict.map((one) => saying(one, subject)));
    return [
      findingOf(subject, {
        code: 'no_value',
        severity: 'error',
        about: field,
        rules: conflict,
        message: `No value fits ${field.path}: ${consequence(field)}.`,
        proof:
          conflict.length === 1
            ? `Nothing that the kind ${field.kind} reads keeps ${says}.`
            : `No ${field.kind} keeps ${says} together${isSmallest(subject, conflict, wish) ? '; without any one of them some does' : ''}.`,
        examples: withoutEach(subject, conflict, wish, field.path),
        mend: `Correct ${listed(conflict.map(nameOf))} of ${field.path}, so that some value keeps ${conflict.length === 1 ? 'it' : 'all of them'}.`,
      }),
    ];
  });
}

function rulesOf(field: KnownField, subject: Subject): readonly Constraint[] {
  return judgedAlone(subject).filter(({ owner, facet }) => facet && owner === field.path);
}

function consequence({ path, optional }: KnownField): string {
  if (path.endsWith('[]')) return `the list ${listsOf(path).at(-1)} can only be empty`;
  return optional ? 'it can only be absent' : 'no record that needs it can be given';
}

/** True where it is shown by a value that each rule of a conflict is needed for it. */
export function isSmallest({ reasoner }: Subject, conflict: readonly Constraint[], wish: Wish | null): boolean {
  return conflict.every(
    (left) =>
      reasoner.decide(
        conflict.filter((one) => one !== left),
        wish,
      ).is === 'possible',
  );
}

/** What would do if one of the rules were not there: that each of them is needed for the conflict. */
export function withoutEach(
  subject: Subject,
  conflict: readonly Constraint[],
  wish: Wish | null,
  shown: Path | null,
): readonly Example[] {
  if (conflict.length < 2) return [];
  return conflict
    .filter(({ facet, predicate }) => !facet || predicate.op !== 'given')
    .slice(0, 3)
    .flatMap((left) => {
      const others = conflict.filter((one) => one !== left);
      const found = subject.reasoner.decide(others, wish);
      if (found.is !== 'possible') return [];
      const value = shown === null ? relevant(found.example.row, conflict) : valueShown(found.example.row, shown);
      return [{ words: `without ${nameOf(left)}`, value }];
    });
}

function valueShown(row: Row, path: Path): Value {
  const top = path.split(/[.[]/)[0] ?? '';
  return path.includes('.') || path.includes('[') ? { [top]: row[top] ?? null } : (row[top] ?? null);
}

/** The fields of a record that some rules are about. */
export function relevant(row: Row, rules: readonly Constraint[], more: readonly Path[] = []): Row {
  const paths = [...more, ...rules.flatMap(({ subjects, owner }) => [...subjects, owner])];
  const tops = new Set(paths.map((path) => path.split(/[.[]/)[0] ?? ''));
  return Object.fromEntries(Object.entries(row).filter(([name]) => tops.has(name)));
}
