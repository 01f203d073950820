import type { Schema } from '../../declare/index.js';
import type { KnownField } from '../../kinds/index.js';
import { type Constraint, type Entry, type Fidelity, fieldAt } from '../../model/index.js';
import { everything } from '../target.js';
import { canonicalOf, typeOf } from './kinds.js';
import { atPath, type SchemaNode, stepsOf } from './node.js';
import { keeping, keepingCount, keepingOf } from './predicates.js';

type Model = Schema[number];

/** What a constraint is in a schema of whole documents, or why it is nothing there. */
export type Said = { readonly node: SchemaNode } | { readonly why: string; readonly needs?: 'store' };

/** What each constraint is in a document's schema: of values in canonical form, as they are stored. */
export function ledgerOf(schema: Schema, wanted = everything): readonly Entry[] {
  return schema.flatMap((model) =>
    model.constraints.filter(wanted).map((constraint): Entry => {
      const said = saidOf(constraint, model);
      const isSaid = 'node' in said;
      const fidelity: Fidelity = isSaid ? { is: 'exact' } : { is: 'absent', ...said };
      return {
        constraint: constraint.id,
        target: 'json-schema',
        becomes: isSaid ? JSON.stringify(said.node) : null,
        fidelity,
      };
    }),
  );
}

/** What one constraint is in the schema of its ruleset's documents. */
export function saidOf(constraint: Constraint, model: Model): Said {
  const { predicate, facet, owner, enforcedIn } = constraint;
  if (!enforcedIn.some((enforcer) => enforcer !== 'client')) return { why: 'only the page has it' };
  const typed = secretOf(constraint, model);
  if (typed !== null) {
    const isHeld = predicate.op === 'given' && facet && enforcedIn.includes('database');
    return isHeld ? required(typed, model) : { why: 'a secret is checked as it is typed, and stored in another form' };
  }
  switch (predicate.op) {
    case 'unique':
    case 'refersTo':
      return { why: 'a document says nothing of others: the program that writes must look them up', needs: 'store' };
    case 'bounded':
      return { why: 'who reads it sets limits' };
    case 'asks':
    case 'custom':
      return { why: 'it is a function, and a document is judged by its values alone' };
    case 'typed':
      return {
        node: predicate.of === '' ? { type: 'object' } : atPath(predicate.of, typeOf(fieldAt(model, predicate.of))),
      };
    case 'closed':
      return { node: { additionalProperties: false } };
    case 'given':
      return required(predicate.of, model);
    case 'canonical': {
      const node = canonicalOf(fieldAt(model, predicate.of));
      return node === null
        ? { why: 'no pattern says what form a character must have' }
        : { node: atPath(predicate.of, node) };
    }
    case 'distinct':
      return predicate.of === `${predicate.over}[]`
        ? { node: atPath(predicate.over, { uniqueItems: true }) }
        : { why: 'entries are compared as wholes only' };
    default:
      return facet && owner !== '' ? facetOf(constraint, model) : ruleOf(constraint, model);
  }
}

/** The stored form of a secret that a constraint mentions; null where it mentions none. */
function secretOf({ subjects, owner, facet }: Constraint, { fields }: Model): string | null {
  const paths = facet ? [owner] : subjects;
  return paths.flatMap((path) => fields[path]?.storedAs ?? []).at(0) ?? null;
}

function required(path: string, model: Model): Said {
  const field: KnownField = fieldAt(model, path);
  if (field.generated !== null) return { why: 'who writes fills it in' };
  const steps = stepsOf(path);
  const last = steps.at(-1) ?? '';
  if (last === '[]') return { node: atPath(path, { not: { type: 'null' } }) };
  const above = path.slice(0, path.length - last.length).replace(/\.$/, '');
  return { node: atPath(above, { required: [last] }) };
}

/** A facet holds wherever its value is: of every entry, too. */
function facetOf({ predicate, owner }: Constraint, model: Model): Said {
  const own = keepingOf(predicate, owner, model) ?? keepingCount(predicate, owner);
  if (own !== null) return { node: atPath(owner, own) };
  return owner.includes('[]') ? saidAs(null) : saidAs(keeping(predicate, model));
}

function ruleOf({ predicate, over }: Constraint, model: Model): Said {
  if (over !== null)
    return over.includes('[]')
      ? { why: 'lists in lists are not looked into' }
      : saidAs(keeping({ op: 'each', over, holds: predicate }, model));
  return saidAs(keeping(predicate, model));
}

function saidAs(node: SchemaNode | null): Said {
  return node === null ? { why: 'no keyword says it of two values, of a clock, or of what is worked out' } : { node };
}
