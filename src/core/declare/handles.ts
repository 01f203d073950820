import { choicesOf, kindOf, valueDomain, valueField } from '../kinds/index.js';
import { type Problem, ProblemError } from '../messages/index.js';
import {
  type Comparator,
  type Domain,
  type Field,
  fieldTerm,
  literalTerm,
  type Path,
  type Predicate,
  type Term,
  type Value,
} from '../model/index.js';
import { type AnyTerm, about, type Expression, expressionOf, type Handle } from './expressions.js';
import type { DateTerm, InstantTerm } from './handle-types.js';
import { patternOf } from './options.js';
import { placeOfCaller } from './place.js';

type Operand = Value | AnyTerm;

function termOf(operand: Operand, domain: Domain): Term {
  return typeof operand === 'object' && operand !== null && about in operand
    ? (operand as AnyTerm)[about].term
    : literalTerm(operand as Value, domain);
}

type Method = (operand: Operand) => Expression;

function comparison(left: Term, by: Comparator, domain: Domain): Method {
  return (operand) =>
    expressionOf({ op: 'compare', left, by, right: termOf(operand, domain), domain }, placeOfCaller(1));
}

/** The methods that order two terms, under a domain's own words. */
function ordering(left: Term, domain: Domain, words: readonly [string, string, string, string]) {
  const [before, upTo, after, from] = words;
  return {
    [before]: comparison(left, '<', domain),
    [upTo]: comparison(left, '<=', domain),
    [after]: comparison(left, '>', domain),
    [from]: comparison(left, '>=', domain),
  };
}

const numberWords = ['isLessThan', 'isAtMost', 'isMoreThan', 'isAtLeast'] as const;
const timeWords = ['isBefore', 'isOnOrBefore', 'isAfter', 'isOnOrAfter'] as const;
const codeWords = ['isBelow', 'isAtMost', 'isAbove', 'isAtLeast'] as const;

function oneOf(of: Term) {
  return (...among: readonly Value[]) => expressionOf({ op: 'member', of, among }, placeOfCaller(1));
}

function included(of: Term, where: 'anywhere' | 'start' | 'end'): Method {
  return (part) => expressionOf({ op: 'includes', of, text: termOf(part, 'text'), where }, placeOfCaller(1));
}

function without(of: Term, letters: string) {
  const pattern = { source: `[^${letters}]*`, flags: 'u' };
  return () => expressionOf({ op: 'matches', of, pattern }, placeOfCaller(1));
}

function matching(of: Term) {
  return (literal: RegExp) => {
    const place = placeOfCaller(1);
    const found: Problem[] = [];
    const pattern = patternOf(literal, place, found);
    if (found.length > 0) throw new ProblemError(found);
    return expressionOf({ op: 'matches', of, pattern }, place);
  };
}

function arithmetic(term: 'sum' | 'difference' | 'product', left: Term) {
  return (right: Operand) => numberTerm({ term, of: [left, termOf(right, 'number')] });
}

function between(term: 'days' | 'months' | 'seconds', from: Term) {
  const domain = term === 'seconds' ? 'time' : 'date';
  return (to: Operand) => numberTerm({ term, of: [from, termOf(to, domain)] });
}

/** What a term is about, with its own methods. */
function termWith(term: Term, domain: Domain, methods: object, path: Path | null = null) {
  return { [about]: { domain, path, term }, is: comparison(term, '=', domain), ...methods };
}

export function numberTerm(term: Term) {
  return termWith(term, 'number', numberMethods(term));
}

/** Values that have an order are compared, however they are spelled. */
function oneComparedOf(left: Term, domain: Domain) {
  return (...among: readonly Operand[]) => {
    const any = among.map((operand): Predicate => {
      return { op: 'compare', left, by: '=', right: termOf(operand, domain), domain };
    });
    return expressionOf({ op: 'or', any }, placeOfCaller(1));
  };
}

function numberMethods(term: Term) {
  return {
    ...ordering(term, 'number', numberWords),
    isOneOf: oneComparedOf(term, 'number'),
    plus: arithmetic('sum', term),
    minus: arithmetic('difference', term),
    times: arithmetic('product', term),
  };
}

function textMethods(of: Term): object {
  return {
    isOneOf: oneOf(of),
    contains: included(of, 'anywhere'),
    startsWith: included(of, 'start'),
    endsWith: included(of, 'end'),
    matches: matching(of),
    isUpperCase: without(of, 'a-z'),
    isLowerCase: without(of, 'A-Z'),
    get length() {
      return numberTerm({ term: 'length', of });
    },
    slug: () => {
      const term: Term = { term: 'slug', of };
      return { ...termWith(term, 'text', {}), ...describe(textMethods(term)) };
    },
  };
}

