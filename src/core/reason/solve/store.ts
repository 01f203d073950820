import type { Value } from '../../model/index.js';
import { bothLengths, type Lengths } from '../automaton/index.js';
import { ceilTo, floorDivide, floorTo, narrowed, type Range } from '../order/range.js';
import type { Languages, TextId } from '../text/languages.js';
import type { Key, Literal } from './formula.js';
import type { Space } from './space.js';

type Linear = Extract<Literal, { is: 'linear' }>;
type Same = Extract<Literal, { is: 'same' }>;
/** What is known of a text. */
export interface TextState {
  readonly in: readonly TextId[];
  readonly notIn: readonly TextId[];
  readonly lengths: Lengths;
}

/** How often limits are carried from one value to another before a sum is left as it is. */
const MOST_ROUNDS = 12;

/**
 * What has been asserted so far, and what follows from it at once. An assertion that can't be is refused; one that is
 * taken may still turn out to be impossible together with others, when everything is looked at.
 */
export class Store {
  readonly space: Space;
  readonly languages: Languages;
  readonly presence: Map<Key, boolean>;
  readonly ranges: Map<Key, Range>;
  readonly among: Map<Key, readonly Value[]>;
  readonly texts: Map<Key, TextState>;
  readonly opaque: Map<string, boolean>;
  sums: readonly Linear[];
  pairs: readonly Same[];

  constructor(from: Store | { readonly space: Space; readonly languages: Languages }) {
    const before = from instanceof Store ? from : null;
    this.space = from.space;
    this.languages = from.languages;
    this.presence = new Map(before?.presence);
    this.ranges = new Map(before?.ranges);
    this.among = new Map(before?.among);
    this.texts = new Map(before?.texts);
    this.opaque = new Map(before?.opaque);
    this.sums = before?.sums ?? [];
    this.pairs = before?.pairs ?? [];
  }

  /** The same again, to go on from without changing this one. */
  branch(): Store {
    return new Store(this);
  }

  rangeOf(key: Key): Range {
    const known = this.ranges.get(key);
    if (known !== undefined) return known;
    const variable = this.space.variable(key);
    if (variable.sort !== 'ordered') throw new Error(`${key} has no order`);
    return variable.range;
  }

  valuesOf(key: Key): readonly Value[] {
    const variable = this.space.variable(key);
    return this.among.get(key) ?? (variable.sort === 'finite' ? variable.values : []);
  }

  textOf(key: Key): TextState {
    return this.texts.get(key) ?? { in: [], notIn: [], lengths: [[1, Number.POSITIVE_INFINITY]] };
  }

  /** Takes a literal; false where it can't be. */
  assert(literal: Literal): boolean {
    switch (literal.is) {
      case 'present':
        return set(this.presence, literal.of, literal.yes);
      case 'opaque':
        return set(this.opaque, literal.id, literal.yes);
      case 'among': {
        const left = this.valuesOf(literal.of).filter((value) => literal.values.includes(value) === literal.yes);
        this.among.set(literal.of, left);
        return left.length > 0;
      }
      case 'within': {
        const { in: inside, notIn, lengths } = this.textOf(literal.of);
        return this.#narrowText(literal.of, {
          in: literal.yes ? [...inside, literal.set] : inside,
          notIn: literal.yes ? notIn : [...notIn, literal.set],
          lengths,
        });
      }
      case 'length': {
        const before = this.textOf(literal.of);
        return this.#narrowText(literal.of, { ...before, lengths: bothLengths(before.lengths, literal.lengths) });
      }
      case 'multiple':
        return this.#narrow(literal.of, literal.yes ? { step: literal.step } : { not: [literal.step] });
      case 'same':
        this.pairs = [...this.pairs, literal];
        return literal.yes || literal.of[0] !== literal.of[1];
      case 'linear':
        if (literal.sum.length > 1) this.sums = [...this.sums, literal];
        return this.#bound(literal) !== 'impossible' && this.spread();
    }
  }

  /** Whether a literal is certain, impossible, or neither, as far as it can be seen at once. */
  seen(literal: Literal): boolean | null {
    switch (literal.is) {
      case 'present': {
        const known = this.presence.get(literal.of);
        return known === undefined ? null : known === literal.yes;
      }
      case 'opaque': {
        const known = this.opaque.get(literal.id);
        return known === undefined ? null : known === literal.yes;
      }
      case 'among': {
        const fitting = this.valuesOf(literal.of).filter((value) => literal.values.includes(value) === literal.yes);
        if (fitting.length === 0) return false;
        return fitting.length === this.valuesOf(literal.of).length ? true : null;
      }
      case 'within': {
        const state = this.textOf(literal.of);
        if ((literal.yes ? state.in : state.notIn).includes(literal.set)) return true;
        return (literal.yes ? state.notIn : state.in).includes(literal.set) ? false : null;
      }
      case 'linear': {
        const { least, most } = this.#endsOf(literal);
        if (most !== null && most <= literal.most) return true;
        return least !== null && least > literal.most ? false : null;
      }
      default:
        return null;
    }
  }

  /** Carries limits along the sums until nothing changes; false where something becomes impossible. */
  spread(): boolean {
    for (let round = 0; round < MOST_ROUNDS; round++) {
      let changed = false;
      for (const sum of this.sums) {
        const made = this.#bound(sum);
        if (made === 'impossible') return false;
        changed ||= made === 'changed';
      }
      if (!changed) return true;
    }
    return true;
  }

  /** Forgets nothing and takes a value for certain; false where it can't be. */
  fix(key: Key, value: bigint): boolean {
    return this.#narrow(key, { low: value, high: value }) && this.spread();
  }

  #endsOf({ sum }: Linear): { readonly least: bigint | null; readonly most: bigint | null } {
    let least: bigint | null = 0n;
    let most: bigint | null = 0n;
    for (const [key, factor] of sum) {
      const { low, high } = this.rangeOf(key);
      const [small, large] = factor > 0n ? [low, high] : [high, low];
      least = least === null || small === null ? null : least + factor * small;
      most = most === null || large === null ? null : most + factor * large;
    }
    return { least, most };
  }

  /** What a sum says of the limits of each of its parts. */
  #bound(literal: Linear): 'impossible' | 'changed' | 'same' {
    let changed = false;
    for (const [key, factor] of literal.sum) {
      const rest = { ...literal, sum: literal.sum.filter(([other]) => other !== key) };
      const { least } = this.#endsOf(rest);
      if (least === null) continue;
      const room = literal.most - least;
      const range = this.rangeOf(key);
      if (factor > 0n) {
        const high = floorTo(floorDivide(room, factor), range.step);
        if (range.high !== null && high >= range.high) continue;
        if (!this.#narrow(key, { high })) return 'impossible';
      } else {
        const low = ceilTo(-floorDivide(room, -factor), range.step);
        if (range.low !== null && low <= range.low) continue;
        if (!this.#narrow(key, { low })) return 'impossible';
      }
      changed = true;
    }
    return changed ? 'changed' : 'same';
  }

  #narrow(key: Key, to: Partial<Range>): boolean {
    const next = narrowed(this.rangeOf(key), to);
    if (next === null) return false;
    this.ranges.set(key, next);
    return true;
  }

  #narrowText(key: Key, state: TextState): boolean {
    this.texts.set(key, state);
    return state.lengths.length > 0 && !this.languages.isEmpty(state);
  }
}

function set(known: Map<string, boolean>, key: string, yes: boolean): boolean {
  const before = known.get(key);
  known.set(key, yes);
  return before === undefined || before === yes;
}
