import { isTrimmed, type KnownField, valueField } from '../../kinds/index.js';
import type { Fidelity, Pattern } from '../../model/index.js';
import { factsOf, NotRegular, readPattern } from '../../reason/index.js';

/** A B-tree entry holds so many bytes; the engine refuses a longer one with 54000, whatever the column allows. */
const MOST_BYTES = 2704;
/** Of one character in UTF-8. */
const MOST_BYTES_EACH = 4;

/** Exact where no value can be longer than an index entry. */
export function unique(fields: readonly KnownField[]): Fidelity {
  const bytes = fields.filter(isTrimmed).reduce((sum, field) => sum + MOST_BYTES_EACH * longest(valueField(field)), 0);
  if (bytes <= MOST_BYTES) return { is: 'exact' };
  return { is: 'stricter', why: 'an index entry over about 2,700 bytes is refused; give the text a maxLength' };
}

/** The most characters that a text's facets allow. */
function longest({ facets }: KnownField): number {
  const most = typeof facets.maxLength === 'number' ? facets.maxLength : Number.POSITIVE_INFINITY;
  return facets.pattern == null ? most : Math.min(most, longestOf(facets.pattern as Pattern));
}

function longestOf(pattern: Pattern): number {
  try {
    return factsOf(readPattern(pattern)).longest;
  } catch (error) {
    if (error instanceof NotRegular) return Number.POSITIVE_INFINITY;
    throw error;
  }
}
