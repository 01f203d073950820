import type { KnownField } from '../../kinds/index.js';
import { failure, rawOf, sentFields } from './code.js';
import { joinedName } from './names.js';
import { constantOf, type Making } from './scope.js';
import { all, binary, call, type Js, literal, name, type Statement, unread } from './tree.js';

/** What tells a key that is not declared; the test that it is one. */
function telling(
  making: Making,
  fields: { readonly [name: string]: KnownField },
  pointer: readonly (string | Js)[],
  ignored: readonly string[],
): Statement | null {
  const constraint = making.model.constraints.find(({ predicate }) => predicate.op === 'closed');
  if (constraint === undefined || making.model.undeclared === 'drop') return null;
  const names = sentFields(fields).map((field) => field.name);
  const declared = constantOf(making, joinedName('declared'), call('new Set', literal([...names, ...ignored])));
  const key = name('key');
  const at: Js = pointer.length === 0 ? call('pointerTo', key) : { parts: [...pointer, call('pointerTo', key)] };
  const isStrange: Js = { not: call(`${'name' in declared ? declared.name : ''}.has`, key) };
  return { when: isStrange, does: [failure(constraint, at)] };
}

/**
 * Tells the keys of a record that are not declared. They are only looked for where there are more keys than there are
 * fields given.
 */
export function strangeStatements(
  making: Making,
  record: Js,
  fields: { readonly [name: string]: KnownField },
  pointer: readonly (string | Js)[],
): readonly Statement[] {
  const tells = telling(making, fields, pointer, []);
  if (tells === null) return [];
  const raws = sentFields(fields).map((field) => rawOf(record, field.name));
  const keys = call('Object.keys', record);
  return [
    { when: binary(call('keysIn', record), '!==', givenOf(raws)), does: [{ key: 'key', of: keys, does: [tells] }] },
  ];
}

/** The same of the whole record; `strange` holds the keys to look at where that is known before. */
export function topStrangeStatements(
  making: Making,
  raws: readonly Js[],
  ignored: readonly string[],
): readonly Statement[] {
  const tells = telling(making, making.model.fields, [], ignored);
  if (tells === null) return [];
  const strange = name('strange');
  const isMore = all(binary(strange, '===', literal(null)), binary(name('count'), '!==', givenOf(raws)));
  return [
    { when: isMore, does: [{ set: 'strange', is: call('Object.keys', name('input')) }] },
    { when: binary(strange, '!==', literal(null)), does: [{ key: 'key', of: strange, does: [tells] }] },
  ];
}

/** How many of the fields are given. */
function givenOf(raws: readonly Js[]): Js {
  return { sum: [literal(0), ...raws.map((raw): Js => binary(raw, '!==', unread))] };
}
