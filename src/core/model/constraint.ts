import type { Enforcer, Field } from './field.js';
import type { Predicate } from './predicate.js';
import type { Path, Place, Row, Value } from './value.js';

/** The order in which a field's rules are told: what costs least first. */
export const stages = ['presence', 'form', 'comparison', 'lookup'] as const;
export type Stage = (typeof stages)[number];

/** A rule lowered to pure data. */
export interface Constraint {
  /** `<ruleset>.<field path>.<facet>` or `<ruleset>.<rule name>`: the error code everywhere. */
  readonly id: string;
  readonly place: Place;
  readonly stage: Stage;
  /** The fields it mentions. */
  readonly subjects: readonly Path[];
  /** The field its message appears at; '' is the record itself. */
  readonly blame: Path;
  /** True for a facet of a field, false for a named rule. */
  readonly facet: boolean;
  /** The field that a facet belongs to; '' for what holds of the record, and for a named rule. */
  readonly owner: Path;
  /** The list whose items a named rule is judged on one by one; null where it is judged once. */
  readonly over: Path | null;
  readonly predicate: Predicate;
  readonly enforcedIn: readonly Enforcer[];
  readonly message: string;
  /** What the message is made from, for other languages; null where the declaration says it in words of its own. */
  readonly phrase: { readonly keys: readonly string[]; readonly label: string; readonly limit: string } | null;
}

/** The functions that a server is given for rules that ask someone else, by the rules' names. */
export interface LookUps {
  // biome-ignore lint/suspicious/noExplicitAny: each takes the values of the fields that its rule lists
  readonly [rule: string]: (...values: any[]) => boolean | Promise<boolean>;
}

/** A plain function of a custom rule, called with the values of the fields that the rule lists. */
export type RuleFunction = (...values: readonly Value[]) => unknown;

/** The names of a table within: its own, of the column that says whose it is, and of that of an entry's place. */
export interface Home {
  readonly table?: string;
  readonly owner?: string;
  readonly position?: string;
}

/** One ruleset, lowered to data, but for the functions of its custom rules. Constraints in the order they are told. */
export interface Model<K extends string = string> {
  readonly ruleset: string;
  readonly table: string;
  readonly label: string;
  readonly place: Place;
  readonly key: Path | null;
  readonly called: Path | null;
  /** The IANA time zone that `today()` is read in. */
  readonly zone: string;
  /** Keys that are passed over: form tokens, button names. */
  readonly ignore: readonly string[];
  /** What becomes of keys that are not declared: refused, or passed over. */
  readonly undeclared: 'refuse' | 'drop';
  readonly fields: { readonly [name: string]: Field<K> };
  readonly constraints: readonly Constraint[];
  readonly functions: { readonly [rule: string]: RuleFunction };
  /** Tables of lists and records within that go by other names than those that are made up for them, by path. */
  readonly homes?: { readonly [path: Path]: Home };
  /** Look-up indexes that are no rules, by name. */
  readonly indexes: { readonly [name: string]: readonly Path[] };
}

/** Every field of a model by its path: records before what is in them, lists before their items. */
export function allFields<K extends string>(model: Pick<Model<K>, 'fields'>): readonly Field<K>[] {
  const inside = (field: Field<K>): readonly Field<K>[] => [
    field,
    ...Object.values(field.fields ?? {}).flatMap(inside),
    ...(field.item === null ? [] : inside(field.item)),
  ];
  return Object.values(model.fields).flatMap(inside);
}

/** A field of a model by its path. Throws on a path that the model hasn't got: that is a fault of ours. */
export function fieldAt<K extends string>(model: Pick<Model<K>, 'fields'> & { ruleset: string }, path: Path): Field<K> {
  const top = Object.hasOwn(model.fields, path) ? model.fields[path] : undefined;
  if (top !== undefined) return top;
  let field: Field<K> | undefined;
  let fields: Field<K>['fields'] = model.fields;
  for (const step of path.split('.')) {
    const name = step.replaceAll('[]', '');
    field = fields !== null && Object.hasOwn(fields, name) ? fields[name] : undefined;
    for (let depth = name.length; depth < step.length; depth += 2) field = field?.item ?? undefined;
    fields = field?.fields ?? null;
  }
  if (field === undefined) throw new Error(`no field ${path} in ${model.ruleset}`);
  return field;
}

/** The value of a field that is in no list; null where a record on the way is absent. */
export function valueAt(row: Row, path: Path): Value {
  if (!path.includes('.')) return Object.hasOwn(row, path) ? (row[path] ?? null) : null;
  let value: Value = row;
  for (const name of path.split('.')) {
    const record: Value = value;
    value =
      typeof record === 'object' && record !== null && Object.hasOwn(record, name)
        ? ((record as Row)[name] ?? null)
        : null;
  }
  return value;
}

/** The row with another value at a path that is in no list; records on the way are made where they are absent. */
export function withValue(row: Row, path: Path, value: Value): Row {
  if (!path.includes('.')) return { ...row, [path]: value };
  const [name = '', ...rest] = path.split('.');
  const record = Object.hasOwn(row, name) ? row[name] : null;
  const inner = typeof record === 'object' && record !== null ? (record as Row) : {};
  return { ...row, [name]: withValue(inner, rest.join('.'), value) };
}

/** The fields that are in no list, records taken apart: those with a value of their own, and lists. */
export function plainFields<K extends string>(model: Pick<Model<K>, 'fields'>): readonly Field<K>[] {
  const inside = (field: Field<K>): readonly Field<K>[] =>
    field.fields === null ? [field] : Object.values(field.fields).flatMap(inside);
  return Object.values(model.fields).flatMap(inside);
}
