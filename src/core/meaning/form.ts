import { kindOf, valueField } from '../kinds/index.js';
import { type Field, isSent } from '../model/index.js';

/** What a form sent, put into the shape of the record: each value of its own is a list of entries. */
export interface Form {
  readonly tree: { readonly [name: string]: unknown };
  /** Names that lead to no field, as they were sent. */
  readonly unknownNames: readonly string[];
}

/** One place in the record: the entries that its own name brought, and what is within it by name or index, if anything. */
interface Node {
  entries: readonly unknown[];
  inner: Map<string, Node> | null;
}
type Fields = { readonly [name: string]: Field };
/** The names and indexes that lead to a field; null where there is none. */
type Way = readonly string[] | null;

/** A name, then `.name` or `[name]` any number of times; `[]` for one more item. */
const NAME = /^[^.[\]]+(?:\.[^.[\]]+|\[[^.[\]]*\])*$/;
const INDEX = /^(?:0|[1-9][0-9]{0,8})$/;

/**
 * Reads the names of a form. `shelf[bay]` and `shelf.bay` are one name; `helpers[0]` and `helpers.0` are an item, in the
 * order of their numbers, whose gaps are closed; `helpers` and `helpers[]`, any number of times, are items behind those.
 * An item of which all is blank (or an unticked box) is none.
 */
export function readForm(fields: Fields, input: { readonly [name: string]: unknown }): Form {
  const root: Node = { entries: [], inner: null };
  const unknownNames: string[] = [];
  for (const name of Object.keys(input)) {
    const entries = entriesOf(input[name]);
    // A name without an entry is not sent.
    if (entries.length === 0) continue;
    const way = wayOf(fields, name);
    if (way === null) unknownNames.push(name);
    else {
      const node = way.reduce(child, root);
      node.entries = node.entries.length === 0 ? entries : [...node.entries, ...entries];
    }
  }
  return { tree: recordOf(fields, root), unknownNames };
}

/** The field at the top that a name of a form leads to; null where it leads to none. */
export function topOf(fields: Fields, name: string): string | null {
  return wayOf(fields, name)?.[0] ?? null;
}

function wayOf(fields: Fields, name: string): Way {
  return NAME.test(name) ? wayTo(fields, stepsOf(name)) : null;
}

/** What came under one name, as the entries that they are. */
export function entriesOf(given: unknown): readonly unknown[] {
  return Array.isArray(given) ? given : given === undefined || given === null ? [] : [given];
}

function stepsOf(name: string): readonly string[] {
  return name.split(/\.|\]?\[|\]$/).slice(0, name.endsWith(']') ? -1 : undefined);
}

/** The way from the record to the field that steps lead to; null where they lead to none. */
function wayTo(fields: Fields, [first = '', ...rest]: readonly string[]): Way {
  const field = Object.hasOwn(fields, first) ? fields[first] : undefined;
  const way = field === undefined || !isSent(field) ? null : wayWithin(field, rest);
  return way === null ? null : [first, ...way];
}

function wayWithin(field: Field, [step, ...rest]: readonly string[]): Way {
  if (step === undefined) return [];
  if (field.fields !== null) return wayTo(field.fields, [step, ...rest]);
  if (field.item === null) return null;
  const isScalarItem = field.item.fields === null && field.item.item === null;
  if (step === '') return rest.length === 0 && isScalarItem ? [] : null;
  const way = INDEX.test(step) ? wayWithin(field.item, rest) : null;
  return way === null ? null : [step, ...way];
}

function child(node: Node, step: string): Node {
  node.inner ??= new Map();
  const known = node.inner.get(step);
  if (known !== undefined) return known;
  const fresh: Node = { entries: [], inner: null };
  node.inner.set(step, fresh);
  return fresh;
}

function recordOf(fields: Fields, { inner }: Node): { readonly [name: string]: unknown } {
  const record: { [name: string]: unknown } = {};
  for (const [name, node] of inner ?? []) record[name] = treeOf(fields[name] as Field, node);
  return record;
}

/** Text sent under the name of a record, or of a list of records, is not one, and refused when it is read. */
function treeOf(field: Field, node: Node): unknown {
  const { entries, inner } = node;
  if (field.fields !== null) return entries.find((entry) => !isBlankText(entry)) ?? recordOf(field.fields, node);
  const { item } = field;
  if (item === null) return entries;
  const byIndex = [...(inner ?? [])].sort(([a], [b]) => Number(a) - Number(b)).map(([, one]) => treeOf(item, one));
  const more = entries.filter((entry) => !isBlankText(entry));
  if (item.fields !== null || item.item !== null) return more[0] ?? byIndex.filter((one) => !isBlank(item, one));
  return [...byIndex, ...more.map((entry) => [entry])].filter((one) => !isBlank(item, one));
}

function isBlankText(entry: unknown): boolean {
  return typeof entry === 'string' && entry.trim() === '';
}

function isBlank(field: Field, tree: unknown): boolean {
  if (field.fields !== null) {
    const { fields } = field;
    if (typeof tree !== 'object' || tree === null) return false;
    return Object.entries(tree).every(([name, inner]) => isBlank(fields[name] as Field, inner));
  }
  if (field.item !== null) return Array.isArray(tree) && tree.length === 0;
  const isBox = kindOf(valueField(field)).lastEntryCounts;
  return Array.isArray(tree) && tree.every((entry) => isBlankText(entry) || (isBox && entry === 'false'));
}
