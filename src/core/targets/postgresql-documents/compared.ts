import type { Schema } from '../../declare/index.js';
import { fractionOf, isNumeric, type KnownField, valueDomain, valueField } from '../../kinds/index.js';
import { fieldAt, type Path, type PredicateOf, type Term } from '../../model/index.js';
import { sameFraction } from '../fractions.js';
import { quoteText } from '../postgresql/names.js';

type Model = Schema[number];

/**
 * A comparison of two values of a document, or of one with a day or a time, as the condition of a CHECK; null where the
 * values as they are written have another order than they have. Where one is absent it is unknown, which breaks nothing.
 *
 * @param typed the condition in which a field's value is one of its kind
 */
export function compared(
  { left, by, right, domain }: PredicateOf<'compare'>,
  model: Model,
  typed: (path: Path) => string,
): string | null {
  const fields = [left, right].flatMap((term) => (term.term === 'field' ? [fieldIn(term.path, model)] : []));
  if (fields.includes(null) || fields.length === 0) return null;
  const known = fields as readonly KnownField[];
  const isMoment = known.every(
    (field) => valueDomain(field) === domain && (domain === 'date' || (MOMENTS.has(domain) && fractionOf(field) === 0)),
  );
  const isNumber = known.length === 2 && known.every(isPlainNumber);
  const read = isMoment && sameFraction(left, right, model) ? asText : isNumber ? asNumber : null;
  const sides = read === null ? [] : [left, right].map((term) => sideOf(term, read));
  const [a = null, b = null] = sides;
  if (a === null || b === null) return null;
  const readable = [left, right].flatMap((term) => (term.term === 'field' ? [typed(term.path)] : []));
  return `CASE WHEN ${readable.join(' AND ')} THEN ${a} ${by} ${b} ELSE true END`;
}

/** Their canonical form is as long for each, and in the order of its digits. */
const MOMENTS: ReadonlySet<string> = new Set(['time', 'instant', 'local']);

/** A decimal of many digits is text. */
function isPlainNumber(field: KnownField): boolean {
  return valueDomain(field) === 'number' && (field.facets.precision === undefined || isNumeric(field));
}

function fieldIn(path: string, model: Model): KnownField | null {
  return path.includes('[') ? null : valueField(fieldAt(model, path));
}

function sideOf(term: Term, read: (at: string) => string): string | null {
  if (term.term === 'literal') return quoteText(String(term.value));
  return term.term === 'field' ? read(['document', ...term.path.split('.').map(quoteText)].join(' -> ')) : null;
}

function asText(at: string): string {
  return `((${at}) #>> '{}') COLLATE "C"`;
}

function asNumber(at: string): string {
  return `(${at})::numeric`;
}
