import type { Connection } from '../server/connections/index.js';

/** Settings that say how values are written and read; the names in catalogues, too. */
const SPELLINGS: readonly (readonly [setting: string, value: string])[] = [
  ['TimeZone', 'UTC'],
  ['DateStyle', 'ISO, YMD'],
  ['IntervalStyle', 'postgres'],
  ['extra_float_digits', '1'],
  ['bytea_output', 'hex'],
  ['standard_conforming_strings', 'on'],
  ['array_nulls', 'on'],
  ['quote_all_identifiers', 'off'],
];

/** No statement of a session of its own lasts longer, in milliseconds. */
export const LONGEST_MS = 60_000;

/** What else bounds a session of its own: the server sees soon that nobody waits for its answer. */
const BOUNDS: readonly (readonly [setting: string, value: string])[] = [
  ['idle_in_transaction_session_timeout', '300000'],
  ['transaction_timeout', '0'],
  ['client_connection_check_interval', '1000'],
];

/**
 * Makes a session write and read values in one way, whatever the server, the database or the role has set.
 *
 * @returns what puts the settings back, for a session that is somebody else's
 */
export async function spellAlike(connection: Connection): Promise<() => Promise<void>> {
  const before = await changed(connection, SPELLINGS);
  return async () => {
    await changed(connection, before);
  };
}

/** Bounds a session that nobody else uses. Settings that the server does not have are passed over. */
export async function bounded(connection: Connection): Promise<void> {
  await changed(connection, BOUNDS);
}

/** Changes settings, and gives them as they were before. */
async function changed(
  connection: Connection,
  settings: readonly (readonly [setting: string, value: string])[],
): Promise<readonly (readonly [setting: string, value: string])[]> {
  const names = settings.map(([name]) => `'${name}'`).join(', ');
  const there = await connection.rows(`SELECT name, setting FROM pg_settings WHERE name IN (${names})`);
  const before = new Map(there.map(({ name, setting }) => [String(name), String(setting)]));
  const known = settings.filter(([name]) => before.has(name));
  const places = known.map((_, at) => `set_config($${2 * at + 1}, $${2 * at + 2}, false)`);
  await connection.rows(`SELECT ${places.join(', ')}`, known.flat());
  return known.map(([name]) => [name, before.get(name) ?? ''] as const);
}
