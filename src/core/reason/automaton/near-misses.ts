import { includes, type Ranges } from '../pattern/ranges.js';
import { accepts } from './run.js';
import { fewest, type Routes, readable, type Step, transitionWords } from './words.js';

/** A text that is refused, though one edit makes an accepted one of it; and what was done to that one. */
export interface NearMiss {
  readonly text: string;
  readonly words: string;
}

/** What stands before or behind a text that is accepted by itself. */
const OUTSIDE: readonly (readonly [stranger: string, words: string])[] = [
  ['x', 'a letter'],
  ['1', 'a digit'],
];
/** At most so many accepted texts get something before and behind them. */
const MOST_WORDS = 24;

/** Letters and digits that a careless class takes in. */
const STRANGERS: readonly (readonly [on: (character: string) => boolean, instead: string, words: string])[] = [
  [isDigit, '\u0663', 'a digit of another script'],
  [isLetter, '\u00e9', 'a letter with an accent'],
  [isLetter, '\u0430', 'a look-alike letter of another script'],
  [(character) => isLetter(character) || isDigit(character), '_', 'a low line'],
  [(character) => character === '-', '\u2013', 'a dash instead of the hyphen'],
  [(character) => character === '.', 'x', 'a letter instead of the dot'],
  [(character) => character === ' ', '\u00a0', 'a no-break space instead of the space'],
];

/** The kinds of edit from this number on, one for each of those. */
const OF_STRANGERS = 8;

/** At most so many edits are looked at: of a large automaton, those that make the shortest texts. */
const MOST_LOOKED_AT = 4_000;

type Edit = () => NearMiss;

/**
 * What is one edit away from an accepted text and refused, each edit at each move of the automaton once: something before
 * and behind the text, a character missing, doubled, in the other letter case, just beside a range of characters, or of
 * another script; a part once more than it may be there, an end too early. The kinds of edit take turns, and of each kind
 * the shortest texts come first.
 *
 * @param most of them at most; `left` is how many more edits there are, some of which may be accepted
 */
export function nearMisses(
  routes: Routes,
  most: number,
): { readonly misses: readonly NearMiss[]; readonly left: number } {
  const { automaton } = routes;
  const all = editsOf(routes);
  const kinds = all.map((edits) => edits[Symbol.iterator]());
  const count = all.reduce((sum, edits) => sum + edits.length, 0);
  const seen = new Set(['']);
  const misses: NearMiss[] = [];
  let looked = 0;
  // The next edit of a kind that makes a refused text.
  const nextOf = (edits: Iterator<Edit>): NearMiss | null => {
    for (let step = edits.next(); step.done !== true && looked < MOST_LOOKED_AT; step = edits.next()) {
      looked += 1;
      const miss = step.value();
      if (seen.has(miss.text)) continue;
      seen.add(miss.text);
      if (!accepts(automaton, miss.text)) return miss;
    }
    return null;
  };
  for (let open = kinds; open.length > 0 && misses.length < most; ) {
    open = open.filter((edits) => {
      const miss = misses.length < most ? nextOf(edits) : null;
      if (miss !== null) misses.push(miss);
      return miss !== null;
    });
  }
  return { misses, left: count - looked };
}

/** Every edit, by its kind. */
function editsOf(routes: Routes): readonly (readonly Edit[])[] {
  const { automaton } = routes;
  const kinds: Edit[][] = Array.from({ length: OF_STRANGERS + STRANGERS.length }, () => []);
  const add = (kind: number, edit: Edit) => kinds[kind]?.push(edit);
  for (const word of fewest(automaton, transitionWords(routes, MOST_WORDS))) {
    if (word === '') continue;
    for (const [stranger, words] of OUTSIDE) {
      add(0, () => ({ text: `${word}${stranger}`, words: `${words} behind it` }));
      add(1, () => ({ text: `${stranger}${word}`, words: `${words} before it` }));
    }
  }
  const steps = furthest(routes.steps);
  const known = new Map<Ranges, readonly Replacement[]>();
  for (const step of eachSetFirst(routes.steps)) {
    const before = () => routes.to(step.state);
    const length = routes.lengthTo(step.state);
    const rest = () => routes.onFrom(step.to, length + 1);
    const own = () => routes.characterOf(step.on, length);
    const instead = (text: string, words: string): NearMiss => ({ text: before() + text + rest(), words });
    add(2, () => instead('', `"${own()}" is missing`));
    add(3, () => instead(own() + own(), `"${own()}" twice`));
    // A set of several ranges is a hyphen or a digit, perhaps, which other parts of the pattern take apart.
    for (const one of step.on.length > 1 ? examples(step.on) : []) add(3, () => instead(one + one, `"${one}" twice`));
    const replacements = known.get(step.on) ?? replacementsOf(step.on);
    known.set(step.on, replacements);
    for (const { kind, text, words } of replacements) add(kind, () => instead(text, words));
  }
  const states = [...routes.order].reverse();
  for (const state of states) {
    if (automaton.states[state]?.accepts === true) {
      // A part that is there as often as it may be, once more.
      for (const { on, to } of steps) {
        const more = () => routes.characterOf(on, 0) + routes.onFrom(to, 1);
        add(6, () => ({ text: routes.to(state) + more(), words: `"${more()}" once more` }));
      }
    } else add(7, () => ({ text: routes.to(state), words: 'it ends too early' }));
  }
  return kinds;
}

