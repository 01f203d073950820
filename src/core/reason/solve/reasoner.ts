import { decide, judgingFor } from '../../meaning/index.js';
import { type Constraint, enforcers, listsOf, type Model, type Path, type Predicate } from '../../model/index.js';
import { judge, mentions } from '../../operators/index.js';
import { sizeOfRange } from '../order/range.js';
import type { Languages } from '../text/languages.js';
import { brokenFormula, keptFormula, shapeFormulas } from './assertions.js';
import { all, type Formula, type Key, keysOf, present } from './formula.js';
import { type Lowering, truthsOf } from './lower.js';
import { type Example, recordOf } from './record.js';
import { type Keyed, propagated, solve } from './search.js';
import { Space } from './space.js';
import { Store } from './store.js';

/** What a record is asked for besides keeping rules. */
export type Wish =
  | { readonly breaks: Constraint }
  | { readonly predicate: Predicate; readonly is: 'true' | 'false' | 'unknown' }
  | { readonly together: readonly Wish[] };

/** Possible is shown by a record that was held against the meaning; impossible is proved; anything else is undecided. */
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
    const plain = this.#plain.solve(kept, wish, false);
    if (plain.is === 'found') {
      const example = recordOf(this.model, plain.values);
      if (example === null) return { is: 'undecided', why: 'it would take a very long list' };
      const broken = this.#brokenBy(example);
      const failed = kept.filter(({ id }) => broken.has(id)).map(({ id }) => id);
      const isGranted = wish === null || this.#granted(wish, example, broken);
      if (failed.length === 0 && isGranted) return { is: 'possible', example };
      return { is: 'undecided', why: plain.doubt ?? `${failed.join(' and ') || 'a part of it'} can only be tried` };
    }
    if (plain.is === 'undecided') return plain;
    const shortcuts = this.#plain.shortcuts;
    if (shortcuts.length === 0 || this.#wide.solve(kept, wish, false).is === 'impossible') return { is: 'impossible' };
    return { is: 'undecided', why: shortcuts.join(', and ') };
  }

  /**
   * True where it is proved that no record does. With a wish, constraints that share no value with it, or with each other,
   * are taken to be kept.
   */
  isImpossible(kept: readonly Constraint[], wish: Wish | null = null): boolean {
    if (this.#plain.solve(kept, wish, true).is !== 'impossible') return false;
    return this.#plain.shortcuts.length === 0 || this.#wide.solve(kept, wish, true).is === 'impossible';
  }

  /** Of constraints that can't hold together, a smallest set that can't: without any one of them, the others can. */
  conflict(kept: readonly Constraint[], wish: Wish | null = null): readonly Constraint[] {
    const linked = wish === null ? kept : this.linkedTo(kept, wish);
    let needed = linked;
    for (const one of linked) {
      const others = needed.filter((other) => other !== one);
      if (this.isImpossible(others, wish)) needed = others;
    }
    return needed;
  }

  /** How many values a field can have by some constraints of its own, counted no further than `most`. */
  countValues(of: Path, own: readonly Constraint[], most: number): number {
    return this.#plain.countValues(of, own, most);
  }

  /** The constraints that have to do with what is wished for, through others perhaps. */
  linkedTo(kept: readonly Constraint[], wish: Wish): readonly Constraint[] {
    return this.#plain.linkedTo(kept, wish);
  }

  #brokenBy({ row, clock }: Example): ReadonlySet<string> {
    const verdict = decide(this.model, row, 'row', { clock, enforcers });
    return new Set('refused' in verdict ? verdict.refused.map(({ rule }) => rule) : []);
  }

  #granted(wish: Wish, example: Example, broken: ReadonlySet<string>): boolean {
    if ('breaks' in wish) return broken.has(wish.breaks.id);
    if ('together' in wish) return wish.together.every((one) => this.#granted(one, example, broken));
    // What is said of an item is asked of the first.
    const lists = new Set(mentions(wish.predicate).flatMap(listsOf));
    const whole = judgingFor(this.model, example.row, example.clock);
    const judging = [...lists].reduce((outer, list) => outer.within(list, 0), whole);
    return judge(wish.predicate, judging) === { true: true, false: false, unknown: null }[wish.is];
  }
}

