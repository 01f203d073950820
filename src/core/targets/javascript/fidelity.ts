import type { Schema } from '../../declare/index.js';
import { allFields, type Constraint, type Entry, type Fidelity, type Path, type Predicate } from '../../model/index.js';
import { isLookup } from '../../operators/index.js';
import { everything } from '../target.js';
import { Names } from './names.js';
import { predicateJs } from './predicates.js';
import { printJs } from './print.js';
import { type Making, scopeOf, variableOf } from './scope.js';

/** Everything about the one record is held; what needs the stored records is the database's. */
export function ledgerOf(schema: Schema, wanted = everything): readonly Entry[] {
  return schema.flatMap((model) =>
    model.constraints.filter(wanted).map((constraint) => ({
      constraint: constraint.id,
      target: 'javascript',
      becomes: becomes(constraint, model),
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

function becomes({ predicate, enforcedIn, subjects }: Constraint, model: Schema[number]): string | null {
  if (predicate.op === 'typed') return 'reading: what is not in the grammar is refused';
  if (predicate.op === 'canonical') return 'made canonical before it is checked';
  if (predicate.op === 'closed') return 'every key is looked up among the declared ones';
  if (predicate.op === 'bounded') return 'what is too large is refused unread';
  if (predicate.op === 'asks') return 'checkAsync asks the function';
  if (isLookup(predicate) || enforcedIn.every((one) => one === 'database')) return null;
  const text = failingText(predicate, subjects, model);
  return text === null ? null : `fails where ${text}`;
}

/** When a predicate is false, in the module's own code, with what stands at its head written out. */
function failingText(predicate: Predicate, subjects: readonly Path[], model: Schema[number]): string | null {
  const making: Making = { model, names: new Names(), constants: new Map(), variables: new Map() };
  for (const field of allFields(model)) variableOf(making, field);
  const truths = predicateJs(predicate, { ...scopeOf(making), given: new Set(subjects) });
  if (truths === null) return null;
  return [...making.constants].reduce(
    (text, [constant, is]) => text.replaceAll(new RegExp(`\\b${constant}\\b`, 'g'), () => `(${printJs(is)})`),
    printJs(truths.isFalse),
  );
}
