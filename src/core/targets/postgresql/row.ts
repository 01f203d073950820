import { bound, type RowWire, textReader } from '../sql/index.js';

/** The row wire of PostgreSQL: the engine reads every value from its text, and gives it back as text. */
export const wire: RowWire = {
  emptyRow: 'DEFAULT VALUES',
  givenKey: 'OVERRIDING SYSTEM VALUE ',
  place: (at) => `$${at}`,
  bind: bound,
  read: textReader((text) => (/^t(?:rue)?$|^f(?:alse)?$/.test(text) ? text.startsWith('t') : text)),
};
