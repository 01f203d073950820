import { fractionOf, type KnownField, valueField } from '../kinds/index.js';
import { type Domain, fieldAt, type Model, type Term } from '../model/index.js';

/** The domains whose values may have a fraction of a second. */
export function isMoment(domain: Domain): boolean {
  return domain === 'time' || domain === 'instant' || domain === 'local';
}

/** Both have as many digits of a second's fraction, so that their canonical texts stand in the order of time. */
export function sameFraction(
  left: Term,
  right: Term,
  model: Pick<Model<KnownField['kind']>, 'fields' | 'ruleset'>,
): boolean {
  const digits = (term: Term): number | null => {
    if (term.term === 'field') return fractionOf(valueField(fieldAt(model, term.path)));
    return term.term === 'literal' ? (/\.([0-9]+)/.exec(String(term.value))?.[1]?.length ?? 0) : null;
  };
  return digits(left) !== null && digits(left) === digits(right);
}
