import { isTextual, type KnownField, kindOf } from '../../kinds/index.js';
import type { Constraint, Value } from '../../model/index.js';
import { type FieldCode, facetStatements, failure, ownConstraints, type Place, pointerJs, refusal } from './code.js';
import { fastTest } from './fast.js';
import { joinedName } from './names.js';
import { printJs } from './print.js';
import { type Scope, variableOf } from './scope.js';
import { all, any, binary, call, type Js, literal, name, nothing, type Statement, unread } from './tree.js';
import { isOverLimits, readJs } from './types.js';

/** A field with a value of its own. */
export function valueCode(field: KnownField, place: Place): FieldCode {
  const { making } = place.scope;
  const { raw } = place;
  const variable = variableOf(making, field);
  const value = name(variable);
  const pointer = pointerJs(place.pointer);
  const own = ownConstraints(making, field.path);
  const size = isTextual(field) ? making.names.take(joinedName(field.path, 'size')) : null;
  const scope: Scope = {
    ...place.scope,
    given: new Set([field.path]),
    sizes: new Map(size === null ? [] : [[field.path, size]]),
  };
  const read: Statement = { set: variable, is: readJs(field, raw) };
  const fast = place.atOnce ? fastTest(field, value, own, scope) : null;
  const measured = size === null ? { declares: [], statements: [] } : measure(variable, size);
  const unfit =
    fast?.decides != null && fast.direct ? { constraint: fast.decides, where: binary(value, '===', raw) } : null;
  const chain = judgeStatements(field, own, { ...scope, unfit }, value, raw, pointer);
  const code = {
    value,
    isAbsent: absentJs(field, value),
    fills: defaultStatements(field, raw, place.scope),
    empties: missingFromForm(field) === null ? [] : [{ set: variable, is: nothing }],
  };
  if (fast === null) {
    return { ...code, declares: [variable, ...measured.declares], read: [read, ...measured.statements], judge: chain };
  }
  const isText = binary({ name: `typeof ${printJs(value)}` }, '===', literal('string'));
  const slowly = [...(fast.direct ? [read] : []), ...withConstants(measured), ...chain];
  return {
    ...code,
    declares: [variable],
    read: [fast.direct ? { set: variable, is: raw } : read],
    judge: [{ when: { not: all(isText, fast.holds) }, does: slowly }],
  };
}

function missingFromForm(field: KnownField): Value {
  return kindOf(field).whenMissingFromForm(field);
}

/** An unticked box of a form is not there either. */
function absentJs(field: KnownField, value: Js): Js {
  const missing = missingFromForm(field);
  const isNull = binary(value, '===', nothing);
  return missing === null ? isNull : any(isNull, all(name('form'), binary(value, '===', literal(missing))));
}

interface Measured {
  readonly declares: readonly string[];
  readonly statements: readonly Statement[];
}

/** A text's length; what is damaged becomes refused. */
function measure(variable: string, size: string): Measured {
  return {
    declares: [size],
    statements: [
      { set: size, is: call('measure', name(variable)) },
      { when: binary(name(size), '!==', name(size)), does: [{ set: variable, is: unread }] },
    ],
  };
}

function withConstants({ statements }: Measured): readonly Statement[] {
  return statements.map((statement) =>
    'set' in statement ? { constant: statement.set, is: statement.is } : statement,
  );
}

function judgeStatements(
  field: KnownField,
  own: readonly Constraint[],
  scope: Scope,
  value: Js,
  raw: Js,
  pointer: Js,
): readonly Statement[] {
  const required = own.filter(({ predicate }) => predicate.op === 'given').map((one) => failure(one, pointer));
  const rest = facetStatements(own, scope, pointer);
  const absent = binary(value, '===', nothing);
  const present: readonly Statement[] =
    required.length > 0
      ? [{ when: absent, does: required, ...(rest.length > 0 ? { otherwise: rest } : {}) }]
      : rest.length > 0
        ? [{ when: binary(value, '!==', nothing), does: rest }]
        : [];
  const refused = refusal(scope.making, field, isOverLimits(field, raw), pointer);
  return [{ when: binary(value, '===', unread), does: refused, ...(present.length > 0 ? { otherwise: present } : {}) }];
}

/** Fills a missing key of a whole record. */
function defaultStatements(field: KnownField, raw: Js, scope: Scope): readonly Statement[] {
  if (field.default === null) return [];
  const variable = variableOf(scope.making, field);
  const isMissing = all(
    binary(name(variable), '===', nothing),
    binary(raw, '===', unread),
    binary(name('sent'), '===', unread),
  );
  return [{ when: isMissing, does: [{ set: variable, is: literal(field.default) }] }];
}
