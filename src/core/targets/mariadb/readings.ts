import { hasIntegerCodes, type KnownField, type PerKind, scaleOf } from '../../kinds/index.js';
import type { Pattern } from '../../model/index.js';
import { call, column, digitsPattern, momentPattern, type Sql, wholePattern } from '../sql/index.js';
import { quoteText } from './names.js';
import { matchesPattern } from './patterns.js';

const asIs = (field: KnownField): Sql => column(field.column);

/** The value in the column's text; NULL where it is none, as the CHECK of its type says it. */
function readAs(type: string, field: KnownField, pattern: Pattern, of: Sql = asIs(field)): Sql {
  return { cases: [[matchesPattern(asIs(field), pattern), { cast: of, to: type }]] };
}

function momentAs(type: string, has: { day?: true; time?: true; end?: string }) {
  return (field: KnownField): Sql => {
    const spaced = call(
      'replace',
      call('replace', asIs(field), { text: 'T' }, { text: ' ' }),
      { text: 'Z' },
      { text: '' },
    );
    return readAs(type, field, momentPattern(field, has), spaced);
  };
}

const whole = (field: KnownField): Sql => readAs('DECIMAL(20,0)', field, wholePattern);

const strict: PerKind<(field: KnownField) => Sql> = {
  text: asIs,
  email: asIs,
  url: asIs,
  uuid: asIs,
  ip: asIs,
  integer: (field) => (field.generated === 'identity' ? asIs(field) : whole(field)),
  decimal: (field) => readAs(`DECIMAL(65,${Math.min(30, scaleOf(field) + 10)})`, field, digitsPattern),
  choice: (field) => (hasIntegerCodes(field) ? whole(field) : asIs(field)),
  date: momentAs('DATE', { day: true }),
  time: momentAs('TIME(6)', { time: true }),
  timestamp: momentAs('DATETIME(6)', { day: true, time: true, end: 'Z' }),
  dateTime: momentAs('DATETIME(6)', { day: true, time: true }),
  boolean: (field) => ({ left: asIs(field), by: '=', right: { text: '1' } }),
  list: asIs,
  record: asIs,
  reference: asIs,
};

const natural: PerKind<(field: KnownField) => Sql> = {
  ...strict,
  integer: asIs,
  decimal: asIs,
  choice: asIs,
  date: asIs,
  time: asIs,
  timestamp: asIs,
  dateTime: asIs,
  boolean: asIs,
};

const readings = { natural, strict };

/**
 * No CHECK may mention a column that counts, nor one that a foreign key clears; what such a key holds has passed the
 * checks where it is the key.
 */
export function checkable({ generated, facets }: KnownField): boolean {
  return generated !== 'identity' && facets.onDelete !== 'clear';
}

export function reading(field: KnownField): Sql | null {
  if (!checkable(field)) return null;
  return readings[field.storage][field.kind](field);
}

/** The moment in UTC, as the column holds it. */
export function nowOf({ storage, facets }: KnownField): string {
  const fraction = typeof facets.fraction === 'number' ? facets.fraction : 0;
  const now = `utc_timestamp(${fraction})`;
  return storage === 'strict' ? `concat(replace(${now}, ' ', 'T'), 'Z')` : now;
}

/** Version 4 of RFC 9562: the engine's own uuid() tells the machine and the time. */
const UUID = `lower(concat_ws('-', hex(random_bytes(4)), hex(random_bytes(2)), concat('4', substr(hex(random_bytes(2)), 2)), concat('8', substr(hex(random_bytes(2)), 2)), hex(random_bytes(6))))`;

/** What fills a column that nobody sends; null where the server does. */
export function filling(field: KnownField): string | null {
  const { generated } = field;
  const fillings: { readonly [by: string]: string } = {
    identity: 'AUTO_INCREMENT',
    uuid: `DEFAULT (${UUID})`,
    created: `DEFAULT (${nowOf(field)})`,
    updated: `DEFAULT (${nowOf(field)})`,
  };
  return generated === null ? null : (fillings[generated] ?? null);
}

/** In a column of text a number or a truth stands as its text; long text takes its default in parentheses only. */
export function defaultOf({ storage, default: value }: KnownField, spelled: string): string {
  const asText = typeof value === 'boolean' ? String(Number(value)) : String(value);
  const isText = storage === 'strict' && typeof value !== 'string' && value !== null;
  return `DEFAULT (${isText ? quoteText(asText) : spelled})`;
}
