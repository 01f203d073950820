import type { KnownField } from '../../kinds/index.js';
import { mostUnits } from '../../meaning/index.js';
import type { Table } from '../sql/index.js';

/** A binary collation that doesn't pad: equal is what has the same code points, and no others. */
const BINARY = 'CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin';
/** All the varchars of a row share 65,535 bytes; some are left for the other columns. */
const MOST_ROW_BYTES = 60_000;
/** An index entry holds 3,072 bytes. */
export const MOST_INDEXED = 767;
const BYTES_EACH = 4;

/** True for a column that an index must hold whole: a key, or what refers to one. */
export function isLookedUp(field: KnownField, { model, fields }: Table): boolean {
  const own = fields.find(({ path }) => path === field.path);
  return field.path === model.key || (own !== undefined && own.key !== null);
}

/**
 * The type of text with at most so many characters; the limits of every layer say how many there are at the very most. A varchar has room for one more: what is too long is cut to that
 * by the engine where its end is blank, and is too long still. Long text, and what finds no room in its row, is stored
 * apart.
 */
export function textType(most: number, field: KnownField, table: Table): string {
  const bytes = BYTES_EACH * (Math.min(most, mostUnits(field)) + 1);
  if (isLookedUp(field, table) || bytes <= roomFor(field, table))
    return `varchar(${Math.min(most, MOST_INDEXED) + 1}) ${BINARY}`;
  const type = bytes < 2 ** 16 ? 'text' : bytes < 2 ** 24 ? 'mediumtext' : 'longtext';
  return `${type} ${BINARY}`;
}

/** What the shorter texts of the row leave. */
function roomFor(field: KnownField, { lengths }: Table): number {
  const size = (length: number) => BYTES_EACH * (length + 1);
  const own = lengths().get(field.path) ?? 0;
  let taken = 0;
  let isBefore = true;
  for (const [path, length] of lengths()) {
    if (path === field.path) isBefore = false;
    else if (length < own || (length === own && isBefore)) taken += Math.min(size(length), BYTES_EACH * MOST_INDEXED);
  }
  return Math.min(MOST_ROW_BYTES - taken, BYTES_EACH * 1024);
}
