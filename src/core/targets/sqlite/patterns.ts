import type { Pattern } from '../../model/index.js';
import {
  type Automaton,
  automatonOfParts,
  complement,
  NotRegular,
  type PatternTree,
  type Ranges,
  readParts,
  sizeOf,
} from '../../reason/index.js';
import { binary, call, type Enforced, type PatternPlace, printSql, type Sql } from '../sql/index.js';
import { automatonForms, fixedForms, globClass, globOf } from './glob.js';
import { spelling } from './names.js';
import { branchesOf, prefixOf, splitsOf } from './split.js';
import { walkingTriggers } from './walk.js';
import { type Windows, windowsOf } from './windows.js';

/** A text is split so many times at most: each time the parts stand deeper within calls. */
const MOST_SPLITS = 4;
/** So many parts are tried in all; what is not found by then is walked. */
const MOST_TRIES = 60;
/** A text goes so many ways from its first character on. */
const MOST_BRANCHES = 4;
/** A larger automaton has more parts than are worth trying. */
const MOST_STATES = 100;
/** A longer expression is harder to read, and slower, than a walk. */
const MOST_LENGTH = 3000;

/**
 * A pattern without any extension: one class by its forbidden complement, a few fixed forms by GLOB (which covers the
 * whole value and tells case apart), windows that no text may have, parts before and behind a separator; each only
 * where the automaton proves it equal. Anything else by triggers that walk the automaton.
 */
export function matches(of: Sql, pattern: Pattern, place: PatternPlace): Enforced {
  try {
    const parts = readParts(pattern);
    const [only, ...more] = parts;
    const tree = more.length === 0 ? only?.tree : undefined;
    const plain = tree === undefined ? null : (oneClass(tree, of) ?? union(fixedForms(tree), of));
    if (plain !== null) return { check: plain };
    const automaton = automatonOfParts(parts);
    const check = held(automaton, of, MOST_SPLITS, { left: MOST_TRIES });
    if (check !== null && printSql(check, spelling).length <= MOST_LENGTH) return { check };
    return { statements: walkingTriggers(automaton, place) };
  } catch (error) {
    if (error instanceof NotRegular) return { untranslated: `the pattern has ${error.construct}` };
    throw error;
  }
}

/** `[a-z]{2,}`: no character outside the class, and the length. */
function oneClass(tree: PatternTree, of: Sql): Sql | null {
  const inner = 'sequence' in tree && tree.sequence.length === 1 ? tree.sequence[0] : tree;
  if (inner === undefined || !('repeat' in inner) || !('one' in inner.repeat)) return null;
  const parts = [...within(inner.repeat.one, of), ...lengths(inner.from, inner.to, of)];
  return all(parts);
}

function union(forms: readonly (readonly Ranges[])[] | null, of: Sql): Sql | null {
  const globs = forms?.map((form) => binary(of, 'GLOB', { text: globOf(form) }));
  if (globs === undefined || globs.length === 0) return null;
  return globs.length === 1 && globs[0] !== undefined ? globs[0] : { any: globs };
}

interface Tries {
  left: number;
}

/** What an automaton accepts, as an expression; null where none of these says it. */
function held(automaton: Automaton, of: Sql, splits: number, tries: Tries): Sql | null {
  tries.left -= 1;
  if (tries.left < 0) return null;
  if (automaton.states.every(({ accepts }) => !accepts)) return { truth: false };
  const forms = union(automatonForms(automaton), of);
  if (forms !== null) return forms;
  const windows = windowsOf(automaton);
  if (windows !== null) return windowsSql(windows, of);
  if (splits === 0 || automaton.states.length > MOST_STATES) return null;
  const prefixed = behindPrefix(automaton, of, splits, tries);
  if (prefixed !== null) return prefixed;
  const found = [split(automaton, of, splits, tries), branches(automaton, of, splits, tries)].flatMap(
    (one) => one ?? [],
  );
  const length = (one: Sql) => printSql(one, spelling).length;
  return found.sort((a, b) => length(a) - length(b))[0] ?? null;
}

