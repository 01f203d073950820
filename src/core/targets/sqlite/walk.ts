import type { Automaton } from '../../reason/index.js';
import { spelling } from './names.js';

/**
 * Triggers that walk an automaton over a column, for patterns that no GLOB holds: the engine has no regular
 * expressions of its own, and a file must open without extensions.
 */
export function walkingTriggers(
  automaton: Automaton,
  place: { readonly table: string; readonly column: string; readonly name: string },
): readonly string[] {
  const { name } = spelling;
  const value = `NEW.${name(place.column)}`;
  const moves = automaton.states.flatMap(({ moves }, state) =>
    moves.flatMap(({ on, to }) => on.map(([low, high]) => `(${state}, ${low}, ${high}, ${to})`)),
  );
  const accepting = automaton.states.flatMap(({ accepts }, state) => (accepts ? [state] : []));
  const events = [
    ['insert', 'BEFORE INSERT'],
    ['update', `BEFORE UPDATE OF ${name(place.column)}`],
  ] as const;
  return events.map(
    ([event, when]) => `CREATE TRIGGER IF NOT EXISTS ${name(`${place.name}_${event}`)} ${when} ON ${name(place.table)}
WHEN ${value} IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    moves (state, low, high, next) AS (VALUES ${moves.join(', ')}),
    walk (position, state) AS (
      SELECT 1, 0
      UNION ALL
      SELECT position + 1, moves.next FROM walk JOIN moves ON moves.state = walk.state
        AND unicode(substr(${value}, position, 1)) BETWEEN moves.low AND moves.high
      WHERE position <= length(${value})
    )
  SELECT 1 FROM walk WHERE position = length(${value}) + 1 AND state IN (${accepting.join(', ')})
)
BEGIN
  SELECT RAISE(ABORT, ${spelling.text(place.name)});
END;`,
  );
}
