import type { AcceptedOf, AnyRuleset } from '../declare/index.js';
import { type Code, choicesOf } from '../kinds/index.js';
import { type Catalogue, messageIn } from '../messages/index.js';
import {
  type Enforcer,
  isSent,
  type LookUps,
  type Model,
  type Row,
  type Verdict,
  type Violation,
  type Wire,
} from '../model/index.js';
import type { GivenClock } from './clock.js';
import { decide, decideAsking, type How } from './decide.js';
import { derive } from './derive.js';
import { storedRow } from './stored.js';

export type Checked<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly violations: readonly Violation[] };

/** How a record came, and what it is judged with. */
export interface CheckOptions {
  /** JSON unless told otherwise. */
  readonly wire?: Wire;
  /** A missing key means unchanged, null means cleared. */
  readonly partial?: boolean;
  /** Of a partial update, the stored record: with it, rules over several fields are judged on the merged record. */
  readonly existing?: Row | null;
  /** Of a partial update by form, the paths of the fields that it showed: an unticked box sends nothing. */
  readonly shown?: readonly string[];
  /** The machine's clock unless told. */
  readonly clock?: GivenClock;
  /** What `checkAsync` asks, by the names of rules. */
  readonly lookUps?: LookUps;
  /** Who checks: a server unless told. */
  readonly on?: 'client' | 'server';
}

export interface Validator<T> {
  /** Checks one record: the canonical value, or all that is broken. */
  check(input: unknown, how?: CheckOptions & { readonly partial?: false }): Checked<T>;
  /** A partial update: the merged record where the stored one is given, what was sent where it is not. */
  check(input: unknown, how: CheckOptions): Checked<Partial<T>>;
  /** Once more, as types are inferred from what stands last. */
  check(input: unknown, how?: CheckOptions & { readonly partial?: false }): Checked<T>;
  /**
   * The same, and then what the server must ask someone else about.
   *
   * @throws ProblemError `look_up_missing` where a rule's function is not among `lookUps`
   */
  checkAsync(input: unknown, how?: CheckOptions): Promise<Checked<T>>;
  /** The values of the fields that are worked out from a checked record. */
  derive(value: T): Row;
  /** A checked record as it is stored: secrets in the form that they are stored in, derived fields worked out. */
  stored(value: T): Promise<Row>;
  /** What a page needs of each field: label, hint, and the choices. */
  readonly fields: { readonly [path: string]: FieldWords };
}

export interface FieldWords {
  readonly label: string;
  readonly hint: string | null;
  readonly optional: boolean;
  /** What is typed is never shown. */
  readonly concealed?: true;
  readonly choices?: readonly (readonly [Code, string])[];
}

/**
 * Checks records in process, without a build step; the compiled module of the same ruleset answers the same.
 *
 * @param catalogue the language of the messages; English unless told
 */
export function validator<R extends AnyRuleset>({ model }: R, catalogue?: Catalogue): Validator<AcceptedOf<R>> {
  type T = AcceptedOf<R>;
  const how = ({ on = 'server', ...options }: CheckOptions): How => ({
    ...options,
    enforcers: [on] as readonly Enforcer[],
  });
  const answer = (verdict: Verdict): Checked<T> => {
    if ('accepted' in verdict) return { ok: true, value: verdict.accepted as T };
    return { ok: false, violations: catalogue === undefined ? verdict.refused : verdict.refused.map(translated) };
  };
  const messages = catalogue === undefined ? {} : messagesIn({ model }, catalogue);
  const translated = (violation: Violation) => ({
    ...violation,
    message: messages[violation.rule] ?? violation.message,
  });
  return {
    check: (input: unknown, { wire = 'json', ...options }: CheckOptions = {}) =>
      answer(decide(model, input, wire, how(options))),
    checkAsync: async (input, { wire = 'json', ...options } = {}) =>
      answer(await decideAsking(model, input, wire, how(options))),
    derive: (value) => derive(model, value as Row),
    stored: (value) => storedRow(model, value as Row),
    fields: wordsOf(model.fields),
  };
}

/**
 * The messages of a ruleset in a language, by rule: what a compiled module takes as `messages`, and what a server says
 * of a refused write.
 */
export function messagesIn(
  { model }: Pick<AnyRuleset, 'model'>,
  catalogue: Catalogue,
): { readonly [rule: string]: string } {
  const database = ['inUse', 'inUse.by', 'refused'] as const;
  return Object.fromEntries([
    ...model.constraints.map((one) => [one.id, messageIn(catalogue, model.ruleset, one)] as const),
    ...database.map((key) => [`${model.ruleset}.${key}`, String(catalogue.words[key])] as const),
  ]);
}

/** Labels, hints and choices of every field that somebody sends, by path. */
export function wordsOf(fields: Model['fields']): { readonly [path: string]: FieldWords } {
  const words: { [path: string]: FieldWords } = {};
  const visit = (field: Model['fields'][string]): void => {
    if (!isSent(field)) return;
    const { path, label, hint, optional, concealed } = field;
    const choices = choicesOf(field);
    const more = { ...(concealed ? { concealed } : {}), ...(choices.length > 0 ? { choices } : {}) };
    words[path] = { label, hint, optional, ...more };
    for (const inner of Object.values(field.fields ?? {})) visit(inner);
    if (field.item !== null) visit(field.item);
  };
  for (const field of Object.values(fields)) visit(field);
  return words;
}
