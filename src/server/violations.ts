import { type AnyRuleset, type Schema, schemaOf, targetsOf } from '../core/declare/index.js';
import { decide } from '../core/meaning/index.js';
import { english, fillIn, phrase } from '../core/messages/index.js';
import { type Constraint, pointerToPath, type Row, type Violation, valueAt } from '../core/model/index.js';
import { blameOf, namesOf, type Refusal, refusalOf, refusedWords } from './database-errors/index.js';

type Model = Schema[number];

export interface ViolationOptions {
  /** The record that was written, in canonical form: what the engine doesn't name is found by checking it again. */
  readonly record?: { readonly [field: string]: unknown };
  /** The rulesets of the same database: who refers to a record that can't go, and what references look up. */
  readonly rulesets?: readonly AnyRuleset[];
  /** Messages in another language, by rule, as `messagesIn` gives them. */
  readonly messages?: { readonly [rule: string]: string };
}

/**
 * A driver's error as the violations that the validator gives: NOT NULL, unique, CHECK, foreign key, too long, out of
 * range, text that a type can't read. Any driver of PostgreSQL, MariaDB or SQLite, however the error was wrapped.
 *
 * @throws the very error, where it says of no rule that it was broken
 */
export function violationsFrom(
  error: unknown,
  ruleset: AnyRuleset,
  options: ViolationOptions = {},
): readonly Violation[] {
  const schema = schemaFor(ruleset, options.rulesets);
  const model = modelIn(schema, ruleset.name);
  // A trigger of another ruleset's table may name its rule.
  const refusal = refusalOf(error, new Map(schema.flatMap((one) => [...namesOf(one)])));
  if (refusal === null) throw error;
  return violationsOf(refusal, model, schema, options);
}

/** The rulesets of a database put together; one alone where those that it refers to are not given. */
export function schemaFor(ruleset: AnyRuleset, rulesets: readonly AnyRuleset[] = []): Schema {
  const all = [ruleset, ...rulesets.filter(({ name }) => name !== ruleset.name)];
  const names = all.map(({ name }) => name);
  const whole = all.every(({ model }) => targetsOf(model).every((target) => names.includes(target)));
  return whole ? schemaOf(all) : all.map(({ model }) => model);
}

export function modelIn(schema: Schema, name: string): Model {
  const model = schema.find(({ ruleset }) => ruleset === name);
  if (model === undefined) throw new Error(`no ruleset ${name} in the schema`);
  return model;
}

type Messages = ViolationOptions['messages'];

/** In the language of the messages that are given. */
export function inWords(violations: readonly Violation[], messages: Messages): readonly Violation[] {
  return violations.map((one) => ({ ...one, message: messages?.[one.rule] ?? one.message }));
}

/**
 * What a record breaks by itself: all but what the stored rows would have to tell.
 *
 * @param isChange it is put in the place of a stored one
 */
export function faultsOf(model: Model, record: Row, isChange = false): readonly Violation[] {
  const verdict = decide(model, isChange ? sentOf(model, record) : record, 'row');
  const found = 'refused' in verdict ? verdict.refused : [];
  return isChange ? found.filter(({ rule }) => !isOfKeptSecret(rule, model)) : found;
}

/** A record that was read and is written again, without what the store fills. */
function sentOf({ fields, key }: Model, record: Row): Row {
  const isSentBack = ([name]: readonly [string, unknown]) =>
    Object.hasOwn(fields, name) ? fields[name]?.generated === null : !(key === null && name === 'id');
  return Object.fromEntries(Object.entries(record).filter(isSentBack));
}

/** True for the rule that a secret must be there: one that is not sent stays as it is stored. */
function isOfKeptSecret(rule: string, { ruleset, fields }: Model): boolean {
  return Object.values(fields).some(({ path, concealed }) => concealed && rule === `${ruleset}.${path}.required`);
}

