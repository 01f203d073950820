import {
  codesOf,
  hasIntegerCodes,
  isNumeric,
  isTextual,
  isTrimmed,
  type KnownField,
  type PerKind,
  secondsOf,
  valueField,
  whiteSpace,
} from '../../kinds/index.js';
import type { SchemaNode } from './node.js';

const text: SchemaNode = { type: 'string', pattern: '^[^\\u0000\\uFFFD\\p{Cs}]*$' };

const DAY =
  '(?!0000)(?:[0-9]{4}-(?:(?:0[13578]|1[02])-(?:0[1-9]|[12][0-9]|3[01])|(?:0[469]|11)-(?:0[1-9]|[12][0-9]|30)|02-(?:0[1-9]|1[0-9]|2[0-8]))|(?:[0-9]{2}(?:0[48]|[2468][048]|[13579][26])|(?:[02468][048]|[13579][26])00)-02-29)';

function clockOf(field: KnownField): string {
  const minutes = '(?:[01][0-9]|2[0-3]):[0-5][0-9]';
  const seconds = secondsOf(field);
  if (seconds === 'none') return minutes;
  return `${minutes}:[0-5][0-9]${seconds === 0 ? '' : `\\.[0-9]{${seconds}}`}`;
}

const moment =
  (pattern: (field: KnownField) => string) =>
  (field: KnownField): SchemaNode => ({
    type: 'string',
    pattern: `^${pattern(field)}$`,
  });
const plain = (node: SchemaNode) => (): SchemaNode => node;

/** What a stored value of each kind is in a document. */
const types: PerKind<(field: KnownField) => SchemaNode> = {
  text: plain(text),
  email: plain(text),
  url: plain(text),
  uuid: plain(text),
  ip: plain(text),
  integer: plain({ type: 'integer', minimum: Number.MIN_SAFE_INTEGER, maximum: Number.MAX_SAFE_INTEGER }),
  decimal: (field) =>
    isNumeric(field) ? { type: 'number' } : { type: 'string', pattern: '^-?(?:0|[1-9][0-9]*)(?:\\.[0-9]+)?$' },
  boolean: plain({ type: 'boolean' }),
  date: moment(() => DAY),
  time: moment(clockOf),
  timestamp: moment((field) => `${DAY}T${clockOf(field)}Z`),
  dateTime: moment((field) => `${DAY}T${clockOf(field)}`),
  choice: (field) => ({ type: hasIntegerCodes(field) ? 'integer' : 'string' }),
  record: plain({ type: 'object' }),
  list: plain({ type: 'array' }),
  reference: plain({}),
};

export function typeOf(field: KnownField): SchemaNode {
  const held = valueField(field);
  return types[held.kind](held);
}

/** The characters of white space, those that follow one another as a range. */
const space = whiteSpace
  .filter((point) => !whiteSpace.includes(point - 1))
  .map((first) => {
    let last = first;
    while (whiteSpace.includes(last + 1)) last += 1;
    const spelled = (point: number) => `\\u${point.toString(16).padStart(4, '0')}`;
    return first === last ? spelled(first) : `${spelled(first)}-${spelled(last)}`;
  })
  .join('');

/** The outer white space, letter case and single spaces of a text in canonical form; null where a pattern can't say it. */
export function canonicalOf(field: KnownField): SchemaNode | null {
  const { facets } = valueField(field);
  if (!isTextual(field) || facets.unicode != null) return null;
  const parts = [
    isTrimmed(field) ? `(?:[^${space}](?:[\\s\\S]*[^${space}])?)` : '[\\s\\S]+',
    ...(facets.case === 'lower' ? ['[^A-Z]*'] : facets.case === 'upper' ? ['[^a-z]*'] : []),
    ...(facets.collapse === true ? [`(?:[^${space}]| (?=[^${space}]))*`] : []),
    ...(facets.lines === 'many' ? ['[^\\r]*'] : []),
  ];
  const [first = '', ...others] = parts.map((part) => ({ pattern: `^${part}$` }));
  return others.length === 0 ? (first as SchemaNode) : { allOf: [first, ...others] };
}

export function codesIn(field: KnownField): readonly (string | number)[] {
  return codesOf(valueField(field)) as readonly (string | number)[];
}