/** The parts that have to do with some keys, through others perhaps. */
function linkedTo(keys: readonly Key[], parts: readonly Keyed[]): readonly Keyed[] {
  const reached = new Set(keys);
  const linked = new Set<Keyed>();
  for (let size = -1; size !== linked.size; ) {
    size = linked.size;
    for (const part of parts) {
      if (linked.has(part) || !part.keys.some((key) => reached.has(key))) continue;
      linked.add(part);
      for (const key of part.keys) reached.add(key);
    }
  }
  return [...linked];
}

/** One reading of a ruleset: plain records only, or any; everything lowered once. */
class Side {
  readonly #lowering: Lowering;
  readonly #shape: readonly Formula[];
  readonly #kept = new Map<Constraint, Keyed>();
  readonly #keys = new Map<Formula, Keyed>();

  constructor(model: Model, space: Space, languages: Languages, plain: boolean) {
    this.#lowering = { space, languages, plain, shortcuts: new Set(), asides: new Map() };
    this.#shape = shapeFormulas(model, this.#lowering);
  }

  /** Values for a whole record; or, to prove that there are none, only a look at what has to do with the wish. */
  solve(kept: readonly Constraint[], wish: Wish | null, proving: boolean): ReturnType<typeof solve> {
    const wished = wish === null ? [] : [this.#withKeys(this.#wished(wish))];
    const parts = kept.map((one) => this.#partOf(one));
    const { space, languages } = this.#lowering;
    const others = [...parts, ...this.#background([...wished, ...parts])];
    const linked =
      proving && wish !== null
        ? linkedTo(
            wished.flatMap(({ keys }) => keys),
            others,
          )
        : others;
    return solve([...wished, ...linked], space, languages, proving);
  }

  linkedTo(kept: readonly Constraint[], wish: Wish): readonly Constraint[] {
    const wished = this.#withKeys(this.#wished(wish));
    const parts = kept.map((one) => this.#partOf(one));
    const linked = new Set(linkedTo(wished.keys, [...parts, ...this.#background([wished, ...parts])]));
    return kept.filter((one) => linked.has(this.#partOf(one)));
  }

  /** What holds of every record: its shape, and what the terms are worth that some parts mention. */
  #background(parts: readonly Keyed[]): readonly Keyed[] {
    const found = this.#shape.map((formula) => this.#withKeys(formula));
    const reached = new Set([...parts, ...found].flatMap(({ keys }) => keys));
    for (const key of reached)
      for (const formula of this.#lowering.asides.get(key) ?? []) {
        const aside = this.#withKeys(formula);
        found.push(aside);
        for (const one of aside.keys) reached.add(one);
      }
    return found;
  }

  /** What was passed over, in words. */
  get shortcuts(): readonly string[] {
    return [...this.#lowering.shortcuts];
  }

  countValues(of: Key, own: readonly Constraint[], most: number): number {
    const { space, languages } = this.#lowering;
    const store = new Store({ space, languages });
    const formulas = [present(of), ...own.map((one) => this.#partOf(one).formula)];
    if (propagated(store, formulas) === null) return 0;
    const { sort } = space.variable(of);
    if (sort === 'finite') return Math.min(store.valuesOf(of).length, most);
    if (sort === 'text') return languages.count(store.textOf(of), most);
    const size = sizeOfRange(store.rangeOf(of));
    return size === null || size > BigInt(most) ? most : Number(size);
  }

  #partOf(constraint: Constraint): Keyed {
    const known = this.#kept.get(constraint);
    if (known !== undefined) return known;
    const made = this.#withKeys(keptFormula(constraint, this.#lowering));
    this.#kept.set(constraint, made);
    return made;
  }

  #withKeys(formula: Formula): Keyed {
    const known = this.#keys.get(formula);
    if (known !== undefined) return known;
    const part = { formula, keys: [...new Set(keysOf(formula))] };
    this.#keys.set(formula, part);
    return part;
  }

  #wished(wish: Wish): Formula {
    if ('breaks' in wish) return brokenFormula(wish.breaks, this.#lowering);
    if ('together' in wish) return all(...wish.together.map((one) => this.#wished(one)));
    const { isTrue, isFalse, notTrue, notFalse } = truthsOf(wish.predicate, this.#lowering);
    return { true: isTrue, false: isFalse, unknown: all(notTrue, notFalse) }[wish.is];
  }
}
