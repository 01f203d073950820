import { type Decoding, entriesOf, isRecord, type JudgedBy, readForm, type Taken, topOf } from '../meaning/index.js';
import type { Model, Row, Value, Wire } from '../model/index.js';
import { copied, isSame, type Memory, type Outcome } from './memory.js';
import { decodingOf, notCanonicalIn, outcomeOf } from './outcomes.js';

type Given = { readonly [name: string]: unknown };

/** The record that came last on a wire, with what came of it. */
interface Last {
  readonly names: readonly string[];
  /** The entries as they came, copied: nobody changes what is compared with. */
  readonly given: unknown[];
  /** The field at the top that each name leads to; null for what is passed over. */
  readonly leadsTo: readonly (Taken | null)[];
  readonly outcomes: Outcome[];
  /** In canonical form; a copy, as the caller has the other. */
  readonly row: { [name: string]: Value };
}

/** The first two steps of a record, and the outcomes of its fields. */
export interface Made {
  readonly decoding: Decoding;
  readonly canonical: { readonly row: Row; readonly notCanonical: ReadonlySet<string> };
  readonly outcomes: readonly Outcome[];
}

/**
 * Records that follow one another on a wire: of one that has the same names as the last, only the fields whose entries are
 * others are read and put into canonical form, and the rest is copied.
 */
export class Following {
  readonly #model: Model;
  readonly #by: JudgedBy;
  readonly #memory: Memory;
  readonly #last: { [W in Wire]: Last | null } = { form: null, json: null, row: null };

  constructor(model: Model, by: JudgedBy, memory: Memory) {
    this.#model = model;
    this.#by = by;
    this.#memory = memory;
  }

  /** What comes of a record that follows; null where it has other names, and must be read from the beginning. */
  made(input: unknown, wire: Wire): Made | null {
    const last = this.#last[wire];
    if (last === null || !isRecord(input)) return null;
    const names = Object.keys(input);
    if (names.length !== last.names.length) return null;
    for (let at = 0; at < names.length; at += 1) if (names[at] !== last.names[at]) return null;
    // Where reading it fails, the next one is read from the beginning.
    this.#last[wire] = null;
    for (const taken of this.#changed(input, last)) {
      const outcome = outcomeOf(taken, this.#rawOf(taken, input, wire, last), wire, {
        model: this.#model,
        by: this.#by,
        memory: this.#memory,
      });
      last.outcomes[taken.at] = outcome;
      last.row[taken.field.name] = outcome.canonical.value;
    }
    const { outcomes } = last;
    const canonical = { row: { ...last.row }, notCanonical: notCanonicalIn(outcomes) };
    this.#last[wire] = last;
    return { decoding: decodingOf(outcomes), canonical, outcomes };
  }

  /** Notes a record that was read from the beginning; one with names that lead nowhere is not followed. */
  note(input: unknown, wire: Wire, { canonical, outcomes }: Made): void {
    this.#last[wire] = null;
    if (!isRecord(input)) return;
    const taken = this.#by.taken.get(this.#model.fields) ?? [];
    const names = Object.keys(input);
    const leadsTo = names.map((name) => this.#leadsTo(name, wire, taken));
    if (leadsTo.includes(undefined)) return;
    this.#last[wire] = {
      names,
      given: names.map((name) => copied(input[name])),
      leadsTo: leadsTo as readonly (Taken | null)[],
      outcomes: [...outcomes],
      row: { ...canonical.row },
    };
  }

  /** The fields of which an entry is another than it was. */
  #changed(input: Given, last: Last): readonly Taken[] {
    const changed: Taken[] = [];
    for (let at = 0; at < last.names.length; at += 1) {
      const taken = last.leadsTo[at] ?? null;
      const given = input[last.names[at] as string];
      if (taken === null || isSame(last.given[at], given)) continue;
      last.given[at] = copied(given);
      if (!changed.includes(taken)) changed.push(taken);
    }
    return changed;
  }

  /** What came in for a field: of a form, what all the names that lead to it make together. */
  #rawOf(taken: Taken, input: Given, wire: Wire, last: Last): unknown {
    const { name, fields, item } = taken.field;
    const given = Object.hasOwn(input, name) ? input[name] : undefined;
    if (wire !== 'form') return given;
    if (fields === null && item === null) {
      // Only its own name leads to a field with one value.
      const entries = entriesOf(given);
      return entries.length === 0 ? undefined : entries;
    }
    const own: { [name: string]: unknown } = {};
    for (let at = 0; at < last.names.length; at += 1) {
      const one = last.names[at] as string;
      if (last.leadsTo[at] === taken) own[one] = input[one];
    }
    const { tree } = readForm(this.#model.fields, own);
    return Object.hasOwn(tree, name) ? tree[name] : undefined;
  }

  /** The field that a name leads to, null where it is passed over, undefined where it leads nowhere. */
  #leadsTo(name: string, wire: Wire, taken: readonly Taken[]): Taken | null | undefined {
    const top = wire === 'form' ? topOf(this.#model.fields, name) : name;
    const found = taken.find(({ field }) => field.name === top);
    if (found !== undefined) return found;
    const isPassed = top !== null && this.#by.names.get(this.#model.fields)?.has(top) === true;
    return isPassed || this.#by.ignored.has(name) ? null : undefined;
  }
}
