import { exactOf, isMultiple } from '../../core/model/index.js';

/** A JSON Schema of draft 2020-12, as far as its keywords are evaluated here. */
export interface SchemaNode {
  readonly [keyword: string]: unknown;
}

type Json = unknown;
type Check = (limit: never, value: Json, schema: SchemaNode) => boolean;

const isObject = (value: Json): value is { readonly [name: string]: Json } =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isType: { readonly [type: string]: (value: Json) => boolean } = {
  object: isObject,
  array: Array.isArray,
  string: (value) => typeof value === 'string',
  number: (value) => typeof value === 'number',
  integer: (value) => Number.isInteger(value),
  boolean: (value) => typeof value === 'boolean',
  null: (value) => value === null,
};
const onText = (holds: (limit: never, text: string) => boolean): Check => {
  return (limit, value) => typeof value !== 'string' || holds(limit, value);
};
const onNumber = (holds: (limit: never, number: number) => boolean): Check => {
  return (limit, value) => typeof value !== 'number' || holds(limit, value);
};
const onList = (holds: (limit: never, list: readonly Json[]) => boolean): Check => {
  return (limit, value) => !Array.isArray(value) || holds(limit, value);
};
const lengthOf = (text: string) => [...text].length;

/** Objects with the same members are the same in any order. */
function sortedText(value: Json): string {
  if (Array.isArray(value)) return `[${value.map(sortedText).join()}]`;
  if (!isObject(value)) return JSON.stringify(value);
  const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return `{${entries.map(([name, inner]) => `${JSON.stringify(name)}:${sortedText(inner)}`).join()}}`;
}

/** The vocabulary that is made from rules, and no more: another keyword is an error. */
const checks: { readonly [keyword: string]: Check } = {
  type: (type: string, value) => isType[type]?.(value) === true,
  enum: (among: readonly Json[], value) => among.some((one) => sortedText(one) === sortedText(value)),
  const: (only: Json, value) => sortedText(only) === sortedText(value),
  properties: (properties: { readonly [name: string]: SchemaNode }, value) =>
    !isObject(value) ||
    Object.entries(properties).every(([name, schema]) => !Object.hasOwn(value, name) || isValid(schema, value[name])),
  required: (names: readonly string[], value) => !isObject(value) || names.every((name) => Object.hasOwn(value, name)),
  additionalProperties: (_: false, value, { properties = {} }) =>
    !isObject(value) || Object.keys(value).every((name) => Object.hasOwn(properties as object, name)),
  items: onList((schema: SchemaNode, list) => list.every((one) => isValid(schema, one))),
  contains: onList((schema: SchemaNode, list) => list.some((one) => isValid(schema, one))),
  minItems: onList((least: number, list) => list.length >= least),
  maxItems: onList((most: number, list) => list.length <= most),
  uniqueItems: onList((_: true, list) => new Set(list.map(sortedText)).size === list.length),
  pattern: onText((pattern: string, text) => new RegExp(pattern, 'u').test(text)),
  minLength: onText((least: number, text) => lengthOf(text) >= least),
  maxLength: onText((most: number, text) => lengthOf(text) <= most),
  minimum: onNumber((least: number, number) => number >= least),
  maximum: onNumber((most: number, number) => number <= most),
  exclusiveMinimum: onNumber((least: number, number) => number > least),
  exclusiveMaximum: onNumber((most: number, number) => number < most),
  multipleOf: onNumber((step: number, number) => {
    const [value, unit] = [exactOf(number), exactOf(step)];
    return value !== null && unit !== null && isMultiple(value, unit);
  }),
  allOf: (all: readonly SchemaNode[], value) => all.every((schema) => isValid(schema, value)),
  anyOf: (any: readonly SchemaNode[], value) => any.some((schema) => isValid(schema, value)),
  not: (schema: SchemaNode, value) => !isValid(schema, value),
};
const annotations = ['$schema', '$comment', 'title'];

/** True where a document is valid by a schema. @throws Error for a keyword that is not evaluated here */
export function isValid(schema: SchemaNode, value: Json): boolean {
  return Object.entries(schema).every(([keyword, limit]) => {
    if (annotations.includes(keyword)) return true;
    const check = Object.hasOwn(checks, keyword) ? checks[keyword] : undefined;
    if (check === undefined) throw new Error(`the keyword ${keyword} is not evaluated`);
    return check(limit as never, value, schema);
  });
}

/** Where a document is first found wrong: the members on the way; null where it is right. */
export function firstFault(schema: SchemaNode, value: Json): readonly string[] | null {
  if (isValid(schema, value)) return null;
  const { properties } = schema as { readonly properties?: { readonly [name: string]: SchemaNode } };
  for (const [name, inner] of Object.entries(properties ?? {})) {
    if (!isObject(value) || !Object.hasOwn(value, name)) continue;
    const fault = firstFault(inner, value[name]);
    if (fault !== null) return [name, ...fault];
  }
  return [];
}
