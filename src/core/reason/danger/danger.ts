import type { Pattern } from '../../model/index.js';
import { type Automaton, automatonOf, difference, expressionOf } from '../automaton/index.js';
import { readParts } from '../parts.js';
import { orConstruct, type PatternPart, type PatternTree } from '../pattern/index.js';
import { rememberedOf } from '../remembered.js';
import { automatonOfParts } from '../whole.js';
import { follows } from './follow.js';
import { type Pump, pumpOf } from './growth.js';
import { isSingle, Overlaps } from './pairs.js';
import { everyRound, type Positions, positionsOf, type Repeats } from './positions.js';

/** A text that a pattern refuses after ever more attempts: the middle part as often as one likes. */
export interface Attack extends Pump {
  readonly suffix: string;
}

/** How a matcher that tries one way after another fares with a pattern. */
export type Danger =
  /** Every text is read in a number of steps that grows with its length and no faster. */
  | { readonly is: 'linear' }
  | { readonly is: 'growing'; readonly attack: Attack }
  /** Some texts are read in several ways, but no text was found that makes them grow. */
  | { readonly is: 'unproved'; readonly why: string; readonly isRegular: boolean };

/** As many rounds as this are as good as endless: a bound on the text's length, not on the ways to read it. */
const longAsEndless: Repeats = { endlessFrom: 12, countedFrom: Number.POSITIVE_INFINITY };

/**
 * True where the pattern is proved to be matched in linear time by any backtracking matcher: no position is reached in two
 * ways on the same text. Each look-ahead at its beginning is one such pattern by itself.
 */
export function isProvedLinear(pattern: Pattern): boolean {
  const parts = orConstruct(() => readParts(pattern));
  return typeof parts !== 'string' && parts.every(isPartLinear);
}

function isPartLinear({ walked }: PatternPart): boolean {
  // With long repeats taken for endless ones there are fewer positions; what is single then is single all the more.
  return [longAsEndless, everyRound].some((repeats) => {
    const positions = positionsOf(walked, repeats);
    return positions !== null && isSingle(positions, new Overlaps(positions)) === true;
  });
}

/** Of a pattern with more positions than this, all repeats written out, no equal tree is looked for: it might take long. */
const MOST_FOR_TREE = 1_500;

/** An equal tree of more nodes than this is of no use in a constraint that people read. */
const MOST_NODES = 3_000;

/** The positions of a part, all repeats written out. */
function sizeIn({ tree }: PatternPart): number {
  return positionsOf(tree, everyRound)?.characters.length ?? Number.POSITIVE_INFINITY;
}

/**
 * A tree of the same texts as a part of a pattern that any backtracking matcher reads in linear time: the part's own, or one
 * that is made from its automaton, which reads every text in one way; null where none is found. Both is proved of what is
 * returned.
 */
export function linearTree(part: PatternPart): PatternTree | null {
  return rememberedOf(part, 'linear tree', () => {
    const own = { ...part, walked: part.tree };
    if (isPartLinear(own)) return part.tree;
    if (sizeIn(part) > MOST_FOR_TREE) return null;
    const automaton = orConstruct(() => automatonOf(part.tree));
    const tree = typeof automaton === 'string' ? null : expressionOf(automaton, MOST_NODES);
    if (tree === null || typeof automaton === 'string' || !isPartLinear({ tree, fits: true, walked: tree }))
      return null;
    return difference(automaton, automatonOf(tree)) === null ? tree : null;
  });
}

/** Whether texts can be made that a backtracking matcher does not get done with. */
export function dangerOf(pattern: Pattern): Danger {
  const parts = orConstruct(() => readParts(pattern));
  return typeof parts === 'string' ? { is: 'unproved', why: `it uses ${parts}`, isRegular: false } : dangerIn(parts);
}

function dangerIn(parts: readonly PatternPart[]): Danger {
  let why = '';
  for (const part of parts) {
    if (isPartLinear(part)) continue;
    const positions = positionsOf(part.walked, longAsEndless);
    const pump = positions === null ? 'undecided' : pumpOf(positions, new Overlaps(positions));
    const isAhead = part.walked !== part.tree;
    const attack =
      positions === null || pump === null || pump === 'undecided' ? null : attackOf(pump, positions, isAhead);
    if (attack !== null) return { is: 'growing', attack };
    why =
      pump === 'undecided'
        ? 'it has too many characters and repeats to look at'
        : pump === null
          ? 'some texts are read in more than one way, though no more with length'
          : 'no text was found that is refused in the end';
  }
  return why === '' ? { is: 'linear' } : { is: 'unproved', why, isRegular: true };
}

/** True where texts can be made whose time to be matched by the parts of a pattern doubles with every character or few. */
export function isExponential(parts: readonly PatternPart[]): boolean {
  const danger = dangerIn(parts);
  return danger.is === 'growing' && danger.attack.growth === 'exponential';
}

/** Ends that make a text one that is refused: only then are all ways tried. */
const SUFFIXES = ['', '!', '\n', '\u0001', 'é', '0', 'a', ' ', '🏺!'];

/** Refused by a pattern with longer repeats than the real one is refused by that too. */
function attackOf(pump: Pump, positions: Positions, isAhead: boolean): Attack | null {
  const suffix = SUFFIXES.find((end) =>
    [1, 2, 3, 9].every((times) => !follows(positions, pump.prefix + pump.repeated.repeat(times) + end, isAhead)),
  );
  return suffix === undefined ? null : { ...pump, suffix };
}

/** What a matcher is made from that takes as many steps as the text has characters. */
export type SafeForm =
  | { readonly form: 'pattern' }
  | { readonly form: 'table'; readonly automaton: Automaton }
  /** An equal pattern that is proved to be matched in linear time. */
  | { readonly form: 'tree'; readonly tree: PatternTree }
  /** All positions are followed at once. */
  | { readonly form: 'positions'; readonly positions: Positions }
  | { readonly form: 'none'; readonly why: string; readonly isRegular: boolean };

/** Patterns with more positions than this, all repeats written out, get no table: it might take long to make. */
const MOST_FOR_TABLE = 400;
/** A table of more entries than this would be too much for a page. */
const MOST_ENTRIES = 20_000;

/** How a pattern is matched in linear time: as it is where that is proved, otherwise by a table, or by its positions. */
export function safeFormOf(pattern: Pattern): SafeForm {
  return rememberedOf(pattern, 'safe form', () => safeFormIn(pattern));
}

function safeFormIn(pattern: Pattern): SafeForm {
  const parts = orConstruct(() => readParts(pattern));
  if (typeof parts === 'string') return { form: 'none', why: `it uses ${parts}`, isRegular: false };
  if (parts.every(isPartLinear)) return { form: 'pattern' };
  if (parts.every((part) => sizeIn(part) <= MOST_FOR_TABLE)) {
    const automaton = orConstruct(() => automatonOfParts(parts));
    if (typeof automaton !== 'string' && entriesOf(automaton) <= MOST_ENTRIES) return { form: 'table', automaton };
  }
  const [only, ...more] = parts;
  const tree = only === undefined || more.length > 0 || !only.fits ? null : linearTree(only);
  if (tree !== null) return { form: 'tree', tree };
  const counted: Repeats = { ...everyRound, countedFrom: 4 };
  const positions = only === undefined || more.length > 0 ? null : positionsOf(only.tree, counted);
  return positions === null
    ? { form: 'none', why: 'it has too many characters and repeats', isRegular: true }
    : { form: 'positions', positions };
}

function entriesOf({ states }: Automaton): number {
  return states.reduce((sum, { moves }) => sum + moves.length, 0);
}