/** The violations of one refusal: the rule that the engine names, and all that the record breaks by itself. */
export function violationsOf(
  refusal: Refusal,
  model: Model,
  schema: Schema,
  { record, messages }: Pick<ViolationOptions, 'record' | 'messages'>,
  isChange = false,
): readonly Violation[] {
  const found = record === undefined ? [] : faultsOf(model, record as Row, isChange);
  const { pointer, rule } = blameOf(refusal, model);
  const named = model.constraints.find(({ id }) => id === rule);
  if (named !== undefined && pointer !== null) {
    const told = { pointer, rule: named.id, message: named.message };
    // The record knows which item of a list it was. Of a value that is none of its kind, what an engine made of it
    // breaks no rule that mentions it.
    const mentioned = typedOf(model, (path) => named.subjects.includes(path));
    const isTold = (one: Violation) => one.rule === named.id || mentioned.some(({ id }) => id === one.rule);
    const all = found.some(isTold) ? found : inOrder([...found, told], model);
    return inWords(all, messages);
  }
  if (found.length > 0) return inWords(found, messages);
  if (refusal.kind === 'foreignKey') return [referring(refusal, model, schema, { record, messages })];
  const isValue = refusal.kind === 'type' || refusal.kind === 'length';
  const [typed] = isValue ? typedOf(model, (path) => pointerToPath(path) === pointer) : [];
  if (pointer !== null && typed !== undefined)
    return inWords([{ pointer, rule: typed.id, message: typed.message }], messages);
  return [refused(model, pointer ?? '', messages)];
}

/** The rules that what comes in is of its field's kind, of the fields that are asked for. */
function typedOf(model: Model, isAsked: (path: string) => boolean): readonly Constraint[] {
  return model.constraints.filter(({ predicate }) => predicate.op === 'typed' && isAsked(predicate.of));
}

/** What no rule of the ruleset explains. */
function refused({ ruleset }: Model, pointer: string, messages: Messages): Violation {
  const rule = `${ruleset}.refused`;
  return { pointer, rule, message: messages?.[rule] ?? refusedWords };
}

/** A foreign key: this record refers to none that is there, or others refer to it, which can't go. */
function referring(
  { constraint }: Refusal,
  model: Model,
  schema: Schema,
  { record, messages }: Pick<ViolationOptions, 'record' | 'messages'>,
): Violation {
  if (constraint !== null || record === undefined) {
    const who = schema.find((other) => constraint !== null && namesOf(other).has(constraint.toLowerCase()));
    return inUse(model, who?.label ?? null, messages);
  }
  const given = model.constraints.filter(
    ({ predicate }) =>
      predicate.op === 'refersTo' && !predicate.of.includes('[]') && valueAt(record as Row, predicate.of) !== null,
  );
  const [only, ...others] = given;
  if (only === undefined || others.length > 0) return refused(model, '', messages);
  return { pointer: pointerToPath(only.blame), rule: only.id, message: messages?.[only.id] ?? only.message };
}

/** What is told where a record can't go, as others refer to it: who does, where the engine says it. */
export function inUse({ ruleset }: Model, by: string | null, messages: Messages): Violation {
  const key = by === null ? 'inUse' : 'inUse.by';
  const limit = by ?? '';
  const said = messages?.[`${ruleset}.${key}`];
  const message = said === undefined ? phrase(english, { keys: [key], label: '', limit }) : fillIn(said, '', limit);
  return { pointer: '', rule: `${ruleset}.inUse`, message };
}

/** In the order in which the validator tells them, each once. */
export function inOrder(violations: readonly Violation[], model: Model): readonly Violation[] {
  const once = [...new Map(violations.map((one) => [`${one.rule} ${one.pointer}`, one])).values()];
  const order = new Map(model.constraints.map(({ id }, at) => [id, at]));
  return once.sort((a, b) => (order.get(a.rule) ?? Infinity) - (order.get(b.rule) ?? Infinity));
}
