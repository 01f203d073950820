import type { Schema } from '../../declare/index.js';
import type { Constraint, Entry, Fidelity } from '../../model/index.js';
import { isLookup } from '../../operators/index.js';
import { type Context, predicateJs } from './predicates.js';
import { printJs } from './print.js';

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

function fidelityOf({ predicate }: Constraint): Fidelity {
  if (!isLookup(predicate)) return { is: 'exact' };
  return { is: 'absent', why: 'only the store knows the other records: the database holds it', needs: 'store' };
}

function becomes({ predicate, id, subjects }: Constraint): string | null {
  if (predicate.op === 'typed') return 'reading: what is not in the grammar is refused';
  if (predicate.op === 'canonical') return 'made canonical before it is checked';
  if (predicate.op === 'closed') return 'every key is looked up among the declared ones';
  const context: Context = {
    name: id,
    given: new Set(subjects),
    constant: (_name, is) => `(${printJs(is)})`,
  };
  const truths = predicateJs(predicate, context);
  return truths === null ? null : `fails where ${printJs(truths.isFalse)}`;
}
