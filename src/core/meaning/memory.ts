import { isScalar } from '../kinds/index.js';
import type { Constraint, Field, Value, Wire } from '../model/index.js';

/** What became of one value of a field: how it was read, its canonical form, and its field's own rules that it breaks. */
export interface Outcome {
  readonly raw: unknown;
  readonly state: 'read' | 'refused' | 'over';
  readonly missing: boolean;
  readonly value: Value;
  canonical: Value;
  isCanonical: boolean;
  /** Null until they are judged. */
  faults: readonly { readonly constraint: Constraint; readonly pointer: string }[] | null;
}

/**
 * The last outcome of each plain field of a record, by wire. Where many alike records are decided one after the other, most
 * of their fields are the same as in the one before, and need not be read and judged again.
 */
export class Memory {
  readonly #wires = new Map<Wire, Map<string, Outcome>>();

  /** The outcome of the very same value, or null. */
  of(field: Field, raw: unknown, wire: Wire): Outcome | null {
    const known = this.#wires.get(wire)?.get(field.name);
    return known !== undefined && isSame(known.raw, raw) ? known : null;
  }

  note(field: Field, wire: Wire, outcome: Outcome): void {
    const fields = this.#wires.get(wire) ?? new Map<string, Outcome>();
    this.#wires.set(wire, fields);
    fields.set(field.name, outcome);
  }
}

/** Only what is plainly told apart is remembered: a value by itself, at the top of the record. */
export function isRemembered(field: Field): boolean {
  return isScalar(field as never) && field.derivation === null;
}

/** The same text, number, truth or nothing; a form's are in a list of their own. */
function isSame(a: unknown, b: unknown): boolean {
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((one, at) => isSamePlain(one, b[at]));
  return isSamePlain(a, b);
}

function isSamePlain(a: unknown, b: unknown): boolean {
  return Object.is(a, b) && (typeof a !== 'object' || a === null);
}
