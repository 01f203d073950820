import type { Comparator, Exact, Row } from '../../model/index.js';
import type { Lengths } from '../automaton/index.js';
import { floorDivide } from '../order/range.js';
import { anyCharacter, complement, type PatternTree, type Ranges, spaceCharacters } from '../pattern/index.js';

const anything: PatternTree = { repeat: { one: anyCharacter }, from: 0, to: Number.POSITIVE_INFINITY };

/** Just this text. */
export function word(text: string): PatternTree {
  const points = [...text].map((character) => character.codePointAt(0) ?? 0);
  return { sequence: points.map((point) => ({ one: [[point, point]] })) };
}

/** Texts with this one in them. */
export function contains(text: string): PatternTree {
  return { sequence: [anything, word(text), anything] };
}

/** Texts that begin with this one. */
export function startsWith(text: string): PatternTree {
  return { sequence: [word(text), anything] };
}

/** Texts that end with this one. */
export function endsWith(text: string): PatternTree {
  return { sequence: [anything, word(text)] };
}

function without(characters: Ranges): PatternTree {
  return { repeat: { one: complement(characters) }, from: 0, to: Number.POSITIVE_INFINITY };
}

const solid: PatternTree = { one: complement(spaceCharacters) };
const trimmed: PatternTree = {
  sequence: [solid, { repeat: { sequence: [anything, solid] }, from: 0, to: 1 }],
};
const space: PatternTree = { one: [[0x20, 0x20]] };
const some = (of: PatternTree): PatternTree => ({ repeat: of, from: 1, to: Number.POSITIVE_INFINITY });
const collapsed: PatternTree = {
  sequence: [some(solid), { repeat: { sequence: [space, some(solid)] }, from: 0, to: Number.POSITIVE_INFINITY }],
};

/**
 * What canonicalising leaves as it is, by an id for each set; Unicode's normal form C, which no automaton of bearable
 * size holds, is left out.
 */
export function canonicalTrees(facets: Row): readonly (readonly [id: string, tree: PatternTree])[] {
  return [
    ...(facets.lines === 'many' ? [['without carriage returns', without([[0xd, 0xd]])] as const] : []),
    ...(facets.trim === false ? [] : [['trimmed', trimmed] as const]),
    ...(facets.collapse === true ? [['collapsed', collapsed] as const] : []),
    ...(facets.case === 'lower' ? [['without capitals', without([[0x41, 0x5a]])] as const] : []),
    ...(facets.case === 'upper' ? [['without small letters', without([[0x61, 0x7a]])] as const] : []),
  ];
}

/** The lengths that compare so with a number. */
export function lengthsCompared(by: Comparator, limit: Exact): Lengths {
  const unit = 10n ** BigInt(limit.scale);
  const floor = Number(floorDivide(limit.digits, unit));
  const isWhole = limit.digits % unit === 0n;
  const upTo = (most: number): Lengths => (most < 0 ? [] : [[0, most]]);
  const from = (least: number): Lengths => [[Math.max(least, 0), Number.POSITIVE_INFINITY]];
  if (by === '=') return isWhole && floor >= 0 ? [[floor, floor]] : [];
  if (by === '<=') return upTo(floor);
  if (by === '<') return upTo(isWhole ? floor - 1 : floor);
  return from(by === '>=' && isWhole ? floor : floor + 1);
}
