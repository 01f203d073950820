import { valueDomain, valueField } from '../../kinds/index.js';
import { bound, type RowWire, textReader } from '../sql/index.js';
import { quoteText, spelling } from './names.js';

/** Domains whose texts begin with a day. */
const WITH_DAY: ReadonlySet<string> = new Set(['date', 'instant', 'local']);

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
  // JSON has days and moments in ISO 8601, whatever DateStyle says.
  respelled: (fields) =>
    fields
      .filter((field) => field.item === null && WITH_DAY.has(valueDomain(valueField(field))))
      .map(({ column }) => `, to_json(${spelling.name(column)}) #>> '{}' AS ${spelling.name(column)}`)
      .join(''),
  read: textReader((text) => (/^t(?:rue)?$|^f(?:alse)?$/.test(text) ? text.startsWith('t') : text)),
};
