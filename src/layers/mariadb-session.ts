import type { Connection } from '../server/connections/index.js';

/** Modes that say which values are taken. All others say how statements are written, or what is given back. */
const OF_VALUES = new Set([
  'STRICT_TRANS_TABLES',
  'STRICT_ALL_TABLES',
  'NO_ZERO_IN_DATE',
  'NO_ZERO_DATE',
  'ALLOW_INVALID_DATES',
  'ERROR_FOR_DIVISION_BY_ZERO',
  'NO_AUTO_VALUE_ON_ZERO',
  'NO_ENGINE_SUBSTITUTION',
  'TIME_ROUND_FRACTIONAL',
  'EMPTY_STRING_IS_NULL',
]);

/** No statement of a session of its own lasts longer, in seconds. */
const LONGEST = 60;

/**
 * Makes a session write and read values in one way, whatever the server has set. Which values are taken stays as it is.
 *
 * @returns what puts the settings back, for a session that is somebody else's
 */
export async function spellAlike(connection: Connection): Promise<() => Promise<void>> {
  const [before] = await connection.rows(
    `SELECT @@time_zone AS time_zone, @@sql_mode AS sql_mode, @@character_set_client AS character_set_client,
      @@character_set_results AS character_set_results, @@collation_connection AS collation_connection`,
  );
  const modes = String(before?.sql_mode ?? '').split(',');
  const kept = modes.filter((mode) => OF_VALUES.has(mode)).join();
  await connection.run(`SET time_zone = '+00:00', sql_mode = '${kept}', NAMES utf8mb4`);
  return async () => {
    const settings = Object.entries(before ?? {}).map(([name, value]) => `${name} = '${value}'`);
    if (settings.length > 0) await connection.run(`SET ${settings.join(', ')}`);
  };
}

/** Bounds a session that nobody else uses. */
export async function bounded(connection: Connection): Promise<void> {
  await connection.run(`SET max_statement_time = ${LONGEST}`);
}
