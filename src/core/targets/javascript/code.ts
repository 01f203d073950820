import type { KnownField } from '../../kinds/index.js';
import { type Constraint, type Enforcer, isSent } from '../../model/index.js';
import { isLookup } from '../../operators/index.js';
import { predicateJs } from './predicates.js';
import type { Making, Scope } from './scope.js';
import { all, any, call, type Js, literal, member, name, type Statement } from './tree.js';

/** A field as code. */
export interface FieldCode {
  /** The variables that its statements set. */
  readonly declares: readonly string[];
  readonly read: readonly Statement[];
  /** Fills missing keys, once it is known that what they are in is there; then it is judged. */
  readonly fills: readonly Statement[];
  /** Makes unticked boxes absent, where what they are in is. */
  readonly empties: readonly Statement[];
  readonly judge: readonly Statement[];
  readonly value: Js;
  /** When all of it is absent. */
  readonly isAbsent: Js;
}

/** Where a field's code stands. */
export interface Place {
  readonly scope: Scope;
  /** What came in for it. */
  readonly raw: Js;
  readonly pointer: readonly (string | Js)[];
  /** It is read and judged at once, so that a fast test may spare both. */
  readonly atOnce: boolean;
}

/** Makes the code of a field within another, whatever it is. */
export type Inner = (field: KnownField, place: Place) => FieldCode;

/** `violations = fail(…)`. */
export function failure({ id, message }: Pick<Constraint, 'id' | 'message'>, pointer: Js): Statement {
  return { set: 'violations', is: call('fail', name('violations'), pointer, literal(id), literal(message)) };
}

export function pointerJs(parts: readonly (string | Js)[]): Js {
  const texts = parts.filter((part): part is string => typeof part === 'string');
  return texts.length === parts.length ? literal(texts.join('')) : { parts };
}

/** Code that runs only where one of the enforcers is; none where it is neither a page nor a server. */
export function guarded(enforcedIn: readonly Enforcer[], statements: readonly Statement[]): readonly Statement[] {
  const [client, server] = [enforcedIn.includes('client'), enforcedIn.includes('server')];
  if (statements.length === 0 || !(client || server)) return [];
  if (client && server) return statements;
  return [{ when: client ? name('client') : { not: name('client') }, does: statements }];
}

/** The facets of a field that a page or a server judges. */
export function ownConstraints({ model }: Making, path: string): readonly Constraint[] {
  return model.constraints.filter(
    ({ facet, owner, predicate, enforcedIn }) =>
      facet && owner === path && !isLookup(predicate) && enforcedIn.some((one) => one !== 'database'),
  );
}

/** Tells that a field could not be read, or that it was too much to be. */
export function refusal(making: Making, field: KnownField, over: Js, pointer: Js): readonly Statement[] {
  return ownConstraints(making, field.path)
    .filter(({ predicate }) => predicate.op === 'typed')
    .map(({ id, message }) => ({
      set: 'violations',
      is: call('refuse', name('violations'), over, pointer, literal(id), literal(message)),
    }));
}

/** Facets of a field that is given, each told where it is broken. */
export function facetStatements(own: readonly Constraint[], scope: Scope, pointer: Js): readonly Statement[] {
  return own.flatMap((constraint): readonly Statement[] => {
    if (constraint.predicate.op === 'given') return [];
    const truths = predicateJs(constraint.predicate, scope);
    if (truths === null) return [];
    const { unfit } = scope;
    const isFalse = unfit?.constraint === constraint.id ? any(unfit.where, truths.isFalse) : truths.isFalse;
    const isBroken = all(...boundsOf(constraint, own, scope), isFalse);
    return guarded(constraint.enforcedIn, [{ when: isBroken, does: [failure(constraint, pointer)] }]);
  });
}

/** What must hold before the pattern of a field is checked: its text is no longer than it may be. */
function boundsOf({ id }: Constraint, own: readonly Constraint[], scope: Scope): readonly Js[] {
  if (!id.endsWith('.pattern')) return [];
  return own
    .filter(({ id }) => id.endsWith('.maxLength'))
    .flatMap((longest) => predicateJs(longest.predicate, scope)?.isTrue ?? []);
}

/** Statements with what they set declared: in place where it is set once and for all, ahead of them where it is not. */
export function declaring(names: readonly string[], statements: readonly Statement[]): readonly Statement[] {
  const inPlace = new Set<string>();
  const made = statements.map((statement): Statement => {
    if (!('set' in statement) || !names.includes(statement.set) || inPlace.has(statement.set)) return statement;
    inPlace.add(statement.set);
    return { variable: statement.set, is: statement.is };
  });
  const ahead = names.filter((one) => !inPlace.has(one));
  return ahead.length === 0 ? made : [{ variable: ahead.join(', '), is: null }, ...made];
}

/** The fields of a record that somebody sends to a page or a server. */
export function sentFields(fields: { readonly [name: string]: KnownField }): readonly KnownField[] {
  return Object.values(fields).filter((field) => isSent(field));
}

/** What a record has under a name; names that every object has are looked up as its own. */
export function rawOf(record: Js, key: string): Js {
  return key in Object.prototype ? call('own', record, literal(key)) : member(record, key);
}
