import { itemKeyOf, type KnownField, kindOf, valueField } from '../../kinds/index.js';
import type { Model } from '../../model/index.js';
import { sentFields } from './code.js';
import { type Js, literal, name } from './tree.js';
import { readJs } from './types.js';

/** The shape of a record for reading a form: see the helper of that name. */
export function formShape(fields: { readonly [name: string]: KnownField }): Js {
  return { object: sentFields(fields).map((field) => [field.name, fieldShape(field)] as const) };
}

function fieldShape(field: KnownField): Js {
  if (field.fields !== null) return formShape(field.fields);
  if (field.item !== null) return { list: [fieldShape(field.item)] };
  if (!kindOf(valueField(field)).lastEntryCounts) return literal(0);
  return literal(kindOf(field).whenMissingFromForm(field) === null ? 1 : 2);
}

/** The shape of a record for merging: what records hold, which of them are optional, and what tells items apart. */
export function mergeShape(fields: { readonly [name: string]: KnownField }): Js {
  return { object: sentFields(fields).map((field) => [field.name, mergeField(field)] as const) };
}

function mergeField(field: KnownField): Js {
  if (field.fields !== null) {
    const optional = field.optional ? [['optional', literal(true)] as const] : [];
    return { object: [['fields', mergeShape(field.fields)], ...optional] };
  }
  const key = itemKeyOf(field);
  const keyed = key === null ? undefined : field.item?.fields?.[key];
  if (key === null || keyed === undefined || field.item?.fields == null) return { object: [] };
  return {
    object: [
      ['key', literal(key)],
      ['keyOf', { takes: 'raw, form', gives: readJs(keyed, name('raw')) }],
      ['fields', mergeShape(field.item.fields)],
    ],
  };
}

/** True where a form's names lead anywhere but to a field of their own name. */
export function isFlat({ fields }: Pick<Model, 'fields'>): boolean {
  return Object.values(fields).every((field) => field.fields === null && field.item === null);
}
