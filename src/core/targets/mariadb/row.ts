import { type PerKind, valueField } from '../../kinds/index.js';
import { bound, type RowWire, textReader } from '../sql/index.js';

const asIs = (value: unknown) => value;
/** The engine refuses an instant's `Z`, and its columns hold UTC; only the canonical spelling is rewritten. */
const spaced = (value: unknown) =>
  typeof value === 'string' ? value.replace(/^(\d{4}-\d{2}-\d{2})T(\d{2}:\d{2}:\d{2}(?:\.\d+)?)Z$/, '$1 $2') : value;

const binders: { readonly [storage: string]: Partial<PerKind<(value: unknown) => unknown>> } = {
  natural: { timestamp: spaced },
  strict: { boolean: (value) => (typeof value === 'boolean' ? String(Number(value)) : value) },
};

/** The row wire of MariaDB: values go as their text, and come back as text. */
export const wire: RowWire = {
  emptyRow: '() VALUES ()',
  givenKey: '',
  lastKey: () => 'last_insert_id()',
  place: () => '?',
  respelled: () => '',
  bind(field, value) {
    const inner = valueField(field);
    return (binders[inner.storage]?.[inner.kind] ?? asIs)(bound(inner, value));
  },
  read: textReader((text) => (text === '0' || text === '1' ? text === '1' : text)),
};
