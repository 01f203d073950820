import type { KnownField } from '../../kinds/index.js';
import { pointerToPath } from '../../model/index.js';
import { mentionsOf } from '../../operators/index.js';
import { facetStatements, failure, guarded, ownConstraints } from './code.js';
import { type Making, scopeOf, valueJs, variableOf } from './scope.js';
import { termCode } from './terms.js';
import { all, binary, type Js, literal, name, nothing, type Statement, unread } from './tree.js';
import { readJs } from './types.js';

/** A derived field: worked out where all that it needs could be read, and judged at the first field that it needs. */
export function derivedStatements(field: KnownField, making: Making): readonly Statement[] {
  const { derivation } = field;
  if (derivation === null) return [];
  const scope = scopeOf(making);
  const operands = mentionsOf(derivation).map((path) => valueJs(path, scope));
  const variable = variableOf(making, field);
  const own = ownConstraints(making, field.path);
  const pointer = literal(pointerToPath(own[0]?.blame ?? mentionsOf(derivation)[0] ?? ''));
  const isRead = all(...operands.map((operand) => binary(operand, '!==', unread)));
  const required = own.filter(({ predicate }) => predicate.op === 'given');
  const allThere = all(...operands.map((operand) => binary(operand, '!==', nothing)));
  const facets = facetStatements(own, { ...scope, given: new Set([field.path]) }, pointer);
  return [
    { constant: variable, is: { when: isRead, yes: termCode(derivation, scope).js, no: unread } },
    ...required.flatMap((one) =>
      guarded(one.enforcedIn, [{ when: all(allThere, isAbsent(variable)), does: [failure(one, pointer)] }]),
    ),
    ...(facets.length === 0
      ? []
      : [{ when: all(binary(name(variable), '!==', unread), binary(name(variable), '!==', nothing)), does: facets }]),
  ];
}

function isAbsent(variable: string): Js {
  return binary(name(variable), '===', nothing);
}

/** The text of the function that works derived fields out from an accepted record. */
export function deriveBody(fields: readonly KnownField[], making: Making): readonly Statement[] {
  const scope = scopeOf(making);
  const operands = [
    ...new Set(fields.flatMap(({ derivation }) => (derivation === null ? [] : mentionsOf(derivation)))),
  ];
  const reads = operands.map((path): Statement => {
    const steps = path.split('.');
    const value = steps.reduce<Js>((record, step) => ({ call: 'at', of: [record, literal(step)] }), name('value'));
    return { constant: making.variables.get(path) ?? path, is: value };
  });
  const values = fields.map((field): readonly [string, Js] => {
    const text = field.derivation === null ? nothing : termCode(field.derivation, scope).js;
    // A form's spelling is plain text for every kind, and so reads what arithmetic gives.
    return [field.name, readJs(field, { call: 'asText', of: [text] })];
  });
  return [...reads, { constant: 'form', is: literal(true) }, { returns: { object: values } }];
}
