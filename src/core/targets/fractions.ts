import { type KnownField, type Seconds, secondsOf, valueField } from '../kinds/index.js';
import { type Domain, fieldAt, type Model, type Term } from '../model/index.js';

/** The domains whose values may have a fraction of a second. */
export function isMoment(domain: Domain): boolean {
  return domain === 'time' || domain === 'instant' || domain === 'local';
}

type Fields = Pick<Model<KnownField['kind']>, 'fields' | 'ruleset'>;

/** How fine the values of a field or a literal are; null for other terms. */
export function termSeconds(term: Term, model: Fields): Seconds | null {
  if (term.term === 'field') return secondsOf(valueField(fieldAt(model, term.path)));
  if (term.term !== 'literal') return null;
  const text = String(term.value);
  return /^[0-9]{2}:[0-9]{2}$/.test(text) ? 'none' : (/\.([0-9]+)/.exec(text)?.[1]?.length ?? 0);
}

/** Both have seconds, with as many digits of a fraction, or neither, so that their canonical texts are in the order of time. */
export function sameFraction(left: Term, right: Term, model: Fields): boolean {
  const seconds = termSeconds(left, model);
  return seconds !== null && seconds === termSeconds(right, model);
}
