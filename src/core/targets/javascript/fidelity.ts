import type { Schema } from '../../declare/index.js';
import type { Constraint, Entry, Fidelity } from '../../model/index.js';
import { isLookup } from '../../operators/index.js';

/** Everything about the one record is held; what needs the stored records is the database's. */
export function ledgerOf(schema: Schema): readonly Entry[] {
  return schema.flatMap(({ constraints }) =>
    constraints.map((constraint) => ({
      constraint: constraint.id,
      target: 'javascript',
      becomes: becomes(constraint),
      fidelity: fidelityOf(constraint),
    })),
  );
}

function fidelityOf({ predicate, enforcedIn }: Constraint): Fidelity {
  if (predicate.op === 'asks') return { is: 'absent', why: 'checkAsync asks it, last of all; check alone does not' };
  if (isLookup(predicate))
    return { is: 'absent', why: 'only the store knows the other records: the database holds it', needs: 'store' };
  if (!enforcedIn.includes('server'))
    return { is: 'absent', why: `it is enforced in ${enforcedIn.join(' and ')} only` };
  return { is: 'exact' };
}

function becomes({ predicate, facet, enforcedIn }: Constraint): string | null {
  if (predicate.op === 'typed') return 'reading: what is not in the grammar is refused';
  if (predicate.op === 'canonical') return 'made canonical before it is checked';
  if (predicate.op === 'closed') return 'every key is looked up among the declared ones';
  if (predicate.op === 'bounded') return 'what is too large is refused unread';
  if (predicate.op === 'asks') return 'checkAsync asks the function';
  if (isLookup(predicate) || enforcedIn.every((one) => one === 'database')) return null;
  return facet ? 'a test of the value' : 'a test over the fields that it mentions';
}
