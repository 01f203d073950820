import { bound, type RowWire, textReader } from '../sql/index.js';
import { quoteText } from './names.js';

/** A name as a function takes it that reads it as a text of its own. */
function unquoted(name: string): string {
  return name.startsWith('"') ? name.slice(1, -1).replaceAll('""', '"') : name;
}

/** The row wire of PostgreSQL: the engine reads every value from its text, and gives it back as text. */
export const wire: RowWire = {
  emptyRow: 'DEFAULT VALUES',
  givenKey: 'OVERRIDING SYSTEM VALUE ',
  lastKey: (table, key) => `currval(pg_get_serial_sequence(${quoteText(table)}, ${quoteText(unquoted(key))}))`,
  place: (at) => `$${at}`,
  bind: bound,
  read: textReader((text) => (/^t(?:rue)?$|^f(?:alse)?$/.test(text) ? text.startsWith('t') : text)),
};