/** What may be written instead of a character, and what kind of edit that is. */
interface Replacement {
  readonly kind: number;
  readonly text: string;
  readonly words: string;
}

/** What is not in a set of characters, and is taken for it by a careless hand. */
function replacementsOf(on: Ranges): readonly Replacement[] {
  return [
    ...examples(on).flatMap((character) => [
      { kind: 4, text: otherCase(character), words: `"${character}" in the other letter case` },
      ...STRANGERS.flatMap(([fits, text, words], at) =>
        fits(character) ? [{ kind: OF_STRANGERS + at, text, words }] : [],
      ),
    ]),
    ...loners(on).map(([text, same]) => ({
      kind: 4,
      text,
      words: `${nameOf(text.codePointAt(0) ?? 0)}, which is "${same}" where letter case is ignored`,
    })),
    ...besides(on).map(([text, range]) => ({ kind: 5, text, words: `"${text}", just outside ${range}` })),
  ];
}

/** The first step on each set of characters, then the others: a length of its own gives an automaton many of the same. */
function eachSetFirst(steps: readonly Step[]): readonly Step[] {
  const seen = new Set<string>();
  const isFirst = ({ on }: Step) => {
    const count = seen.size;
    seen.add(on.join(';'));
    return seen.size > count;
  };
  const first = steps.filter(isFirst);
  const others = new Set(first);
  return [...first, ...steps.filter((step) => !others.has(step))];
}

/** Of steps on the same characters the one that leads furthest. */
function furthest(steps: readonly Step[]): readonly Step[] {
  return [...new Map(steps.map((step) => [step.on, step])).values()];
}

/** A readable character of each of the first ranges. */
function examples(on: Ranges): readonly string[] {
  return on.slice(0, 3).map((range) => readable([range]));
}

function isDigit(character: string): boolean {
  return /[0-9]/.test(character);
}

function isLetter(character: string): boolean {
  return /[A-Za-z]/.test(character);
}

function otherCase(character: string): string {
  const upper = character.toUpperCase();
  return upper === character ? character.toLowerCase() : upper;
}

/** Characters that are no letters, or of another script, and fold to letters that are (Unicode, CaseFolding.txt). */
const LONERS = ['\u0345', '\u00b5', '\u017f', '\u1e9e', '\u2126', '\u212a', '\u212b'];

/** Of these, those outside a set, with the character in it that they are the same as but for case. */
function loners(on: Ranges): readonly (readonly [other: string, same: string])[] {
  const isIn = (character: string) => [...character].length === 1 && includes(on, character.codePointAt(0) ?? 0);
  return LONERS.filter((other) => !isIn(other)).flatMap((other) => {
    const upper = other.toUpperCase();
    const same = [upper, other.toLowerCase(), upper.toLowerCase()].find(isIn);
    return same === undefined ? [] : [[other, same] as const];
  });
}

/** The printable characters of ASCII beside the ranges of a set, and the range. */
function besides(on: Ranges): readonly (readonly [beside: string, range: string])[] {
  return on.flatMap(([from, to]) => {
    const range = from === to ? `"${String.fromCodePoint(from)}"` : `${nameOf(from)} to ${nameOf(to)}`;
    return [from - 1, to + 1]
      .filter((point) => point > 0x20 && point < 0x7f)
      .map((point) => [String.fromCodePoint(point), range] as const);
  });
}

/** A character that can be seen, as it is; any other by its number. */
function nameOf(point: number): string {
  const character = String.fromCodePoint(point);
  return /[\p{L}\p{N}\p{P}\p{S}]/u.test(character)
    ? `"${character}"`
    : `U+${point.toString(16).toUpperCase().padStart(4, '0')}`;
}
