import { isScalar } from '../../kinds/index.js';
import { allFields, type Constraint, type Field, listsOf, type Model, type Path } from '../../model/index.js';
import { all, any, type Formula, negated, present } from './formula.js';
import { givenOf, isEmpty, type Lowering, truthsOf } from './lower.js';

/** The records that a path leads through and that may be absent, outermost first. */
function optionalRecords(path: Path, lowering: Lowering): readonly Path[] {
  const steps = path.split('.');
  const above = steps.slice(0, -1).map((_, at) => steps.slice(0, at + 1).join('.'));
  return above.filter((one) => {
    const field = lowering.space.field(one);
    return field.fields !== null && field.optional;
  });
}

/** Where a constraint is judged at all: at an item that there is, in a record that is not absent. */
function judgedAt(constraint: Constraint, lowering: Lowering): Formula {
  const place = constraint.facet ? constraint.owner : '';
  const item = constraint.over === null ? constraint.owner : `${constraint.over}[]`;
  const lists = [...new Set([...listsOf(item), ...(place === '' ? [] : listsOf(place))])];
  return all(
    ...lists.map((list) => negated(isEmpty(list, lowering))),
    ...(place === '' ? [] : optionalRecords(place, lowering).map(present)),
  );
}

/** That a constraint is not broken. */
export function keptFormula(constraint: Constraint, lowering: Lowering): Formula {
  const judged = judgedAt(constraint, lowering);
  return any(negated(judged), missed(constraint, lowering), truthsOf(constraint.predicate, lowering).notFalse);
}

/** That a constraint is broken. */
export function brokenFormula(constraint: Constraint, lowering: Lowering): Formula {
  const judged = judgedAt(constraint, lowering);
  return all(judged, negated(missed(constraint, lowering)), truthsOf(constraint.predicate, lowering).isFalse);
}

/** A derived value is asked for only where all that it is worked out from is there. */
function missed({ predicate, facet, owner, blame, subjects }: Constraint, lowering: Lowering): Formula {
  if (predicate.op !== 'given' || !facet || owner === blame) return false;
  return any(...subjects.map((path) => negated(givenOf(path, lowering))));
}

/** What holds of every record by its shape: what is in an absent record, or in no item, is absent. */
export function shapeFormulas(model: Model, lowering: Lowering): readonly Formula[] {
  return allFields(model).flatMap((field) => [...recordShape(field, lowering), ...itemShape(field, lowering)]);
}

function recordShape(field: Field, lowering: Lowering): readonly Formula[] {
  if (field.fields === null || !field.optional) return [];
  const inside = filledIn(field, lowering);
  const there = present(field.path);
  return [any(negated(there), ...inside), ...inside.map((one) => any(negated(one), there))];
}

/** What is there where something is in a record: a value, through the records in it, or an item of a list. */
function filledIn(field: Field, lowering: Lowering): readonly Formula[] {
  return Object.values(field.fields ?? {}).flatMap((inner) => {
    if (inner.fields !== null) return filledIn(inner, lowering);
    return [inner.item === null ? present(inner.path) : negated(isEmpty(inner.path, lowering))];
  });
}

function itemShape(field: Field, lowering: Lowering): readonly Formula[] {
  if (!isScalar(field) || field.derivation !== null) return [];
  return listsOf(field.path).map((list) => any(negated(present(field.path)), negated(isEmpty(list, lowering))));
}
