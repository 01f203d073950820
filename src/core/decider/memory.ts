import type { Broken, ClockReading, Decoding, Matchers } from '../meaning/index.js';
import type { Constraint, Field, Value, Wire } from '../model/index.js';

/** What became of one field at the top of a record: how it was read, its canonical form, and its own rules that it breaks. */
export interface Outcome {
  /** What came in, as a copy, which nobody changes. */
  readonly raw: unknown;
  readonly decoding: Decoding;
  /** All of it was there, and could be read. */
  readonly isPlain: boolean;
  readonly canonical: { readonly value: Value; readonly notCanonical: ReadonlySet<string> };
  /** Null until they are judged. */
  faults: readonly Broken[] | null;
}

/** What came of one field: by the value itself, and of lists and records the last ones. */
interface Known {
  readonly plain: Map<unknown, Outcome>;
  readonly others: Outcome[];
}

/** What came of a rule over some fields with these outcomes, at that time. */
interface RuleOutcome {
  readonly of: readonly (Outcome | undefined)[];
  readonly clock: ClockReading;
  readonly broken: readonly Broken[];
}

/**
 * The last outcomes of each field of a record, and of each rule over several, by wire. Where many alike records are decided
 * one after the other, most of their fields are the same as in some before, and need not be read and judged again.
 */
export class Memory {
  readonly #wires: { readonly [W in Wire]: Map<string, Known> } = { form: new Map(), json: new Map(), row: new Map() };
  /** Patterns that are ready. */
  readonly matchers: Matchers = new Map();
  readonly #rules = new Map<Constraint, Map<Outcome | undefined, RuleOutcome>>();

  /** The outcome of the very same value, or null. */
  of(field: Field, raw: unknown, wire: Wire): Outcome | null {
    const known = this.#wires[wire].get(field.name);
    if (known === undefined) return null;
    const key = keyOf(raw);
    if (key !== null) {
      const plain = known.plain.get(key);
      return plain !== undefined && isSame(plain.raw, raw) ? plain : null;
    }
    for (const one of known.others) if (isSame(one.raw, raw)) return one;
    return null;
  }

  /** Notes an outcome by what came in. */
  note(field: Field, wire: Wire, outcome: Outcome): void {
    const known = this.#wires[wire].get(field.name) ?? { plain: new Map<unknown, Outcome>(), others: [] };
    this.#wires[wire].set(field.name, known);
    const { raw } = outcome;
    const key = keyOf(raw);
    if (key === null) {
      // The one that came last is asked first.
      known.others.unshift(outcome);
      known.others.splice(MOST_LISTS);
      return;
    }
    if (known.plain.size >= MOST_KEPT) known.plain.clear();
    known.plain.set(key, outcome);
  }

  /**
   * Where a rule is broken, if the very same outcomes were last judged at the same time; null otherwise.
   *
   * @param tops which of the outcomes are of fields that the rule mentions
   */
  ofRule(
    rule: Constraint,
    tops: readonly number[],
    outcomes: readonly Outcome[],
    clock: ClockReading,
  ): readonly Broken[] | null {
    const known = this.#rules.get(rule)?.get(outcomes[tops[0] ?? -1]);
    if (known === undefined || known.clock !== clock) return null;
    for (let at = 0; at < tops.length; at += 1) if (outcomes[tops[at] ?? -1] !== known.of[at]) return null;
    return known.broken;
  }

  /** Notes what came of a rule. */
  noteRule(rule: Constraint, outcome: RuleOutcome): void {
    // By the first field's outcome, of which there is one a wire: those of the other wires stay.
    const known = this.#rules.get(rule) ?? new Map<Outcome | undefined, RuleOutcome>();
    this.#rules.set(rule, known);
    if (known.size >= MOST_KEPT) known.clear();
    known.set(outcome.of[0], outcome);
  }
}

/** What a value that is no record is found by, a list with one text in it (as forms send them) by that text; null for others. */
function keyOf(raw: unknown): unknown {
  if (typeof raw !== 'object') return raw;
  if (raw === null) return NOTHING;
  const one: unknown = Array.isArray(raw) && raw.length === 1 ? raw[0] : null;
  return typeof one === 'string' ? one : null;
}

const NOTHING = Symbol('null');

/** So many outcomes of a field or a rule are kept, and so many of lists and records, which take longer to compare. */
const MOST_KEPT = 16;
const MOST_LISTS = 3;

/** The same values in the same order, however deep; what is no plain value, list or record is never the same. */
export function isSame(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || a === null || typeof b !== 'object' || b === null) return Object.is(a, b);
  if (Array.isArray(a) || Array.isArray(b)) {
    if (!Array.isArray(a) || !Array.isArray(b) || a.length !== b.length) return false;
    for (let at = 0; at < a.length; at += 1) if (!isSame(a[at], b[at])) return false;
    return true;
  }
  if (!isPlain(a) || !isPlain(b)) return false;
  const [own, other] = [Object.keys(a), Object.keys(b)];
  if (own.length !== other.length) return false;
  for (const [at, name] of own.entries()) if (name !== other[at] || !isSame(a[name], b[name])) return false;
  return true;
}

/** A copy of lists and records, so that nobody changes what is compared with. */
export function copied(raw: unknown): unknown {
  if (Array.isArray(raw)) return raw.map(copied);
  if (typeof raw !== 'object' || raw === null || !isPlain(raw)) return raw;
  return Object.fromEntries(Object.entries(raw).map(([name, value]) => [name, copied(value)]));
}

function isPlain(value: object): value is { readonly [name: string]: unknown } {
  const prototype: unknown = Object.getPrototypeOf(value);
  return prototype === Object.prototype || prototype === null;
}
