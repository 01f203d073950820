import { type Automaton, type TransitionTable, tableOf } from '../../reason/index.js';
import type { PatternPlace } from '../sql/index.js';
import { spelling } from './names.js';

/**
 * Triggers that walk an automaton over a column, for patterns that no CHECK holds: the engine has no regular
 * expressions of its own, and a file must open without extensions. The automaton is a blob, two bytes for the next state
 * of each state and class of characters; a byte's number is its place in a blob of all bytes, as the engine has no
 * function for it. The text is read in blocks: to find a character the engine counts from the beginning.
 */
export function walkingTriggers(automaton: Automaton, place: PatternPlace): readonly string[] {
  const { name } = spelling;
  const value = `NEW.${name(place.column)}`;
  const table = tableOf(automaton);
  const { classes, accepting } = table;
  const ends = accepting.flatMap((accepts, state) => (accepts ? [`x'${hexOf(state)}'`] : []));
  const byte = (at: number) => `(instr(bytes, substr(move, ${at}, 1)) - 1)`;
  const classHere = classOf(table, `unicode(substr(block, (position - 1) % ${BLOCK} + 1, 1))`);
  const events = [
    ['insert', 'BEFORE INSERT'],
    ['update', `BEFORE UPDATE OF ${name(place.column)}`],
  ] as const;
  return events.map(
    ([event, when]) => `CREATE TRIGGER IF NOT EXISTS ${name(`${place.name}_${event}`)} ${when} ON ${name(place.table)}
WHEN ${value} IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    machine (moves, bytes) AS (SELECT x'${movesOf(table)}', x'${allBytes()}'),
    walk (position, move, block, size) AS (
      SELECT 1, x'${hexOf(0)}', substr(${value}, 1, ${BLOCK}), length(${value})
      UNION ALL
      SELECT position + 1,
        substr(moves, 2 * ((${byte(1)} * 256 + ${byte(2)}) * ${classes.length} + ${classHere}) + 1, 2),
        CASE position % ${BLOCK} WHEN 0 THEN substr(${value}, position + 1, ${BLOCK}) ELSE block END, size
      FROM walk, machine WHERE position <= size AND move <> x'${hexOf(accepting.length)}'
    )
  SELECT 1 FROM walk WHERE position = size + 1 AND move IN (${ends.join(', ')})
)
BEGIN
  SELECT RAISE(ABORT, ${spelling.text(place.name)});
END;`,
  );
}

/** The length of a block: for texts of 100,000 characters, finding blocks and characters in them take about as long. */
const BLOCK = 256;

/** A state in two bytes. */
function hexOf(state: number): string {
  return state.toString(16).padStart(4, '0');
}

/** A state that a character leads nowhere from leads to the number after the last state. */
function movesOf({ next }: TransitionTable): string {
  return next.flatMap((row) => row.map((state) => hexOf(state < 0 ? next.length : state))).join('');
}

function allBytes(): string {
  return Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** So many ranges of characters are looked through one after the other. */
const FEW_RANGES = 12;

/** The number of a character's class; NULL for one that the automaton never takes. */
function classOf({ classes }: TransitionTable, point: string): string {
  const ranges = classes
    .flatMap((set, at) => set.map(([from, to]) => ({ from, to, at })))
    .sort((a, b) => a.from - b.from);
  return `(SELECT ${searched(ranges)} FROM (SELECT ${point} AS point))`;
}

interface ClassRange {
  readonly from: number;
  readonly to: number;
  readonly at: number;
}

/** Many ranges are searched by halves. */
function searched(ranges: readonly ClassRange[]): string {
  if (ranges.length <= FEW_RANGES)
    return `CASE ${ranges.map(({ from, to, at }) => `WHEN point BETWEEN ${from} AND ${to} THEN ${at}`).join(' ')} END`;
  const half = Math.floor(ranges.length / 2);
  const [low, high] = [ranges.slice(0, half), ranges.slice(half)];
  return `CASE WHEN point < ${high[0]?.from} THEN ${searched(low)} ELSE ${searched(high)} END`;
}
