import { oneLine, valueField } from '../../kinds/index.js';
import {
  type Comparator,
  exactOf,
  fieldAt,
  type PerOperator,
  type Predicate,
  perOperator,
  type Term,
} from '../../model/index.js';
import { isMoment, sameFraction } from '../fractions.js';
import { matcherJs } from './matchers.js';
import { joinedName } from './names.js';
import { printJs } from './print.js';
import { constantOf, listJs, type Scope, valueJs } from './scope.js';
import { termCode, within } from './terms.js';
import { all, any, binary, call, type Js, literal, name, nothing } from './tree.js';

/**
 * When a predicate is true, and when it is false: Kleene's third value, where a value is absent, is neither. The code
 * says both without computing a third value.
 */
export interface Truths {
  readonly isTrue: Js;
  readonly isFalse: Js;
}

const never: Js = literal(false);
const opposite: { readonly [C in Comparator]: string } = { '=': '!==', '<': '>=', '<=': '>', '>': '<=', '>=': '<' };
const spelled: { readonly [C in Comparator]: string } = { '=': '===', '<': '<', '<=': '<=', '>': '>', '>=': '>=' };
/** More than so many codes are looked up in a set. */
const FEW = 6;

/** Null: not said by an expression; decoding says it, or nothing here can. */
const predicates = {
  closed: () => null,
  bounded: () => null,
  typed: () => null,
  canonical: () => null,
  unique: () => null,
  refersTo: () => null,
  asks: () => null,
  given({ of }, scope) {
    const value = valueJs(of, scope);
    return { isTrue: binary(value, '!==', nothing), isFalse: binary(value, '===', nothing) };
  },
  givenCount({ of, from, to }, scope) {
    const sum: Js = { sum: [literal(0), ...of.map((path): Js => binary(valueJs(path, scope), '!==', nothing))] };
    const within = [
      ...(from > 0 ? [binary(sum, '>=', literal(from))] : []),
      ...(to < of.length ? [binary(sum, '<=', literal(to))] : []),
    ];
    const isTrue = all(...within);
    return { isTrue, isFalse: { not: isTrue } };
  },
  compare({ left, by, right, domain }, scope) {
    const [a, b] = [termCode(left, scope), termCode(right, scope)];
    if (domain === 'number' && !(a.native && b.native)) {
      // Where a side is absent, the order is not a number: neither true nor false.
      const sign = call('order', a.js, b.js);
      return { isTrue: binary(sign, spelled[by], literal(0)), isFalse: notEqual(sign, by) };
    }
    const known = [...a.known, ...b.known];
    const [x, y] =
      isMoment(domain) && !sameFraction(left, right, scope.making.model)
        ? [call('fine', a.js), call('fine', b.js)]
        : [a.js, b.js];
    return { isTrue: all(...known, binary(x, spelled[by], y)), isFalse: all(...known, binary(x, opposite[by], y)) };
  },
  member({ of, among }, scope) {
    const { js, known } = termCode(of, scope);
    if (among.length <= FEW) {
      const equal = (by: '===' | '!==') => among.map((one) => binary(js, by, literal(one)));
      return { isTrue: all(...known, any(...equal('==='))), isFalse: all(...known, ...equal('!==')) };
    }
    const codes = constantOf(scope.making, joinedName(pathOf(of), 'codes'), call('new Set', literal(among)));
    return tested(of, call(`${nameIn(codes)}.has`, js), scope);
  },
  multiple({ of, step }, scope) {
    const { js, native } = termCode(of, scope);
    const exact = exactOf(step);
    // A power of ten is a count of digits behind the point.
    if (exact?.digits === 1n)
      return tested(of, call('hasScale', js, literal(exact.scale), literal(10 ** exact.scale)), scope);
    const isWhole = native && Number.isSafeInteger(Number(step)) && isInteger(of, scope);
    const test = isWhole
      ? binary(binary(js, '%', literal(Number(step))), '===', literal(0))
      : call('isMultiple', js, literal(step));
    return tested(of, test, scope);
  },
  matches({ of, pattern }, scope) {
    const { js } = termCode(of, scope);
    if (pattern.source === oneLine.source) {
      const has = (end: string) => call(`${printJs(js)}.includes`, literal(end));
      return tested(of, { not: any(has('\n'), has('\r')) }, scope);
    }
    const constant = constantOf(scope.making, joinedName(pathOf(of), 'pattern'), matcherJs(pattern));
    return tested(of, call(`${nameIn(constant)}.test`, js), scope);
  },
  includes({ of, text, where }, scope) {
    const [whole, part] = [termCode(of, scope), termCode(text, scope)];
    const method = { anywhere: 'includes', start: 'startsWith', end: 'endsWith' }[where];
    const known = [...whole.known, ...part.known];
    const test = call(`${printJs(whole.js)}.${method}`, part.js);
    return { isTrue: all(...known, test), isFalse: all(...known, { not: test }) };
  },
  and(predicate, scope) {
    const inner = predicate.all.map((one) => predicateTruths(one, scope));
    return { isTrue: all(...inner.map(({ isTrue }) => isTrue)), isFalse: any(...inner.map(({ isFalse }) => isFalse)) };
  },
  or(predicate, scope) {
    const inner = predicate.any.map((one) => predicateTruths(one, scope));
    return { isTrue: any(...inner.map(({ isTrue }) => isTrue)), isFalse: all(...inner.map(({ isFalse }) => isFalse)) };
  },
  not({ holds }, scope) {
    const { isTrue, isFalse } = predicateTruths(holds, scope);
    return { isTrue: isFalse, isFalse: isTrue };
  },
  each: ({ over, holds }, scope) => ({
    isTrue: call(
      `${printJs(listJs(over, scope))}.every`,
      within(over, scope, (inner) => predicateTruths(holds, inner).isTrue),
    ),
    isFalse: call(
      `${printJs(listJs(over, scope))}.some`,
      within(over, scope, (inner) => predicateTruths(holds, inner).isFalse),
    ),
  }),
  some: ({ over, holds }, scope) => ({
    isTrue: call(
      `${printJs(listJs(over, scope))}.some`,
      within(over, scope, (inner) => predicateTruths(holds, inner).isTrue),
    ),
    isFalse: call(
      `${printJs(listJs(over, scope))}.every`,
      within(over, scope, (inner) => predicateTruths(holds, inner).isFalse),
    ),
  }),
  distinct({ over, of }, scope) {
    const value = valueJs(of, scope);
    const step = of.slice(`${over}[].`.length);
    const place = [listJs(over, scope), name(scope.indices.get(over) ?? '0'), value];
    const repeats = call('repeats', ...place, ...(step === '' ? [] : [literal(step)]));
    const known = [binary(value, '!==', nothing), binary(value, '!==', name('undefined'))];
    return { isTrue: all(...known, { not: repeats }), isFalse: all(...known, repeats) };
  },
  custom({ of, name: called }, scope) {
    const values = of.map((path) => valueJs(path, scope));
    const known = values.map((value) => binary(value, '!==', nothing));
    const holds = call(functionNameOf(scope, called), ...values);
    return { isTrue: all(...known, holds), isFalse: all(...known, { not: holds }) };
  },
} satisfies PerOperator<Scope, Truths | null>;

