import { exactOf, isMultiple } from '../../core/model/index.js';

/** A JSON Schema of draft 2020-12, as far as its keywords are evaluated here. */
export interface SchemaNode {
  readonly [keyword: string]: unknown;
}

type Json = unknown;
type Check = (limit: never, value: Json, schema: SchemaNode, root: SchemaNode) => boolean;
/** A schema, or one that takes everything or nothing. */
type Node = SchemaNode | boolean;

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
const onList = (holds: (limit: never, list: readonly Json[], root: SchemaNode) => boolean): Check => {
  return (limit, value, _, root) => !Array.isArray(value) || holds(limit, value, root);
};
const lengthOf = (text: string) => [...text].length;

/** Objects with the same members are the same in any order. */
function sortedText(value: Json): string {
  if (Array.isArray(value)) return `[${value.map(sortedText).join()}]`;
  if (!isObject(value)) return JSON.stringify(value);
  const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return `{${entries.map(([name, inner]) => `${JSON.stringify(name)}:${sortedText(inner)}`).join()}}`;
}

/** The vocabulary that is made from rules, and that of the schemas that are published here: another keyword is an error. */
const checks: { readonly [keyword: string]: Check } = {
  type: (types: string | readonly string[], value) => [types].flat().some((type) => isType[type]?.(value) === true),
  enum: (among: readonly Json[], value) => among.some((one) => sortedText(one) === sortedText(value)),
  const: (only: Json, value) => sortedText(only) === sortedText(value),
  properties: (properties: { readonly [name: string]: Node }, value, _, root) =>
    !isObject(value) ||
    Object.entries(properties).every(([name, node]) => !Object.hasOwn(value, name) || holds(node, value[name], root)),
  required: (names: readonly string[], value) => !isObject(value) || names.every((name) => Object.hasOwn(value, name)),
  additionalProperties: (node: Node, value, { properties = {} }, root) =>
    !isObject(value) ||
    Object.entries(value).every(
      ([name, inner]) => Object.hasOwn(properties as object, name) || holds(node, inner, root),
    ),
  items: onList((node: Node, list, root) => list.every((one) => holds(node, one, root))),
  contains: onList((node: Node, list, root) => list.some((one) => holds(node, one, root))),
  minItems: onList((least: number, list) => list.length >= least),
  maxItems: onList((most: number, list) => list.length <= most),
  uniqueItems: onList((must: boolean, list) => !must || new Set(list.map(sortedText)).size === list.length),
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
  allOf: (all: readonly Node[], value, _, root) => all.every((node) => holds(node, value, root)),
  anyOf: (any: readonly Node[], value, _, root) => any.some((node) => holds(node, value, root)),
  oneOf: (one: readonly Node[], value, _, root) => one.filter((node) => holds(node, value, root)).length === 1,
  not: (node: Node, value, _, root) => !holds(node, value, root),
  if: (node: Node, value, { then: yes = true, else: no = true }, root) =>
    holds((holds(node, value, root) ? yes : no) as Node, value, root),
  $ref: (pointer: string, value, _, root) => holds(referred(pointer, root), value, root),
};
const annotations = ['$schema', '$id', '$comment', '$defs', 'title', 'description', 'format', 'then', 'else'];

/** The part of a schema that a pointer within it (RFC 6901) leads to. */
function referred(pointer: string, root: SchemaNode): Node {
  if (!pointer.startsWith('#')) throw new Error(`the reference ${pointer} leads out of the schema`);
  const steps = decodeURIComponent(pointer.slice(1)).split('/').slice(1);
  const found = steps.reduce<unknown>(
    (node, step) => (node as SchemaNode | undefined)?.[step.replaceAll('~1', '/').replaceAll('~0', '~')],
    root,
  );
  if (found === undefined) throw new Error(`the reference ${pointer} leads nowhere`);
  return found as Node;
}

function holds(node: Node, value: Json, root: SchemaNode): boolean {
  return typeof node === 'boolean' ? node : isValid(node, value, root);
}

/** True where a document is valid by a schema. @throws Error for a keyword that is not evaluated here */
export function isValid(schema: SchemaNode, value: Json, root: SchemaNode = schema): boolean {
  return Object.entries(schema).every(([keyword, limit]) => {
    if (annotations.includes(keyword)) return true;
    const check = Object.hasOwn(checks, keyword) ? checks[keyword] : undefined;
    if (check === undefined) throw new Error(`the keyword ${keyword} is not evaluated`);
    return check(limit as never, value, schema, root);
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
