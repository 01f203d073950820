import type { Pattern } from '../../model/index.js';
import {
  type Automaton,
  accepts,
  automatonOf,
  complementOf,
  countWords,
  intersection,
  type Lengths,
  shortestLength,
  wordOfLength,
} from '../automaton/index.js';
import { readParts } from '../parts.js';
import { complement, damagedCharacters, orConstruct, type PatternPart, type PatternTree } from '../pattern/index.js';
import { word } from './sets.js';

/** A set of texts by the id that it is asked for with. */
export type TextId = string;

/** Texts of all of some sets, of none of others, and of some lengths. */
export interface Wanted {
  readonly in: readonly TextId[];
  readonly notIn: readonly TextId[];
  readonly lengths: Lengths;
}

/** `doubt`: sets that were left out because they are none that an automaton of bearable size can hold. */
export type Found =
  | { readonly word: string; readonly doubt: string | null }
  | { readonly none: true }
  | { readonly undecided: string };

/** No word that is shown to a person is longer. */
const LONGEST_WORD = 20_000;

/**
 * Sets of texts as automata, each made once. What can't be made is left out of a combination, which is then larger than
 * what was asked for: that nothing is in it is certain all the same.
 */
export class Languages {
  readonly #patterns = new Map<string, readonly PatternPart[] | string>();
  readonly #trees = new Map<TextId, PatternTree>();
  readonly #automata = new Map<TextId, Automaton | string>();
  readonly #combined = new Map<string, Combined>();
  readonly #shortest = new Map<string, ReturnType<typeof shortestLength>>();
  readonly #text: TextId;

  constructor() {
    this.#text = this.ofTree('text', {
      repeat: { one: complement(damagedCharacters) },
      from: 0,
      to: Number.POSITIVE_INFINITY,
    });
  }

  /** The parts of a pattern, or why it has none. */
  partsOf(pattern: Pattern): readonly PatternPart[] | string {
    const key = `${pattern.flags} ${pattern.source}`;
    const known = this.#patterns.get(key);
    if (known !== undefined) return known;
    const parts = orConstruct(() => readParts(pattern));
    this.#patterns.set(key, parts);
    return parts;
  }

  /** The set of a tree; equal ids must mean equal trees. */
  ofTree(id: TextId, tree: PatternTree): TextId {
    if (!this.#trees.has(id)) this.#trees.set(id, tree);
    return id;
  }

  /** The set of one text. */
  ofWord(text: string): TextId {
    return this.ofTree(`word ${text}`, word(text));
  }

  /** A text that is wanted, the shortest there is; or a preferred one that fits as well. */
  find(wanted: Wanted, preferred: readonly string[] = []): Found {
    const { automaton, doubt, key } = this.#combine(wanted);
    const lengthOf = (text: string) => [...text].length;
    const fits = (text: string) =>
      wanted.lengths.some(([from, to]) => from <= lengthOf(text) && lengthOf(text) <= to) && accepts(automaton, text);
    const liked = preferred.find(fits);
    if (liked !== undefined) return { word: liked, doubt };
    const shortest = this.#shortestOf(automaton, key, wanted.lengths);
    if (shortest === 'none') return { none: true };
    if (shortest === 'undecided') return { undecided: 'the lengths that its pattern allows are too far apart' };
    if (shortest.length > LONGEST_WORD) return { undecided: `no text of ${shortest.length} characters is made` };
    const word = wordOfLength(automaton, shortest.length);
    return word === null ? { none: true } : { word, doubt };
  }

  /** True where no text is wanted: certain, even where something was left out. */
  isEmpty(wanted: Wanted): boolean {
    const { automaton, key } = this.#combine(wanted);
    return this.#shortestOf(automaton, key, wanted.lengths) === 'none';
  }

  /** How many texts are wanted, counted no further than `most`, which is also the answer where it is in doubt. */
  count(wanted: Wanted, most: number): number {
    const { automaton, doubt } = this.#combine(wanted);
    return doubt === null ? countWords(automaton, wanted.lengths, most) : most;
  }

  #shortestOf(automaton: Automaton, key: string, lengths: Lengths): ReturnType<typeof shortestLength> {
    const asked = `${key} ${JSON.stringify(lengths)}`;
    const known = this.#shortest.get(asked);
    if (known !== undefined) return known;
    const found = shortestLength(automaton, lengths);
    this.#shortest.set(asked, found);
    return found;
  }

  #combine(wanted: Wanted): Combined {
    const sets = [
      ...new Set([this.#text, ...wanted.in].map((id) => `+${id}`)),
      ...new Set(wanted.notIn.map((id) => `-${id}`)),
    ].sort();
    let combined: Combined | null = null;
    let key = '';
    for (const set of sets) {
      // A word may have anything in it: quoted, no two combinations are spelled alike.
      key += JSON.stringify(set);
      combined = this.#combined.get(key) ?? this.#with(combined, set, key);
      this.#combined.set(key, combined);
    }
    if (combined === null) throw new Error('there is no text without its characters');
    return combined;
  }

  #with(before: Combined | null, set: string, key: string): Combined {
    const one = this.#automaton(set);
    if (typeof one === 'string') return before === null ? this.#everything(one, key) : { ...before, doubt: one, key };
    if (before === null) return { automaton: one, doubt: null, key };
    const both = orConstruct(() => intersection(before.automaton, one));
    return typeof both === 'string' ? { ...before, doubt: both, key } : { automaton: both, doubt: before.doubt, key };
  }

  #everything(doubt: string, key: string): Combined {
    const automaton = automatonOf({
      repeat: { one: complement(damagedCharacters) },
      from: 0,
      to: Number.POSITIVE_INFINITY,
    });
    return { automaton, doubt, key };
  }

  /** The automaton of `+id`, or of what is not in it, `-id`; or why there is none. */
  #automaton(set: string): Automaton | string {
    const known = this.#automata.get(set);
    if (known !== undefined) return known;
    const made = set.startsWith('-')
      ? this.#turned(set.slice(1))
      : orConstruct(() => automatonOf(this.#tree(set.slice(1))));
    this.#automata.set(set, made);
    return made;
  }

  #turned(id: TextId): Automaton | string {
    const positive = this.#automaton(`+${id}`);
    return typeof positive === 'string' ? positive : orConstruct(() => complementOf(positive));
  }

  #tree(id: TextId): PatternTree {
    const tree = this.#trees.get(id);
    if (tree === undefined) throw new Error(`no set of texts ${id}`);
    return tree;
  }
}

interface Combined {
  readonly automaton: Automaton;
  readonly doubt: string | null;
  readonly key: string;
}
