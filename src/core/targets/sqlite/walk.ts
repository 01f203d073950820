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
  const dead = accepting.length;
  const ends = accepting.flatMap((accepts, state) => (accepts ? [state] : []));
  const byte = (offset: string) =>
    `instr(bytes, substr(moves, 2 * (state * ${classes.length} + class) + ${offset}, 1)) - 1`;
  const events = [
    ['insert', 'BEFORE INSERT'],
    ['update', `BEFORE UPDATE OF ${name(place.column)}`],
  ] as const;
  return events.map(
    ([event, when]) => `CREATE TRIGGER IF NOT EXISTS ${name(`${place.name}_${event}`)} ${when} ON ${name(place.table)}
WHEN ${value} IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    machine (moves, bytes) AS (SELECT x'${movesOf(table)}', x'${allBytes()}'),
    walk (position, state, class, block, size) AS (
      SELECT 1, 0, ${classOf(table, `unicode(${value})`)}, substr(${value}, 1, ${BLOCK}), length(${value})
      UNION ALL
      SELECT position + 1, (${byte('1')}) * 256 + ${byte('2')},
        ${classOf(table, `unicode(CASE position % ${BLOCK} WHEN 0 THEN substr(${value}, position + 1, 1) ELSE substr(block, position % ${BLOCK} + 1, 1) END)`)},
        CASE position % ${BLOCK} WHEN 0 THEN substr(${value}, position + 1, ${BLOCK}) ELSE block END, size
      FROM walk, machine WHERE class IS NOT NULL AND state < ${dead}
    )
  SELECT 1 FROM walk WHERE position = size + 1 AND state IN (${ends.join(', ')})
)
BEGIN
  SELECT RAISE(ABORT, ${spelling.text(place.name)});
END;`,
  );
}

/** The length of a block: for texts of 100,000 characters, finding blocks and characters in them take about as long. */
const BLOCK = 256;

/** A state that a character leads nowhere from leads to the number after the last state. */
function movesOf({ next }: TransitionTable): string {
  const hex = (state: number) => (state < 0 ? next.length : state).toString(16).padStart(4, '0');
  return next.flatMap((row) => row.map(hex)).join('');
}

function allBytes(): string {
  return Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** The number of a character's class; NULL for one that the automaton never takes. */
function classOf({ classes }: TransitionTable, point: string): string {
  const whens = classes.flatMap((set, at) =>
    set.map(([from, to]) => `WHEN point BETWEEN ${from} AND ${to} THEN ${at}`),
  );
  return `(SELECT CASE ${whens.join(' ')} END FROM (SELECT ${point} AS point))`;
}
