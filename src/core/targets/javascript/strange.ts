import type { KnownField } from '../../kinds/index.js';
import { failure, rawOf, sentFields } from './code.js';
import { joinedName } from './names.js';
import { constantOf, type Making } from './scope.js';
import { binary, call, type Js, literal, name, type Statement, unread } from './tree.js';

/**
 * Tells the keys of a record that are not declared. They are only looked for where there are more keys than there are
 * fields given.
 */
export function strangeStatements(
  making: Making,
  record: Js,
  fields: { readonly [name: string]: KnownField },
  pointer: readonly (string | Js)[],
  ignored: readonly string[] = [],
): readonly Statement[] {
  const constraint = making.model.constraints.find(({ predicate }) => predicate.op === 'closed');
  if (constraint === undefined || making.model.undeclared === 'drop') return [];
  const names = sentFields(fields).map((field) => field.name);
  const declared = constantOf(making, joinedName('declared'), call('new Set', literal([...names, ...ignored])));
  const key = name('key');
  const given = names
    .map((one): Js => binary(rawOf(record, one), '!==', unread))
    .reduce((left, right) => binary(left, '+', right), literal(0));
  const at: Js = pointer.length === 0 ? call('pointerTo', key) : { parts: [...pointer, call('pointerTo', key)] };
  const isStrange: Js = { not: call(`${'name' in declared ? declared.name : ''}.has`, key) };
  return [
    {
      when: binary(call('keysIn', record), '!==', given),
      does: [{ key: 'key', of: record, does: [{ when: isStrange, does: [failure(constraint, at)] }] }],
    },
  ];
}
