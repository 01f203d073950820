import { type AST, RegExpParser } from '@eslint-community/regexpp';
import { whiteSpace } from '../../kinds/index.js';
import type { Pattern } from '../../model/index.js';
import { askedCharacters } from './asked.js';
import { BOUNDARY, NO_BOUNDARY, withoutBoundaries } from './boundary.js';
import { factsOf } from './facts.js';
import { noteProperties } from './print.js';
import { anyCharacter, complement, includes, intersect, normalise, type Ranges } from './ranges.js';
import { NotRegular, type PatternTree } from './tree.js';

/**
 * Reads a pattern, held against the whole value, into our tree, in which word boundaries are still marks. Sets of characters (`\w`, `\p{…}`, classes under flag
 * i or v) are expanded by asking the running RegExp, so that they mean what ECMAScript means.
 *
 * @throws NotRegular for a construct that no automaton can hold, or that is not translated: backreferences, look-around,
 *   anchors in the middle
 */
export function readMarked(pattern: Pattern): PatternTree {
  const { ast, reading } = opened(pattern, true);
  return alternatives(ast.alternatives, reading, true, true);
}

/** The same with any character in place of each, and look-aheads passed over: enough for lengths, and made at once. */
export function readShape(pattern: Pattern): PatternTree {
  return partsOf(pattern, false)[0]?.tree ?? { sequence: [] };
}

/** What the whole value must fit, or must not: the parts of a pattern are held all together. */
export interface PatternPart {
  readonly tree: PatternTree;
  readonly fits: boolean;
  /** What a matcher walks through: of a look-ahead not what may follow it. */
  readonly walked: PatternTree;
}

/**
 * Reads a pattern that may begin with look-aheads, or have them behind a fixed number of characters. Each is a pattern of the
 * whole value by itself, so that the pattern is an intersection: of what the look-aheads say, those that forbid turned round,
 * and of the rest.
 *
 * @throws NotRegular as `readMarked` does, but for such look-aheads
 */
export function readMarkedParts(pattern: Pattern): readonly PatternPart[] {
  return partsOf(pattern, true);
}

/** The characters of words, between which and others word boundaries are. */
export function wordCharacters({ flags }: Pattern): Ranges {
  return flags.includes('i') ? askedCharacters('\\w', flags) : normalise(WORD);
}

function partsOf(pattern: Pattern, hasSets: boolean): readonly PatternPart[] {
  const { ast, reading } = opened(pattern, hasSets);
  const [only, ...others] = ast.alternatives;
  const whole = (tree: PatternTree): PatternPart => ({ tree, fits: true, walked: tree });
  if (only === undefined || others.length > 0) return [whole(alternatives(ast.alternatives, reading, true, true))];
  const ahead = only.elements.flatMap((element, at) => {
    const before = isAhead(element) ? fixedBefore(only.elements.slice(0, at), reading) : null;
    return isAhead(element) && before !== null ? [{ element, before }] : [];
  });
  if (ahead.length === 0) return [whole(alternatives([only], reading, true, true))];
  const rest = only.elements.filter((element) => !ahead.some((one) => one.element === element));
  const begins = rest.findIndex((element) => !isStart(element));
  return [
    whole(sequenceOf(begins === -1 ? [] : rest.slice(begins), reading, true, true)),
    ...ahead.map(({ element: { alternatives: list, negate }, before }) => ({
      tree: inPlace(before, { either: list.map(({ elements }) => aheadTree(elements, reading)) }),
      fits: !negate,
      walked: inPlace(before, { either: list.map(({ elements }) => sequenceOf(elements, reading, true, true)) }),
    })),
  ];
}

/**
 * What stands before a look-ahead, where it has one length: then a text is split there in one way, and the look-ahead is
 * about the whole text. Null for any other.
 */
function fixedBefore(elements: readonly AST.Element[], reading: Reading): PatternTree | null {
  const tree = sequenceOf(
    elements.filter((element) => !isAhead(element)),
    reading,
    true,
    false,
  );
  const { shortest, longest } = factsOf(withoutBoundaries(tree));
  return shortest === longest ? tree : null;
}

