import { type AnyRuleset, schemaOf } from '../src/core/declare/index.js';
import { reviewSchema } from '../src/core/review/index.js';
import { boolean, choice, date, decimal, email, integer, ruleset, text, time, unique, url } from '../src/index.js';
import { figure } from './measure.js';

/** Twenty fields of the kinds that a business has, and seven rules; no two rulesets have all patterns in common. */
function rulesetOf(at: number): AnyRuleset {
  const code = new RegExp(`[A-Z]{${1 + (at % 4)}}-[0-9]{${2 + (at % 3)}}`);
  return ruleset(`set${at}`, {
    key: 'code',
    fields: {
      code: text({ pattern: code }),
      title: text({ minLength: 2, maxLength: 60 + at }),
      email: email({ case: 'lower', optional: true }),
      link: url({ optional: true }),
      notes: text({ lines: 'many', maxLength: 500, optional: true }),
      slug: text({ pattern: /[a-z0-9]+(?:-[a-z0-9]+)*/, maxLength: 40 }),
      nick: text({ charset: 'ascii', maxLength: 20, optional: true }),
      phone: text({ pattern: /\+[0-9]{1,3}(?: [0-9]{2,5}){2,4}/, optional: true }),
      pieces: integer({ min: 1, max: 40 + at }),
      seats: integer({ min: 0, max: 99, step: 1 }),
      price: decimal({ precision: 7, scale: 2, min: 0 }),
      fee: decimal({ precision: 7, scale: 2, optional: true }),
      from: date(),
      to: date({ optional: true }),
      opens: time(),
      closes: time(),
      glaze: choice({ ash: 'Ash', iron: 'Iron', copper: 'Copper' }),
      size: choice({ s: 'S', m: 'M', l: 'L' }, { ordered: true }),
      agreed: boolean({ must: true }),
      vented: boolean(),
    },
    rules: (it) => ({
      toAfterFrom: it.to.isAfter(it.from),
      closesLater: it.closes.isAfter(it.opens),
      feeLess: it.fee.isAtMost(it.price),
      ashInPlenty: it.glaze.is('ash').implies(it.pieces.isAtLeast(5)),
      copperVented: it.glaze.is('copper').implies(it.vented.is(true)),
      titleOnce: unique(it.title),
      seatsForMany: it.pieces.isAtLeast(10).implies(it.seats.isAtLeast(1)),
    }),
  }) as unknown as AnyRuleset;
}

/** Reading 100 declarations of 20 fields, in one process, on one core. */
export function benchReview(): void {
  const schema = schemaOf(Array.from({ length: 100 }, (_, at) => rulesetOf(at)));
  const start = performance.now();
  const findings = reviewSchema(schema);
  const seconds = (performance.now() - start) / 1000;
  figure(`reviewing 100 rulesets of 20 fields: seconds (${findings.length} findings)`, seconds, 'under 5');
}
