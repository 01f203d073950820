import { type KnownField, targetOf, valueField } from '../kinds/index.js';
import {
  allFields,
  type Constraint,
  fieldAt,
  type OperatorName,
  type Path,
  type Predicate,
  valueAt,
} from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { Reasoner } from '../reason/index.js';
import type { Example, Finding } from './finding.js';
import { givenWish } from './no-value.js';
import { findingOf, listed, nameOf, type Subject, saying } from './subject.js';

/** The options that decide what text is stored as: a reference must read its key as the key is read. */
const readingFacets = ['trim', 'collapse', 'case', 'unicode', 'lines'] as const;

/** What is said of a value by itself. */
const ofValues: readonly OperatorName[] = ['compare', 'multiple', 'matches', 'member', 'and'];

/** References that some key of the other ruleset does not fit: such a record is stored, and can never be referred to. */
export function unfitReferences(subject: Subject): readonly Finding[] {
  return (allFields(subject.model) as readonly KnownField[]).flatMap((field) => {
    const target = targetOf(field);
    const other = subject.schema.find(({ ruleset }) => ruleset === target?.to);
    if (other === undefined || other.key === null) return [];
    const key = fieldAt(other, other.key) as KnownField;
    const [mine, theirs] = [valueField(field), valueField(key)];
    const unlike = readingFacets.filter((facet) => mine.facets[facet] !== theirs.facets[facet]);
    if (mine.kind !== theirs.kind)
      return [
        unfit(subject, field, other.ruleset, key.path, `is of the kind ${theirs.kind}, the reference of ${mine.kind}`),
      ];
    if (unlike.length > 0)
      return [unfit(subject, field, other.ruleset, key.path, `has another ${listed(unlike)} than the reference`)];
    const found = unfitKey(subject, field, other, key);
    return found === null ? [] : [found];
  });
}

/** A key that the other ruleset allows, and that breaks a facet of the reference. */
function unfitKey(subject: Subject, field: KnownField, other: Subject['model'], key: KnownField): Finding | null {
  const reasoner = new Reasoner(other, subject.languages);
  const kept = facetsOf(other.constraints, key.path);
  for (const rule of facetsOf(subject.model.constraints, field.path)) {
    if (!ofValues.includes(rule.predicate.op)) continue;
    const predicate = readdressed(rule.predicate, field.path, key.path);
    const found = reasoner.decide(kept, { together: [{ predicate, is: 'false' }, givenWish(key.path)] });
    if (found.is !== 'possible') continue;
    const value = valueAt(found.example.row, key.path);
    const example = { words: `a key of ${other.ruleset}`, value };
    return unfit(
      subject,
      field,
      other.ruleset,
      key.path,
      `allows what breaks ${saying(rule, subject)}`,
      [example],
      rule,
    );
  }
  return null;
}

function facetsOf(constraints: readonly Constraint[], path: Path): readonly Constraint[] {
  return constraints.filter(({ owner, facet, predicate }) => facet && owner === path && !isLookup(predicate));
}

/** A facet's predicate, as if it had been said of the other field. */
function readdressed(predicate: Predicate, from: Path, to: Path): Predicate {
  const changed = (part: unknown): unknown => {
    if (Array.isArray(part)) return part.map(changed);
    if (typeof part !== 'object' || part === null) return part;
    const isField = 'term' in part && part.term === 'field' && 'path' in part && part.path === from;
    return isField
      ? { ...part, path: to }
      : Object.fromEntries(Object.entries(part).map(([name, inner]) => [name, changed(inner)]));
  };
  return changed(predicate) as Predicate;
}

function unfit(
  subject: Subject,
  field: KnownField,
  target: string,
  key: Path,
  how: string,
  examples: readonly Example[] = [],
  rule: Constraint | null = null,
): Finding {
  return findingOf(subject, {
    code: 'reference_unfit',
    severity: 'error',
    about: field,
    rules: rule === null ? [] : [rule],
    message: `${subject.model.ruleset}.${field.path} can't hold every key of ${target}.`,
    proof: `The key ${target}.${key} ${how}.`,
    examples,
    mend: `Give the reference the key's own rules, as reference(${target}) does${rule === null ? '' : `, or correct ${nameOf(rule)}`}.`,
  });
}