function inPlace(before: PatternTree, tree: PatternTree): PatternTree {
  return 'sequence' in before && before.sequence.length === 0 ? tree : { sequence: [before, tree] };
}

function isAhead(element: AST.Element): element is AST.LookaheadAssertion {
  return element.type === 'Assertion' && element.kind === 'lookahead';
}

function isStart(element: AST.Element): boolean {
  return element.type === 'Assertion' && element.kind === 'start';
}

/** What a look-ahead says of the whole value: anything may follow, unless it ends with an anchor. */
function aheadTree(elements: readonly AST.Element[], reading: Reading): PatternTree {
  const last = elements.at(-1);
  const anchored = last?.type === 'Assertion' && last.kind === 'end';
  const said = sequenceOf(elements, reading, true, true);
  const anything: PatternTree = { repeat: { one: anyCharacter }, from: 0, to: Number.POSITIVE_INFINITY };
  return anchored ? said : { sequence: [said, anything] };
}

function opened(pattern: Pattern, hasSets: boolean) {
  const flags = { unicode: pattern.flags.includes('u'), unicodeSets: pattern.flags.includes('v') };
  const ast = new RegExpParser({ ecmaVersion: 2024 }).parsePattern(pattern.source, undefined, undefined, flags);
  const reading: Reading = { flags: pattern.flags, hasSets };
  return { ast, reading };
}

const DIGITS: Ranges = [[0x30, 0x39]];
const WORD: Ranges = [...DIGITS, [0x41, 0x5a], [0x5f, 0x5f], [0x61, 0x7a]];
const SPACES: Ranges = normalise(whiteSpace.map((point) => [point, point]));
const LINE_ENDS: Ranges = normalise([0xa, 0xd, 0x2028, 0x2029].map((point) => [point, point]));

/** What one reading carries along. */
interface Reading {
  readonly flags: string;
  readonly hasSets: boolean;
}

function alternatives(list: readonly AST.Alternative[], reading: Reading, first: boolean, last: boolean): PatternTree {
  const either = list.map(({ elements }) => sequenceOf(elements, reading, first, last));
  return either.length === 1 && either[0] !== undefined ? either[0] : { either };
}

function sequenceOf(elements: readonly AST.Element[], reading: Reading, first: boolean, last: boolean): PatternTree {
  return {
    sequence: elements.flatMap((element, index) =>
      read(element, reading, first && index === 0, last && index === elements.length - 1),
    ),
  };
}

/** `first` and `last` say whether the element stands at an end of the whole value, where an anchor adds nothing. */
function read(element: AST.Element, reading: Reading, first: boolean, last: boolean): readonly PatternTree[] {
  switch (element.type) {
    case 'Character':
    case 'CharacterSet':
    case 'CharacterClass':
    case 'ExpressionCharacterClass':
      return [{ one: charactersOf(element, reading) }];
    case 'Group':
      if (element.modifiers) throw new NotRegular('a flag inside a group');
      return [alternatives(element.alternatives, reading, first, last)];
    case 'CapturingGroup':
      return [alternatives(element.alternatives, reading, first, last)];
    case 'Quantifier': {
      const [repeat] = read(element.element, reading, false, false);
      if (repeat === undefined) throw new NotRegular('a repeated anchor');
      return [{ repeat, from: element.min, to: element.max }];
    }
    case 'Assertion':
      if (element.kind === 'start' && first) return [];
      if (element.kind === 'end' && last) return [];
      if (element.kind === 'word') return reading.hasSets ? [boundary(element)] : [];
      throw new NotRegular(element.kind === 'start' || element.kind === 'end' ? 'an anchor inside' : element.raw);
    case 'Backreference':
      throw new NotRegular(`the backreference ${element.raw}`);
  }
}

function boundary({ negate }: AST.WordBoundaryAssertion): PatternTree {
  const mark = negate ? NO_BOUNDARY : BOUNDARY;
  return { one: [[mark, mark]] };
}

