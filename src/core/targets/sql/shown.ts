import {
  facetRules,
  fractionOf,
  isNumeric,
  type KnownField,
  sampleOf,
  scaleOf,
  secondsOf,
  valueField,
} from '../../kinds/index.js';
import type { Fidelity } from '../../model/index.js';
import { wholeValue } from '../../operators/index.js';

/** What a column's type alters, with a value that shows it: each is stored as an allowed one. */
export function altering(why: string, shown: string | number | undefined): Fidelity {
  return { is: 'altering', why, ...(shown === undefined ? {} : { shown }) };
}

/** A number whose digits the field's other facets allow; undefined where none of those tried is. */
export function shownNumber(field: KnownField): number | undefined {
  const inner = valueField(field);
  const { minLength, maxLength } = inner.facets;
  const patterns = facetRules(inner).flatMap(({ predicate }) =>
    predicate.op === 'matches' ? [wholeValue(predicate.pattern)] : [],
  );
  const least = typeof minLength === 'number' ? minLength : 1;
  const most = typeof maxLength === 'number' ? maxLength : 15;
  const fits = (text: string) =>
    text.length >= least && text.length <= most && patterns.every((whole) => whole.test(text));
  return [12, 1, 123, 1234, 12345, 123456, 1234567, 12345678, 1234567890].find((number) => fits(String(number)));
}

/** An allowed whole number with a leading zero. */
export function shownDigits(field: KnownField): string {
  return String(sampleOf(field, 0)).replace(/^-?/, '$&0');
}

/** An allowed number as the other kind of value: its digits, or of decimal text the number. */
export function shownOtherwise(field: KnownField): string | number {
  const sample = String(sampleOf(field, 0));
  return field.facets.precision !== undefined && !isNumeric(field) ? Number(sample) : sample;
}

/** An allowed number and a little more, which a type of whole numbers or of fewer digits rounds to it. */
export function shownFraction(field: KnownField): number {
  const digits = scaleOf(field) + 1;
  return Number((Number(sampleOf(field, 0)) + 10 ** -digits).toFixed(digits));
}

/** An allowed moment with one digit more behind the second's point than there is room for, or with seconds. */
export function shownMoment(field: KnownField): string {
  if (secondsOf(field) === 'none') return `${sampleOf(field, 0)}:00`;
  const [whole = '', zone = ''] = String(sampleOf(field, 0)).split(/(?=Z$)/);
  return `${whole}${fractionOf(field) === 0 ? '.1' : '1'}${zone}`;
}

/** An allowed day or identifier without its hyphens. */
export function shownBare(field: KnownField): string {
  return String(sampleOf(field, 0)).replaceAll('-', '');
}