/** The name of a rule's own function in the module. */
export function functionNameOf({ making }: Pick<Scope, 'making'>, rule: string): string {
  return nameIn(constantOf(making, rule, { name: functionText(making.model.functions[rule]) }));
}

/** The text of a function as an expression: a method in short form is none by itself. */
export function functionText(of: unknown): string {
  const text = String(of);
  const isExpression = /^(?:async\s+)?(?:function\b|\(|[A-Za-z_$][\w$]*\s*=>)/.test(text);
  if (isExpression) return text;
  const key = /^(?:async\s+)?\*?\s*([A-Za-z_$][\w$]*)/.exec(text)?.[1] ?? 'call';
  return `({ ${text} }).${key}`;
}

/** The code of a predicate, or null where the module holds it in another way or not at all. */
export function predicateJs(predicate: Predicate, scope: Scope): Truths | null {
  return perOperator(predicates, predicate, scope);
}

export function predicateTruths(predicate: Predicate, scope: Scope): Truths {
  return predicateJs(predicate, scope) ?? { isTrue: never, isFalse: never };
}

function tested(of: Term, test: Js, scope: Scope): Truths {
  const { known } = termCode(of, scope);
  return { isTrue: all(...known, test), isFalse: all(...known, 'not' in test ? test.not : { not: test }) };
}

function notEqual(sign: Js, by: Comparator): Js {
  // NaN is unequal to everything, so "another" has to be said by the two sides of it.
  if (by !== '=') return binary(sign, opposite[by], literal(0));
  return any(binary(sign, '<', literal(0)), binary(sign, '>', literal(0)));
}

function isInteger(term: Term, { making }: Scope): boolean {
  // Of the kinds of numbers, only the decimal one has a precision.
  return term.term === 'field' && valueField(fieldAt(making.model, term.path)).facets.precision === undefined;
}

function pathOf(term: Term): string {
  return term.term === 'field' ? term.path : 'text';
}

function nameIn(js: Js): string {
  return 'name' in js ? js.name : '';
}