type Characters = AST.Character | AST.CharacterSet | AST.CharacterClass | AST.ExpressionCharacterClass;

function charactersOf(element: Characters, reading: Reading): Ranges {
  if (!reading.hasSets) return anyCharacter;
  const plain = plainRanges(element, reading.flags);
  if (plain === null) return askedCharacters(element.raw, reading.flags);
  const set = normalise(plain);
  const pieces = element.type === 'CharacterClass' && !element.negate ? element.elements : [element];
  const properties = pieces.filter(isProperty);
  const others = pieces
    .filter((piece) => !isProperty(piece))
    .flatMap((piece) => plainRanges(piece, reading.flags) ?? []);
  if (properties.length > 0)
    noteProperties(
      set,
      properties.map(({ raw }) => raw),
      normalise(others),
    );
  return set;
}

function isProperty(piece: Piece): piece is AST.UnicodePropertyCharacterSet {
  return piece.type === 'CharacterSet' && piece.kind === 'property' && !piece.negate;
}

type Piece = Characters | AST.CharacterClassElement | AST.UnicodeSetsCharacterClassElement;

/**
 * Literal characters, the sets that ECMA-262 spells out, properties of Unicode where no flag folds them, and classes of
 * those; null for what only the RegExp itself can answer.
 */
function plainRanges(piece: Piece, flags: string): Ranges | null {
  if (piece.type === 'CharacterSet')
    return piece.kind === 'property' ? propertySet(piece, flags) : knownSet(piece, flags);
  if (piece.type === 'Character') return folded(piece.value, piece.value, flags);
  if (piece.type === 'CharacterClassRange') return folded(piece.min.value, piece.max.value, flags);
  if (piece.type !== 'CharacterClass') return null;
  const parts = piece.elements.map((inner) => plainRanges(inner, flags));
  if (parts.includes(null)) return null;
  const ranges = normalise(parts.flatMap((part) => part ?? []));
  return piece.negate ? complement(ranges) : ranges;
}

/** The two characters beyond ASCII that Unicode folds to a letter of it: the long s and the Kelvin sign. */
const FOLDED_TO_ASCII: readonly (readonly [letter: number, other: number])[] = [
  [0x73, 0x17f],
  [0x6b, 0x212a],
];

/** A range with what flag i adds to it; null beyond ASCII, where that has to be asked. */
function folded(from: number, to: number, flags: string): Ranges | null {
  if (!flags.includes('i')) return [[from, to]];
  if (to >= 0x80) return null;
  const capitals = intersect([[from, to]], [[0x41, 0x5a]]);
  const small = intersect([[from, to]], [[0x61, 0x7a]]);
  const letters = [...capitals.map(([low, high]) => [low + 0x20, high + 0x20] as const), ...small];
  const others = FOLDED_TO_ASCII.filter(([letter]) => includes(letters, letter)).map(
    ([, other]) => [other, other] as const,
  );
  return [[from, to], ...letters, ...letters.map(([low, high]) => [low - 0x20, high - 0x20] as const), ...others];
}

/** The characters of a property; null where flag i adds to them, or some are texts of several characters. */
function propertySet({ raw, strings }: AST.UnicodePropertyCharacterSet, flags: string): Ranges | null {
  return strings || flags.includes('i') ? null : askedCharacters(raw, flags);
}

/** `.`, `\d`, `\s` and `\w` as ECMA-262 defines them; `\w` gains characters under flag i. */
function knownSet(set: Exclude<AST.CharacterSet, AST.UnicodePropertyCharacterSet>, flags: string): Ranges | null {
  if (set.kind === 'any') return flags.includes('s') ? complement([]) : complement(LINE_ENDS);
  if (set.kind === 'word' && flags.includes('i')) return null;
  const ranges = { digit: DIGITS, space: SPACES, word: WORD }[set.kind];
  return set.negate ? complement(ranges) : ranges;
}
