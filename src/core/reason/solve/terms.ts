import { multiply, type Term, type TermOf } from '../../model/index.js';
import type { OrderedDomain } from '../order/units.js';
import type { PatternTree } from '../pattern/index.js';
import { all, any, type Formula, type Key, negated, present } from './formula.js';
import { compared, countKey, type Sum, sumOf } from './linear.js';
import { itemsAlike, keyOf, type Lowering, needsOf, truthsOf } from './lower.js';

const letters: PatternTree = {
  repeat: {
    one: [
      [0x30, 0x39],
      [0x61, 0x7a],
    ],
  },
  from: 1,
  to: Number.POSITIVE_INFINITY,
};
/** What slugs look like. */
const slugs: PatternTree = {
  sequence: [
    letters,
    { repeat: { sequence: [{ one: [[0x2d, 0x2d]] }, letters] }, from: 0, to: Number.POSITIVE_INFINITY },
  ],
};
/** Sums over more items than this are left open. */
const FEW_ITEMS = 4;

/**
 * A name for what a term is worth that is no sum of fields, with what is known of it added to the asides: that it is
 * worth something only where its parts are, and how it follows from the items of a list.
 */
export function namedTerm(term: Term, domain: OrderedDomain | 'text', lowering: Lowering): Key {
  const { space } = lowering;
  if (term.term === 'field') return term.path;
  const whole = 10n ** BigInt(space.scale);
  const key = `${term.term} ${JSON.stringify(term)}`;
  if (lowering.asides.has(key)) return key;
  const asides: Formula[] = [];
  lowering.asides.set(key, asides);
  const counts = term.term === 'length' || term.term === 'count';
  space.make(key, domain, {
    ...(counts ? { low: 0n } : {}),
    ...(counts || term.term === 'months' || term.term === 'year' ? { step: whole } : {}),
  });
  const is = (one: Formula) => any(all(present(key), one), all(negated(present(key)), negated(one)));
  if (term.term === 'count' && term.where !== null) asides.push(present(key), ...counted(term, key, lowering));
  else if (term.term === 'total') asides.push(...totalled(term, key, lowering));
  else if (term.term === 'slug') asides.push(...slugged(term, key, lowering));
  else if (term.term === 'length' || term.term === 'rank') asides.push(is(needsOf(term.of, lowering)));
  else if (term.term === 'year') asides.push(is(needsOf(term.of, lowering)), ...inYears(term, key, lowering));
  else if (term.term === 'product' || term.term === 'months') {
    asides.push(is(all(...term.of.map((part) => needsOf(part, lowering)))));
    asides.push(
      any(
        negated(present(key)),
        ...(term.term === 'months' ? inMonths(term, key, lowering) : multiplied(term, key, lowering)),
      ),
    );
  }
  return key;
}

/** No more than all items hold; where all are alike, all or none. */
function counted(term: TermOf<'count'>, key: Key, lowering: Lowering): readonly Formula[] {
  const count = countKey(lowering.space, term.over);
  const within: Formula = {
    is: 'linear',
    sum: [
      [key, 1n],
      [count, -1n],
    ],
    most: 0n,
  };
  if (!lowering.plain || term.where === null) return [within];
  lowering.shortcuts.add(itemsAlike);
  const { isTrue, notTrue } = truthsOf(term.where, lowering);
  const equal: Formula = {
    is: 'linear',
    sum: [
      [count, 1n],
      [key, -1n],
    ],
    most: 0n,
  };
  return [within, any(all(isTrue, equal), all(notTrue, { is: 'linear', sum: [[key, 1n]], most: 0n }))];
}

/** Over no items a sum is nothing; where all are alike it is a multiple. */
function totalled(term: TermOf<'total'>, key: Key, lowering: Lowering): readonly Formula[] {
  if (!lowering.plain) return [];
  lowering.shortcuts.add(itemsAlike);
  const { space } = lowering;
  const whole = 10n ** BigInt(space.scale);
  const unit = { digits: 1n, scale: space.scale };
  const of = sumOf(term.of, 'number', lowering);
  const total = { factors: new Map([[key, unit]]), constant: { digits: 0n, scale: 0 }, needs: true };
  const counts = (items: number): Formula => {
    const count = countKey(space, term.over);
    const limit = BigInt(items) * whole;
    return all({ is: 'linear', sum: [[count, 1n]], most: limit }, { is: 'linear', sum: [[count, -1n]], most: -limit });
  };
  const times = (items: number) => ({
    ...of,
    factors: new Map(
      [...of.factors].map(([part, { digits, scale }]) => [part, { digits: digits * BigInt(items), scale }]),
    ),
    constant: { ...of.constant, digits: of.constant.digits * BigInt(items) },
  });
  const few = Array.from({ length: FEW_ITEMS }, (_, at) => at + 1);
  return [
    any(
      all(counts(0), present(key), compared(total, '=', { ...total, factors: new Map() })),
      ...few.map((items) => all(counts(items), of.needs, present(key), compared(total, '=', times(items)))),
      ...few.map((items) => all(counts(items), negated(of.needs), negated(present(key)))),
    ),
  ];
}

