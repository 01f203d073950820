import { boolean, choice, date, decimal, integer, list, reference, ruleset, text, unique } from 'echo-rule';

/** A shelf of glazes, as it might look after two years of changes: it loads, and some of it can't be meant. */
export const glaze = ruleset('glaze', {
  table: 'glazes',
  key: 'code',
  fields: {
    code: text({ pattern: /G[0-9]{3}/, maxLength: 8 }),
    name: text({ minLength: 60, maxLength: 40 }),
    shade: text({ pattern: /(?:[a-z]+ ?)+/, minLength: 2, maxLength: 30 }),
    family: choice({ ash: 'Ash', iron: 'Iron', copper: 'Copper' }),
    coneFrom: integer({ min: 1, max: 13 }),
    coneTo: integer({ min: 1, max: 13 }),
    litres: decimal({ precision: 5, scale: 2, min: 0, max: 20, default: 25 }),
    mixedOn: date(),
    testedOn: date({ optional: true }),
    foodSafe: boolean(),
    retired: boolean(),
    warnings: list(text({ maxLength: 60 }), { maxItems: 5 }),
  },
  rules: (it) => ({
    conesInOrder: it.coneFrom.isAtMost(it.coneTo),
    highFire: it.coneFrom.isMoreThan(9),
    lowFire: it.coneTo.isLessThan(9),
    noCopper: it.family.isOneOf('ash', 'iron'),
    copperIsWarned: it.family.is('copper').implies(it.warnings.count().isAtLeast(1)),
    testedBeforeFood: it.foodSafe.is(true).implies(it.testedOn.isOnOrAfter(it.mixedOn)),
    notNegative: it.litres.isAtLeast(0),
    oneRetired: unique(it.retired),
  }),
});

/** What a studio buys: it refers to a glaze by a code that is shorter than some. */
export const order = ruleset('order', {
  table: 'orders',
  fields: {
    glaze: reference('glaze', text({ pattern: /G[0-9]{2,3}/, maxLength: 3 })),
    litres: decimal({ precision: 4, scale: 1, min: '0.5' }),
  },
});
