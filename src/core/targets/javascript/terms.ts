import { isNumeric, valueField } from '../../kinds/index.js';
import { exactOf, exactText, fieldAt, type PerTerm, perTerm, type Term } from '../../model/index.js';
import { predicateTruths } from './predicates.js';
import { constantOf, listJs, type Scope, valueJs } from './scope.js';
import { binary, call, type Js, literal, member, name, nothing } from './tree.js';

/** A term as code: null where it is absent, which it is not where all of `known` is true. */
export interface TermCode {
  readonly js: Js;
  readonly known: readonly Js[];
  /** A JavaScript number wherever it is known: native comparison is exact. */
  readonly native: boolean;
}

function absentWhereNull(js: Js, native = false): TermCode {
  return { js, known: [binary(js, '!==', nothing)], native };
}

const terms: PerTerm<Scope, TermCode> = {
  field({ path }, scope) {
    const field = fieldAt(scope.making.model, path);
    const inner = valueField(field);
    const native = field.derivation === null && (inner.facets.precision === undefined || isNumeric(inner));
    const js = valueJs(path, scope);
    return { js, known: scope.given.has(path) ? [] : [binary(js, '!==', nothing)], native };
  },
  literal({ value, domain }) {
    const exact = domain === 'number' ? exactOf(value) : null;
    const isShort = exact !== null && exactText(exact).replace(/[-.]/g, '').length <= 15;
    const shown = isShort ? Number(value) : value;
    return { js: literal(shown), known: value === null ? [literal(false)] : [], native: typeof shown === 'number' };
  },
  clock: ({ reads }) => ({ js: name(reads === 'today' ? 'today' : 'moment'), known: [], native: false }),
  sum: ({ of }, scope) => absentWhereNull(call('plus', ...of.map((one) => termCode(one, scope).js))),
  difference: ({ of }, scope) => absentWhereNull(call('minus', ...of.map((one) => termCode(one, scope).js))),
  product: ({ of }, scope) => absentWhereNull(call('times', ...of.map((one) => termCode(one, scope).js))),
  length({ of }, scope) {
    const size = of.term === 'field' ? scope.sizes.get(of.path) : undefined;
    const { js, known } = termCode(of, scope);
    return { js: size === undefined ? call('lengthOf', js) : name(size), known, native: true };
  },
  rank({ of, among }, scope) {
    if (of.term === 'literal') return { js: literal(among.indexOf(of.value)), known: [], native: true };
    const { js, known } = termCode(of, scope);
    const rank = call(`${printed(constantOf(scope.making, 'ranks', literal(among)))}.indexOf`, js);
    return { js: rank, known: [...known, binary(rank, '!==', literal(-1))], native: true };
  },
  count({ over, where }, scope) {
    const list = listJs(over, scope);
    if (where === null) return { js: member(list, 'length'), known: [], native: true };
    const holds = within(over, scope, (inner) => predicateTruths(where, inner).isTrue);
    return { js: call('countOf', list, holds), known: [], native: true };
  },
  total: ({ over, of }, scope) =>
    absentWhereNull(
      call(
        'total',
        listJs(over, scope),
        within(over, scope, (inner) => termCode(of, inner).js),
      ),
    ),
  days: ({ of }, scope) => absentWhereNull(call('daysBetween', ...of.map((one) => termCode(one, scope).js))),
  months: ({ of }, scope) => absentWhereNull(call('monthsBetween', ...of.map((one) => termCode(one, scope).js))),
  seconds: ({ of }, scope) =>
    absentWhereNull(call('secondsBetween', ...of.map((one) => termCode(one, scope).js)), true),
  year({ of }, scope) {
    const { js, known } = termCode(of, scope);
    return { js: call('digits', js, literal(0), literal(4)), known, native: true };
  },
  slug: ({ of }, scope) => absentWhereNull(call('slugOf', termCode(of, scope).js)),
};

/** The code of a term. */
export function termCode(term: Term, scope: Scope): TermCode {
  return perTerm(terms, term, scope);
}

/** A function of one item of a list. */
export function within(list: string, scope: Scope, gives: (inner: Scope) => Js): Js {
  const item = `item${scope.items.size === 0 ? '' : scope.items.size + 1}`;
  return { takes: item, gives: gives({ ...scope, items: new Map([...scope.items, [list, { item }]]) }) };
}

function printed(js: Js): string {
  return 'name' in js ? js.name : '';
}
