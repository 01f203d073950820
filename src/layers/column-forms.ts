import { parse } from 'postgres-array';
import { decodeValue, type KnownField, sampleOf, valuesOf } from '../core/kinds/index.js';
import type { ColumnForm, Value } from '../core/model/index.js';
import { tableTargets } from '../core/targets/index.js';
import { arrayText } from './array-text.js';

/** A column that holds a field's values in a form of its own: a truth as `Y` and `N`, a day as a number, a list as an array. */
export interface ColumnSpelling {
  /** The column's name, where it is not the declared one. */
  readonly column?: string;
  /** What the column holds for a value of the field. It is never called for null, or for what is no value of the field. */
  // The value is of the field's own kind, which the name of a field does not give.
  // biome-ignore lint/suspicious/noExplicitAny: a function of a text alone has its place here, too
  readonly write?: (value: any) => string | number | boolean;
  /** The value that the column's text is. */
  readonly read?: (text: string) => unknown;
  /** PostgreSQL: a list as an array of the entries' column type. */
  readonly as?: 'array';
}

/** What is wrong with a column's spelling, in words; null where nothing is. */
export function misspelled(field: KnownField, spelling: string | ColumnSpelling, engine: string): string | null {
  if (typeof spelling === 'string') return null;
  const { write, read, as } = spelling;
  if ((write === undefined) !== (read === undefined)) return `names: ${field.path} needs write and read, both`;
  if (as === undefined) return write === undefined || read === undefined ? null : lossOf(field, write, read);
  if (engine !== 'postgresql') return `names: ${field.path} as an array: only PostgreSQL has such columns`;
  return field.item === null || field.item.item !== null || field.item.fields !== null
    ? `names: ${field.path} as an array: it is no list of single values`
    : null;
}

/** So many values of a field are written and read before anything is probed. */
const SAMPLES = 4;

/** Why a form does not give back what it is given, in words; null where it does, as far as samples show. */
function lossOf(
  field: KnownField,
  write: NonNullable<ColumnSpelling['write']>,
  read: NonNullable<ColumnSpelling['read']>,
): string | null {
  for (let seed = 0; seed < SAMPLES; seed += 1) {
    const value = sampleOf(field, seed);
    const shown = JSON.stringify(value);
    try {
      const back = JSON.stringify(read(String(write(value))));
      if (back !== shown) return `names: ${field.path}: write and read make ${back} of ${shown}`;
    } catch (error) {
      return `names: ${field.path}: write and read fail on ${shown}: ${error instanceof Error ? error.message : error}`;
    }
  }
  return null;
}

/** How a field's column spells values; null where it is the engine's usual way. */
export function columnFormOf(field: KnownField, spelling: string | ColumnSpelling): ColumnForm | null {
  if (typeof spelling === 'string') return null;
  const { write, read, as } = spelling;
  if (as === 'array') return arrayOf(field);
  if (write === undefined || read === undefined) return null;
  return {
    write: (value) => (isValueOf(field, value) ? write(value) : undefined),
    read: readable((text) => (read(text) ?? null) as Value),
  };
}

/** What can't be read is what is stored: no value of the field. */
function readable(read: (text: string) => Value): ColumnForm['read'] {
  return (text) => {
    try {
      return read(text);
    } catch {
      return text;
    }
  };
}

/** True for a value of the field's kind, and of a choice for one of its codes. */
function isValueOf(field: KnownField, value: unknown): boolean {
  const few = valuesOf(field);
  return 'value' in decodeValue(field, value, 'row') && (few === null || (few as readonly unknown[]).includes(value));
}

function arrayOf({ item }: KnownField): ColumnForm {
  const entry = item as KnownField;
  const { wire } = tableTargets.postgresql;
  return {
    write(value) {
      const entries = Array.isArray(value) ? (value as readonly unknown[]) : [];
      if (!entries.every((one) => one === null || isValueOf(entry, one))) return undefined;
      return arrayText(entries.map((one) => (one === null ? null : String(wire.bind(entry, one)))));
    },
    read: readable((text) => parse(text, (one) => wire.read(entry, one))),
  };
}
