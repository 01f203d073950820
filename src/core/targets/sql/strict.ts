import { fractionOf, type KnownField } from '../../kinds/index.js';
import type { Pattern } from '../../model/index.js';

/** The canonical spelling of a whole number. */
export const wholePattern: Pattern = { source: '0|-?[1-9][0-9]*', flags: 'u' };

/** The canonical spelling of a decimal: no zero that ends its fraction, and zero without a sign. */
export const digitsPattern: Pattern = {
  source: '0|-?(?:[1-9][0-9]*(?:\\.[0-9]*[1-9])?|0\\.[0-9]*[1-9])',
  flags: 'u',
};

const DAY =
  '(?:[0-9]{4}-(?:(?:0[13578]|1[02])-(?:0[1-9]|[12][0-9]|3[01])|(?:0[469]|11)-(?:0[1-9]|[12][0-9]|30)|02-(?:0[1-9]|1[0-9]|2[0-8]))|(?:[0-9]{2}(?:0[48]|[2468][048]|[13579][26])|(?:[02468][048]|[13579][26])00)-02-29)';

/** The canonical text of a day, a time or both (RFC 3339's forms); real days only, year 0000 still among them. */
export function momentPattern(field: KnownField, has: { day?: true; time?: true; end?: string }): Pattern {
  const digits = fractionOf(field);
  const time = `(?:[01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9]${digits === 0 ? '' : `\\.[0-9]{${digits}}`}`;
  const parts = [...(has.day ? [DAY] : []), ...(has.time ? [`${time}${has.end ?? ''}`] : [])];
  return { source: parts.join('T'), flags: 'u' };
}
