import { codesOf, type KnownField, type PerKind, valueField } from '../../kinds/index.js';
import { call, type Js, literal, name } from './tree.js';

/** How a kind is read in the module, and its TypeScript type in the declarations beside it. */
export interface ModuleType {
  /** From what came in (never null or undefined, nor '' off a form): undefined where refused, null where blank. */
  read(field: KnownField, raw: Js): Js;
  /** What a key means that is missing from a form. */
  missingFromForm(field: KnownField): null | boolean;
  readonly lastEntryCounts: boolean;
  typeText(field: KnownField): string;
}

const noValue = () => null;

export const types = {
  text: {
    read: (field, raw) => call(field.facets.lines === 'many' ? 'readLines' : 'readText', raw),
    missingFromForm: noValue,
    lastEntryCounts: false,
    typeText: () => 'string',
  },
  integer: {
    read: (_field, raw) => call('readInteger', raw, name('form')),
    missingFromForm: noValue,
    lastEntryCounts: false,
    typeText: () => 'number',
  },
  choice: {
    read: (_field, raw) => call('readCode', raw),
    missingFromForm: noValue,
    lastEntryCounts: false,
    typeText: (field) =>
      codesOf(field)
        .map((code) => JSON.stringify(code))
        .join(' | '),
  },
  date: {
    read: (_field, raw) => call('readDate', raw),
    missingFromForm: noValue,
    lastEntryCounts: false,
    typeText: () => 'string',
  },
  boolean: {
    read: (_field, raw) => call('readBoolean', raw, name('form')),
    missingFromForm: (field) => (field.optional ? null : false),
    lastEntryCounts: true,
    typeText: () => 'boolean',
  },
  reference: {
    read: (field, raw) => moduleType(field).read(valueField(field), raw),
    missingFromForm: (field) => moduleType(field).missingFromForm(valueField(field)),
    lastEntryCounts: false,
    typeText: (field) => moduleType(field).typeText(valueField(field)),
  },
} satisfies PerKind<ModuleType>;

/** The entry of the kind that says how the value is written: a reference's is its key's. */
export function moduleType(field: KnownField): ModuleType {
  return types[valueField(field).kind];
}

/** Reads one entry of the record: the form's own way of saying it first. */
export function readEntry(field: KnownField): Js {
  const type = moduleType(field);
  const missing = literal(type.missingFromForm(field));
  return call('entry', name('input'), literal(field.path), name('form'), missing, literal(type.lastEntryCounts));
}
