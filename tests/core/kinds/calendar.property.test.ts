import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import fc from 'fast-check';
import { daysBetween, isRealDate, monthsBetween } from '../../../src/core/kinds/calendar.js';
import {
  add,
  compareExact,
  exactOf,
  exactText,
  isMultiple,
  multiply,
  subtract,
} from '../../../src/core/model/index.js';
import { slugOf } from '../../../src/core/operators/index.js';
import { soak } from '../../fixtures/records.js';

const numRuns = soak ? 50_000 : 2_000;
const DAY = 86_400_000;
const days = fc.integer({ min: -60_000, max: 60_000 }).map((count) => new Date(count * DAY).toISOString().slice(0, 10));

describe('the calendar, exact numbers and slugs, beside what the platform knows', () => {
  test('days between two days are those of the platform’s own calendar; a day is real where it keeps its text', () => {
    fc.assert(
      fc.property(days, days, (from, to) => {
        assert.equal(daysBetween(from, to), (Date.parse(to) - Date.parse(from)) / DAY);
        assert.equal(isRealDate(from), true);
      }),
      { numRuns },
    );
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9999 }),
        fc.integer({ min: 0, max: 14 }),
        fc.integer({ min: 0, max: 33 }),
        (year, month, day) => {
          const two = (part: number) => String(part).padStart(2, '0');
          const written = `${String(year).padStart(4, '0')}-${two(month)}-${two(day)}`;
          const read = new Date(`${written}T00:00:00Z`);
          assert.equal(isRealDate(written), !Number.isNaN(read.getTime()) && read.toISOString().startsWith(written));
        },
      ),
      { numRuns },
    );
  });

  test('months are whole, the same both ways, and never more than the days allow', () => {
    fc.assert(
      fc.property(days, days, (from, to) => {
        const months = monthsBetween(from, to);
        assert.ok(Math.abs(months) * 28 <= Math.abs(daysBetween(from, to)), `${from} to ${to}: ${months}`);
        assert.equal(Math.abs(monthsBetween(to, from)), Math.abs(months));
      }),
      { numRuns },
    );
  });

  test('decimals add, multiply and compare as whole numbers do that are a power of ten larger', () => {
    const units = fc.bigInt({ min: -(10n ** 24n), max: 10n ** 24n });
    const exact = (digits: bigint) => ({ digits, scale: 6 });
    fc.assert(
      fc.property(units, units, (a, b) => {
        assert.equal(exactText(add(exact(a), exact(b))), exactText(exact(a + b)));
        assert.equal(exactText(subtract(exact(a), exact(b))), exactText(exact(a - b)));
        assert.equal(exactText(multiply(exact(a), exact(b))), exactText({ digits: a * b, scale: 12 }));
        assert.equal(Math.sign(compareExact(exact(a), exact(b))), a < b ? -1 : a > b ? 1 : 0);
        if (b !== 0n) assert.equal(isMultiple(exact(a), exact(b)), a % b === 0n);
        assert.equal(exactText(exactOf(exactText(exact(a))) ?? exact(0n)), exactText(exact(a)), 'read back');
      }),
      { numRuns },
    );
  });

  test('a slug is small letters, digits and single hyphens, and its own slug', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 12 }), (text) => {
        const slug = slugOf(text);
        assert.match(slug, /^(?:[a-z0-9]+(?:-[a-z0-9]+)*)?$/);
        assert.equal(slugOf(slug), slug);
      }),
      { numRuns },
    );
  });
});