/** What every text begins with, a class each character, and then the rest. */
function behindPrefix(automaton: Automaton, of: Sql, splits: number, tries: Tries): Sql | null {
  const { prefix, rest } = prefixOf(automaton);
  if (prefix.length === 0) return null;
  const beginning = binary(of, 'GLOB', { text: `${globOf(prefix)}*` });
  const behind = held(rest, call('substr', of, { number: prefix.length + 1 }), splits - 1, tries);
  return behind === null ? null : { all: [beginning, behind] };
}

/** Texts that go different ways from their first character on, each way by itself. */
function branches(automaton: Automaton, of: Sql, splits: number, tries: Tries): Sql | null {
  const ways = branchesOf(automaton);
  if (ways.length < 2 || ways.length > MOST_BRANCHES) return null;
  const parts = ways.map((way) => held(way, of, splits - 1, tries));
  return parts.includes(null) ? null : { any: parts as readonly Sql[] };
}

function windowsSql({ shortest, longest, characters, prefix, last, forbidden }: Windows, of: Sql): Sql {
  const glob = (text: string) => binary(of, 'GLOB', { text });
  const isAny = (set: Ranges) => sizeOf(complement(set)) === sizeOf(complement(characters));
  const told = prefix.findLastIndex((set) => !isAny(set)) + 1;
  const beginning = prefix.slice(0, told).map((set) => globClass(set, false));
  const end = isAny(last) ? '' : globClass(last, false);
  const parts: Sql[] = [
    ...within(characters, of),
    ...(told > 0 ? [glob(`${beginning.join('')}*`)] : []),
    ...(end === '' ? [] : [glob(`*${end}`)]),
    ...forbidden.map(([before, after]) =>
      binary(of, 'NOT GLOB', { text: `*${globClass(before, false)}${globClass(after, false)}*` }),
    ),
    ...lengths(Math.max(shortest, 0), longest, of),
  ];
  const check = all(parts);
  // Of the empty text nothing is first or last.
  return shortest === 0 && (told > 0 || end !== '') ? { any: [binary(of, '=', { text: '' }), check] } : check;
}

/** The first of the separators by which both parts can be said. */
function split(automaton: Automaton, of: Sql, splits: number, tries: Tries): Sql | null {
  for (const { at, whole, before, behind } of splitsOf(automaton)) {
    const separator: Sql = { text: String.fromCodePoint(at) };
    const found = call('instr', of, separator);
    const head = call('substr', of, { number: 1 }, binary(found, '-', { number: 1 }));
    const tail = call('substr', of, binary(found, '+', { number: 1 }));
    const [one, first, rest] = [
      held(whole, of, splits - 1, tries),
      held(before, head, splits - 1, tries),
      held(behind, tail, splits - 1, tries),
    ];
    if (one === null || first === null || rest === null) continue;
    const parted: Sql = { all: [binary(found, '>', { number: 0 }), first, rest] };
    const isNever = 'truth' in one;
    return isNever ? parted : { any: [{ all: [binary(found, '=', { number: 0 }), one] }, parted] };
  }
  return null;
}

/** No character outside the set. */
function within(set: Ranges, of: Sql): readonly Sql[] {
  return sizeOf(complement(set)) === 0 ? [] : [binary(of, 'NOT GLOB', { text: `*${globClass(set, true)}*` })];
}

function lengths(from: number, to: number, of: Sql): readonly Sql[] {
  const length = call('length', of);
  return [
    ...(from > 0 ? [binary(length, '>=', { number: from })] : []),
    ...(to < Number.POSITIVE_INFINITY ? [binary(length, '<=', { number: to })] : []),
  ];
}

function all(parts: readonly Sql[]): Sql {
  const [only, ...more] = parts;
  if (only === undefined) return { truth: true };
  return more.length === 0 ? only : { all: parts };
}
