import { isNumeric, type KnownField } from '../../kinds/index.js';
import { exactOf, exactText, type Value } from '../../model/index.js';

/** A column's value as a driver hands it on. */
export type Column = string | number | bigint | boolean | null;

/** How the values of fields travel to an engine's columns and back. */
export interface RowWire {
  /** The mark of the n-th value (from 1) in a statement. */
  place(at: number): string;
  /** What stands in an INSERT of a row without values. */
  readonly emptyRow: string;
  /** What a driver binds for a value; anything that is not of the field's kind goes as it is. */
  bind(field: KnownField, value: unknown): unknown;
  /** From what the engine gives back to the kind's own value; anything else stays what it is. */
  read(field: KnownField, column: Column): Value;
}

/** What is bound alike everywhere: lists as JSON, and a number as its plain digits where the column is of text. */
export function bound(field: KnownField, value: unknown): unknown {
  if (value === undefined || value === null) return null;
  if (field.item !== null) return JSON.stringify(value);
  const exact = field.storage === 'strict' && isNumeric(field) && typeof value === 'number' ? exactOf(value) : null;
  return exact === null ? value : exactText(exact);
}

/** A list's column back as a list. */
export function listFrom(text: unknown): Value {
  try {
    return typeof text === 'string' ? (JSON.parse(text) as Value) : ((text ?? []) as Value);
  } catch {
    return String(text);
  }
}
