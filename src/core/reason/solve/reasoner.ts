import { decide } from '../../meaning/index.js';
import { type Constraint, enforcers, type Model, type Predicate } from '../../model/index.js';
import type { Languages } from '../text/languages.js';
import { brokenFormula, keptFormula, shapeFormulas } from './assertions.js';
import { all, type Formula, type Key, keysOf } from './formula.js';
import { type Lowering, truthsOf } from './lower.js';
import { type Example, recordOf } from './record.js';
import { solve } from './search.js';
import { Space } from './space.js';

/** What a record is asked for besides keeping rules. */
export type Wish =
  | { readonly breaks: Constraint }
  | { readonly predicate: Predicate; readonly is: 'true' | 'false' | 'unknown' }
  | { readonly together: readonly Wish[] };

/** `shown`: found, and held against the meaning; `undecided` may still come with a record that was not confirmed. */
export type Decision =
  | { readonly is: 'possible'; readonly example: Example }
  | { readonly is: 'impossible' }
  | { readonly is: 'undecided'; readonly why: string };

/** Decides what records of one ruleset there can be. Impossible is proved; possible is shown by a record. */
export class Reasoner {
  readonly model: Model;
  readonly #space: Space;
  readonly #plain: Side;
  readonly #wide: Side;

  constructor(model: Model, languages: Languages) {
    this.model = model;
    this.#space = new Space(model);
    this.#plain = new Side(model, this.#space, languages, true);
    this.#wide = new Side(model, this.#space, languages, false);
  }

  /** Whether some record keeps all the constraints, and is what is wished for. */
  decide(kept: readonly Constraint[], wish: Wish | null = null): Decision {
    const plain = this.#plain.solve(kept, wish);
    if (plain.is === 'found') {
      const example = recordOf(this.model, plain.values);
      if (example === null) return { is: 'undecided', why: 'it would take a very long list' };
      if (this.#confirms(example, kept, wish)) return { is: 'possible', example };
      return { is: 'undecided', why: 'a record was worked out, and a part that can only be tried did not hold' };
    }
    if (plain.is === 'undecided') return plain;
    const shortcuts = this.#plain.shortcuts;
    if (shortcuts.length === 0 || this.#wide.solve(kept, wish).is === 'impossible') return { is: 'impossible' };
    return { is: 'undecided', why: shortcuts.join(', and ') };
  }

  /** True where it is proved that no record does. */
  isImpossible(kept: readonly Constraint[], wish: Wish | null = null): boolean {
    if (this.#plain.solve(kept, wish).is !== 'impossible') return false;
    return this.#plain.shortcuts.length === 0 || this.#wide.solve(kept, wish).is === 'impossible';
  }

  /** Of constraints that can't hold together, a smallest set that can't: without any one of them, the others can. */
  conflict(kept: readonly Constraint[], wish: Wish | null = null): readonly Constraint[] {
    let needed = this.linkedTo(kept, wish);
    if (!this.isImpossible(needed, wish)) needed = kept;
    for (const one of needed) {
      const others = needed.filter((other) => other !== one);
      if (this.isImpossible(others, wish)) needed = others;
    }
    return needed;
  }

  /** The constraints that can have a say in what is wished for: those that share a value with it, or with each other. */
  linkedTo(kept: readonly Constraint[], wish: Wish | null): readonly Constraint[] {
    if (wish === null) return kept;
    const reached = new Set(this.#plain.keysOfWish(wish));
    const left = new Set(kept);
    for (let size = -1; size !== reached.size; ) {
      size = reached.size;
      for (const one of left) {
        const keys = this.#plain.keysOfKept(one);
        if (!keys.some((key) => reached.has(key))) continue;
        for (const key of keys) reached.add(key);
        left.delete(one);
      }
    }
    return kept.filter((one) => !left.has(one));
  }

  #confirms({ row, clock }: Example, kept: readonly Constraint[], wish: Wish | null): boolean {
    const verdict = decide(this.model, row, 'row', { clock, enforcers });
    const broken = new Set('refused' in verdict ? verdict.refused.map(({ rule }) => rule) : []);
    return kept.every(({ id }) => !broken.has(id)) && granted(wish, broken);
  }
}

/** A rule that a record should break is broken; the other wishes follow from what was solved. */
function granted(wish: Wish | null, broken: ReadonlySet<string>): boolean {
  if (wish === null || 'predicate' in wish) return true;
  return 'breaks' in wish ? broken.has(wish.breaks.id) : wish.together.every((one) => granted(one, broken));
}

/** One reading of a ruleset: plain records only, or any; everything lowered once. */
class Side {
  readonly #lowering: Lowering;
  readonly #shape: readonly Formula[];
  readonly #kept = new Map<Constraint, Formula>();
  readonly #keys = new Map<Constraint, readonly Key[]>();

  constructor(model: Model, space: Space, languages: Languages, plain: boolean) {
    this.#lowering = { space, languages, plain, shortcuts: new Set(), asides: [], named: new Set() };
    this.#shape = shapeFormulas(model, this.#lowering);
  }

  solve(kept: readonly Constraint[], wish: Wish | null): ReturnType<typeof solve> {
    const formulas = [...kept.map((one) => this.#keptOf(one)), ...(wish === null ? [] : [this.#wished(wish)])];
    const { space, languages, asides } = this.#lowering;
    return solve([...formulas, ...this.#shape, ...asides], space, languages);
  }

  /** What was passed over, in words. */
  get shortcuts(): readonly string[] {
    return [...this.#lowering.shortcuts];
  }

  keysOfKept(constraint: Constraint): readonly Key[] {
    const known = this.#keys.get(constraint);
    if (known !== undefined) return known;
    const keys = [...new Set(keysOf(this.#keptOf(constraint)))];
    this.#keys.set(constraint, keys);
    return keys;
  }

  keysOfWish(wish: Wish): readonly Key[] {
    return keysOf(this.#wished(wish));
  }

  #keptOf(constraint: Constraint): Formula {
    const known = this.#kept.get(constraint);
    if (known !== undefined) return known;
    const formula = keptFormula(constraint, this.#lowering);
    this.#kept.set(constraint, formula);
    return formula;
  }

  #wished(wish: Wish): Formula {
    if ('breaks' in wish) return brokenFormula(wish.breaks, this.#lowering);
    if ('together' in wish) return all(...wish.together.map((one) => this.#wished(one)));
    const { isTrue, isFalse, notTrue, notFalse } = truthsOf(wish.predicate, this.#lowering);
    return { true: isTrue, false: isFalse, unknown: all(notTrue, notFalse) }[wish.is];
  }
}