/** Spread would call the getters, and a slug of a slug has no end. */
function describe(methods: object): object {
  return Object.defineProperties({}, Object.getOwnPropertyDescriptors(methods));
}

function momentMethods(of: Term, domain: Domain) {
  return { ...ordering(of, domain, timeWords), isOneOf: oneComparedOf(of, domain) };
}

function dateMethods(of: Term) {
  return {
    ...momentMethods(of, 'date'),
    year: numberTerm({ term: 'year', of }),
    daysUntil: between('days', of),
    monthsUntil: between('months', of),
  };
}

function timeMethods(of: Term) {
  return { ...momentMethods(of, 'time'), secondsUntil: between('seconds', of) };
}

/** The day in the ruleset's zone. */
export function today(): DateTerm {
  const term: Term = { term: 'clock', reads: 'today' };
  return termWith(term, 'date', dateMethods(term)) as unknown as DateTerm;
}

/** The moment. */
export function now(): InstantTerm {
  const term: Term = { term: 'clock', reads: 'now' };
  return termWith(term, 'instant', momentMethods(term, 'instant')) as unknown as InstantTerm;
}

/** The trade's order of a choice's codes, where it is ordered: their ranks are compared. */
function codeMethods(of: Term, field: Field) {
  const among = choicesOf(field).map(([code]) => code);
  const rank = (term: Term): Term => ({ term: 'rank', of: term, among });
  const compared =
    (by: Comparator): Method =>
    (operand) => {
      const right = rank(termOf(operand, 'code'));
      return expressionOf({ op: 'compare', left: rank(of), by, right, domain: 'number' }, placeOfCaller(1));
    };
  const [below, upTo, above, from] = codeWords;
  const ordered =
    field.facets.ordered === true
      ? { [below]: compared('<'), [upTo]: compared('<='), [above]: compared('>'), [from]: compared('>=') }
      : {};
  return { isOneOf: oneOf(of), ...ordered };
}

/** What a body says of one item of a list: the item's own handle is given to it. */
type Body<T> = (item: object) => T;

function listMethods(over: Path, item: Field) {
  const handle = () => handleOf(item);
  const holds = (body: Body<Expression>) => body(handle()).expression;
  return {
    each: (body: Body<Expression>) => expressionOf({ op: 'each', over, holds: holds(body) }, placeOfCaller(1)),
    some: (body: Body<Expression>) => expressionOf({ op: 'some', over, holds: holds(body) }, placeOfCaller(1)),
    count: (body?: Body<Expression>) =>
      numberTerm({ term: 'count', over, where: body === undefined ? null : holds(body) }),
    sum: (body: Body<AnyTerm>) => numberTerm({ term: 'total', over, of: body(handle())[about].term }),
  };
}

const methodsByDomain: { readonly [D in Domain]: (of: Term, field: Field) => object } = {
  text: (of) => textMethods(of),
  number: (of) => numberMethods(of),
  date: (of) => dateMethods(of),
  time: (of) => timeMethods(of),
  instant: (of) => momentMethods(of, 'instant'),
  local: (of) => momentMethods(of, 'local'),
  boolean: () => ({}),
  code: (of, field) => codeMethods(of, valueField(field)),
  reference: (of) => ({ isOneOf: oneOf(of) }),
  record: (_of, { fields }) => handlesOf(fields ?? {}),
  list: (_of, { path, item }) => (item === null ? {} : listMethods(path, item)),
};

/** The handle of a field: its values are compared in the domain of their kind (a reference's in its key's). */
export function handleOf(field: Field): Handle {
  const { path } = field;
  const { domain } = kindOf(field);
  const of = fieldTerm(path);
  const presence: Predicate = { op: 'given', of: path };
  const own = { [about]: { domain, path, term: of } };
  const methods = describe(methodsByDomain[domain](of, field));
  // A record and a list have no presence of their own, and no value to compare.
  if (field.fields !== null || field.item !== null) return Object.assign(methods, own) as Handle;
  return Object.assign(methods, own, {
    is: comparison(of, '=', valueDomain(field)),
    given: () => expressionOf(presence, placeOfCaller(1)),
    missing: () => expressionOf({ op: 'not', holds: presence }, placeOfCaller(1)),
  }) as unknown as Handle;
}

/** A handle a field; a name that is no field's is told by `unknown`. */
export function handlesOf(fields: { readonly [name: string]: Field }, unknown?: (name: string) => never): object {
  const handles: object = Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, handleOf(field)]));
  if (unknown === undefined) return handles;
  return new Proxy(handles, {
    get: (target, name) =>
      typeof name === 'symbol' || Object.hasOwn(target, name) ? Reflect.get(target, name) : unknown(name),
  });
}