/** Small letters and digits with single hyphens: such a text is its own slug, the plainest that there is. */
function slugged(term: TermOf<'slug'>, key: Key, lowering: Lowering): readonly Formula[] {
  const { languages, plain, shortcuts } = lowering;
  const set = languages.ofTree('slugs', slugs);
  const absent = negated(present(key));
  const own: Formula = { is: 'within', of: key, set, yes: true };
  const needs = needsOf(term.of, lowering);
  if (!plain) return [any(absent, all(needs, own))];
  shortcuts.add('a text may have to differ from its slug');
  const of = keyOf(term.of, lowering);
  // Nothing of such a text is left in its slug.
  const marks: Formula = {
    is: 'within',
    of,
    set: languages.ofTree('marks', { repeat: { one: [[0x21, 0x2f]] }, from: 1, to: Number.POSITIVE_INFINITY }),
    yes: true,
  };
  return [
    any(
      all(absent, needs, marks),
      all(absent, negated(needs)),
      all(present(key), needs, own, { is: 'same', of: [of, key], yes: true }),
    ),
  ];
}

/** The days of a month on an average of the calendar's 400 years, times a million. */
const DAYS_A_MONTH = 30_436_875n;
/** No stretch of whole months is further than this from so many average ones, in days. */
const MONTHS_ARE_OFF_BY = 5n;

/**
 * Whole months and days go together as far as months have about as many days; a stretch that is well within a month is
 * looked for first.
 */
function inMonths(term: TermOf<'months'>, key: Key, lowering: Lowering): readonly Formula[] {
  const { space, plain, shortcuts } = lowering;
  const days = sumOf({ term: 'days', of: term.of }, 'number', lowering);
  const unit = { digits: 1n, scale: space.scale };
  if (plain) shortcuts.add('a count of months may have to be met on the day');
  const off = (plain ? 1n : -1n) * MONTHS_ARE_OFF_BY;
  /** So many average months, and some days more. */
  const months = (more: bigint, away: bigint): Sum => ({
    factors: new Map([[key, { digits: DAYS_A_MONTH * unit.digits, scale: 6 + unit.scale }]]),
    constant: { digits: more * DAYS_A_MONTH + away * 1_000_000n, scale: 6 },
    needs: true,
  });
  const nothing: Sum = { factors: new Map(), constant: { digits: 0n, scale: 0 }, needs: true };
  // Counted towards zero: the part of a month that is not whole lies further from it.
  return [
    all(compared(days, '>=', nothing), compared(days, '>=', months(0n, off)), compared(days, '<=', months(1n, -off))),
    all(compared(days, '<=', nothing), compared(days, '<=', months(0n, -off)), compared(days, '>=', months(-1n, off))),
  ];
}

/** The days of a year on an average of the calendar's 400 years, times ten thousand. */
const DAYS_A_YEAR = 3_652_425n;
/** No year begins further than this from where the average puts it, in days. */
const YEARS_ARE_OFF_BY = 2n;

/** Years and days correspond as far as years have about as many days; a day well within its year is looked for first. */
function inYears(term: TermOf<'year'>, key: Key, lowering: Lowering): readonly Formula[] {
  const { space, plain, shortcuts } = lowering;
  const days = sumOf(term.of, 'date', lowering);
  if (plain) shortcuts.add('a year may have to be met on its first or last days');
  const off = (plain ? 1n : -1n) * YEARS_ARE_OFF_BY;
  /** The average day on which the year begins that is so many later, and some days more. */
  const begins = (later: bigint, away: bigint): Sum => ({
    factors: new Map([[key, { digits: DAYS_A_YEAR, scale: 4 + space.scale }]]),
    constant: { digits: (later - 1n) * DAYS_A_YEAR + away * 10_000n, scale: 4 },
    needs: true,
  });
  const holds = all(compared(days, '>=', begins(0n, off)), compared(days, '<', begins(1n, -off)));
  return [any(negated(present(key)), holds)];
}

/** A product of two values, for a few values of the first. */
function multiplied(term: TermOf<'product'>, key: Key, lowering: Lowering): readonly Formula[] {
  const { space, plain, shortcuts } = lowering;
  if (!plain) return [true];
  shortcuts.add('a product is only worked out for a few values');
  const [first, second] = term.of.map((one) => sumOf(one, 'number', lowering)) as [Sum, Sum];
  const product: Sum = {
    factors: new Map([[key, { digits: 1n, scale: space.scale }]]),
    constant: { digits: 0n, scale: 0 },
    needs: true,
  };
  const [only] = first.factors.keys();
  const variable = only === undefined ? null : space.variable(only);
  const likely = variable?.sort === 'ordered' ? variable.likely : [];
  const values = [
    ...likely.map((digits) => ({ digits, scale: space.scale })),
    ...[1n, 2n, 0n].map((digits) => ({ digits, scale: 0 })),
  ];
  return values.map((value) =>
    all(
      compared(first, '=', { factors: new Map(), constant: value, needs: true }),
      compared(product, '=', {
        factors: new Map([...second.factors].map(([part, factor]) => [part, multiply(factor, value)])),
        constant: multiply(second.constant, value),
        needs: true,
      }),
    ),
  );
}
