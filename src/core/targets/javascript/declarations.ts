import type { Schema } from '../../declare/index.js';
import type { KnownField } from '../../kinds/index.js';
import { wordsOf } from '../../meaning/index.js';
import { fieldAt } from '../../model/index.js';
import { sentFields } from './code.js';
import { joinedName } from './names.js';
import { printKey } from './print.js';
import { typeTextOf } from './types.js';

type Fields = { readonly [name: string]: KnownField };

/** The declarations beside a module. */
export function typesText(model: Schema[number]): string {
  const ruleset = joinedName(model.ruleset);
  const type = `${ruleset.charAt(0).toUpperCase()}${ruleset.slice(1)}`;
  const words = Object.entries(wordsOf(model.fields)).map(([path, { hint, concealed, choices }]) => {
    const code = choices !== undefined && typeof choices[0]?.[0] === 'number' ? 'number' : 'string';
    const more = `${hint === null ? '' : '; readonly hint: string'}${concealed === undefined ? '' : '; readonly concealed: true'}${
      choices === undefined ? '' : `; readonly choices: readonly (readonly [${code}, string])[]`
    }`;
    return `  readonly ${printKey(path)}: { readonly label: string; readonly required: boolean${more} };`;
  });
  const derived = Object.values(model.fields).filter(({ derivation }) => derivation !== null);
  const asking = askingText(model);
  return `export interface Violation {
  /** An RFC 6901 JSON Pointer to the field. */
  readonly pointer: string;
  readonly rule: string;
  readonly message: string;
}

/** A canonical record: every field is there, absent is null. */
export interface ${type} ${recordType(model.fields, '')}

export type Checked<T = ${type}> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly violations: readonly Violation[] };

/** How a record came, and what it is checked with. */
export interface How {
  /** 'json' unless told. */
  readonly wire?: 'json' | 'form';
  /** A missing key means unchanged, null means cleared. */
  readonly partial?: boolean;
  /** Of a partial update, the stored record. */
  readonly existing?: object | null;
  /** Of a partial update by form, the paths of the fields that it showed. */
  readonly shown?: readonly string[];
  /** The machine's clock unless told: an ISO 8601 instant, and perhaps an IANA time zone. */
  readonly clock?: { readonly instant: string; readonly zone?: string };
  /** Who checks: the server unless told. */
  readonly on?: 'client' | 'server';
  /** Messages in another language, by rule. */
  readonly messages?: { readonly [rule: string]: string };
}

export declare const fields: {
${words.join('\n')}
};

export declare function check(input: unknown, how?: How & { readonly partial?: false }): Checked;
export declare function check(input: unknown, how: How): Checked<Partial<${type}>>;
/** Once more, as types are inferred from what stands last. */
export declare function check(input: unknown, how?: How & { readonly partial?: false }): Checked;
${asking}${derived.length === 0 ? '' : `export declare function derive(value: ${type}): ${derivedType(derived)};\n`}`;
}

/** What `checkAsync` takes: a function for each rule that asks someone else, with the types of its values. */
function askingText(model: Schema[number]): string {
  const functions = model.constraints.flatMap(({ predicate }) => {
    if (predicate.op !== 'asks') return [];
    const values = predicate.of.map((path, at) => `value${at + 1}: ${fieldType(fieldAt(model, path), '  ')}`);
    return [`  ${printKey(predicate.name)}(${values.join(', ')}): boolean | Promise<boolean>;`];
  });
  if (functions.length === 0) return '';
  return `/** What the server asks, by the names of rules. */
export interface LookUps {
${functions.join('\n')}
}

/** The same, and then what only the server can ask. */
export declare function checkAsync(input: unknown, how: How & { readonly lookUps: LookUps }): Promise<Checked>;
`;
}

function recordType(fields: Fields, indent: string): string {
  const lines = sentFields(fields).map((field) => {
    const optional = field.optional ? ' | null' : '';
    const side = field.enforcedIn.includes('client') && field.enforcedIn.includes('server') ? '' : '?';
    return `${indent}  readonly ${printKey(field.name)}${side}: ${fieldType(field, `${indent}  `)}${optional};`;
  });
  return `{\n${lines.join('\n')}\n${indent}}`;
}

function fieldType(field: KnownField, indent: string): string {
  if (field.fields !== null) return recordType(field.fields, indent);
  if (field.item === null) return typeTextOf(field);
  const item = fieldType(field.item, indent);
  return `readonly ${/ \| /.test(item) ? `(${item})` : item}[]`;
}

function derivedType(derived: readonly KnownField[]): string {
  const entries = derived.map((field) => `readonly ${printKey(field.name)}: ${typeTextOf(field)} | null`);
  return `{ ${entries.join('; ')} }`;
}
