import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import {
  boolean,
  choice,
  date,
  dateTime,
  decimal,
  email,
  integer,
  ip,
  ruleset,
  text,
  time,
  timestamp,
  url,
  uuid,
  validator,
} from 'echo-rule';
import type { AnyDefinition } from '../../../src/core/declare/definition.js';
import { loadedCheck } from '../../fixtures/echo.js';

/** What is read (raw and canonical) and what is refused (raw, and the facet that tells) of one field. */
interface Grammar {
  readonly of: AnyDefinition;
  readonly wire: 'form' | 'json';
  readonly reads: readonly (readonly [raw: unknown, canonical: unknown])[];
  readonly refuses: readonly (readonly [raw: unknown, facet: string])[];
}

const same = (...values: readonly unknown[]) => values.map((value) => [value, value] as const);
const type = (...values: readonly unknown[]) => values.map((value) => [value, 'type'] as const);
const format = (...values: readonly unknown[]) => values.map((value) => [value, 'format'] as const);

const grammars: { readonly [what: string]: Grammar } = {
  'text, collapsed and in capitals': {
    of: text({ collapse: true, case: 'upper', maxLength: 6 }),
    wire: 'json',
    reads: [
      [' a \u2003\t b ', 'A B'],
      ['straße', 'STRAßE'],
      ['🏺🏺🏺🏺🏺🏺', '🏺🏺🏺🏺🏺🏺'],
    ],
    refuses: [
      ...type('a\u0000', 'a\ud800', '\ufffd', 1, true, [], {}),
      ['abcdefg', 'maxLength'],
      ['', 'required'],
      [' \u3000', 'required'],
    ],
  },
  'text in form C, not trimmed': {
    of: text({ trim: false, unicode: 'NFC', charset: 'latin-1' }),
    wire: 'json',
    reads: [
      ['e\u0301 ', 'é '],
      [' ', ' '],
    ],
    refuses: [
      ['ж', 'charset'],
      ['a\nb', 'lines'],
      ['', 'required'],
    ],
  },
  'text in form C and small letters': {
    of: text({ unicode: 'NFC', case: 'lower' }),
    wire: 'json',
    reads: [
      ['\u212a', 'k'],
      ['H\u0331', '\u1e96'],
    ],
    refuses: [],
  },
  'text of many lines': {
    of: text({ lines: 'many', charset: 'bmp' }),
    wire: 'form',
    reads: [['a\r\nb\rc\nd', 'a\nb\nc\nd']],
    refuses: [
      ['🏺', 'charset'],
      [['a', 'b'], 'type'],
    ],
  },
  'an e-mail address in small letters': {
    of: email({ case: 'lower' }),
    wire: 'json',
    reads: [
      [' Clay@Kiln.example ', 'clay@kiln.example'],
      ["o'clay+1@kiln", "o'clay+1@kiln"],
    ],
    refuses: [
      ...format('clay', '@kiln', 'clay@kiln..example', 'clay@-kiln', 'a b@kiln', 'é@kiln', `${'a'.repeat(65)}@kiln`),
    ],
  },
  'an absolute address': {
    of: url(),
    wire: 'json',
    reads: [...same('https://kiln.example', 'HTTP://Kiln.example:8080/a/%C3%A9?b=c#d')],
    refuses: [
      ...format(
        'kiln.example',
        '//kiln.example',
        'ftp://kiln.example',
        'https://',
        'https://a@kiln',
        'https://kiln/%zz',
        'javascript:alert(1)',
      ),
    ],
  },
  'a UUID': {
    of: uuid(),
    wire: 'json',
    reads: [['018F4E2A-7C1B-7D3E-9A55-0123456789AB', '018f4e2a-7c1b-7d3e-9a55-0123456789ab']],
    refuses: [
      ...format(
        '018f4e2a7c1b7d3e9a550123456789ab',
        '{018f4e2a-7c1b-7d3e-9a55-0123456789ab}',
        '018f4e2a-7c1b-7d3e-9a55-0123456789ag',
      ),
    ],
  },
  'an IP address': {
    of: ip(),
    wire: 'json',
    reads: [...same('0.0.0.0', '::', '2001:db8::1', '::ffff:192.0.2.1'), ['2001:DB8::A', '2001:db8::a']],
    refuses: [
      ...format('256.0.0.1', '192.168.1', '01.2.3.4', '1::2::3', '2001:db8:0:0:0:0:0:0:1', '[::1]', '10.0.0.0/8'),
    ],
  },
  'an integer of a form': {
    of: integer({ step: 5, min: -10 }),
    wire: 'form',
    reads: [
      ['-0', 0],
      ['15', 15],
      ['-10', -10],
    ],
    refuses: [
      ...type('1e1', '007', '+5', '0x10', '5abc', '5.0', ' 5', '٥', '9007199254740993'),
      ['7', 'step'],
      ['-15', 'min'],
    ],
  },
  'a decimal of a form': {
    of: decimal({ precision: 5, scale: 2, step: '0.05' }),
    wire: 'form',
    reads: [
      ['1.50', 1.5],
      ['-0.00', 0],
      ['0.0500', 0.05],
    ],
    refuses: [
      ...type('1,5', '.5', '5.', '1e2', 'NaN', '01'),
      ['1.005', 'scale'],
      ['1.02', 'step'],
      ['1000', 'precision'],
    ],
  },
  'a decimal in JSON': {
    of: decimal({ precision: 15, scale: 10 }),
    wire: 'json',
    reads: [...same(0.1, 1e-10, 12345.6789), [-0, 0]],
    refuses: [...type('0.1', '1', true), [1e-11, 'scale'], [1e21, 'precision']],
  },
  'a decimal of many digits': {
    of: decimal({ precision: 30, scale: 10, max: '99999999999999999999' }),
    wire: 'json',
    reads: [
      ['12345678901234567890.1234567890', '12345678901234567890.123456789'],
      ['-0', '0'],
    ],
    refuses: [...type(1, '1e5', '9'.repeat(401)), ['99999999999999999999.1', 'max'], ['0.00000000001', 'scale']],
  },
  'a box that must be ticked': {
    of: boolean({ must: true }),
    wire: 'form',
    reads: [
      ['on', true],
      ['true', true],
      [['false', 'true'], true],
    ],
    refuses: [...type('yes', '1', 'TRUE'), ['false', 'must'], [undefined, 'must'], ['', 'required']],
  },
  'a day': {
    of: date({ min: '2024-02-29' }),
    wire: 'json',
    reads: [...same('2024-02-29', '9999-12-31')],
    refuses: [
      ...type('2025-02-29', '2024-02-30', '0000-01-01', '10000-01-01', '2024-2-3', '20240301', '2024-03-01T00:00:00'),
      ['2024-02-28', 'min'],
    ],
  },
  'a time of a form': {
    of: time({ fraction: 2 }),
    wire: 'form',
    reads: [
      ['09:30', '09:30:00.00'],
      ['09:30:01.5', '09:30:01.50'],
    ],
    refuses: [...type('24:00', '12:60', '23:59:60', '9:30', '09:30Z', '09:30:00.123')],
  },
  'a moment of the world’s time': {
    of: timestamp(),
    wire: 'json',
    reads: [
      ['2026-03-02T00:30:00+01:00', '2026-03-01T23:30:00Z'],
      ['2024-02-29T12:00:00Z', '2024-02-29T12:00:00Z'],
    ],
    refuses: [
      ...type(
        '2026-03-02T00:30:00',
        '2026-03-02T00:30Z',
        '2026-03-02T00:30:00-00:00',
        '0001-01-01T00:00:00+00:01',
        '9999-12-31T23:59:59-00:01',
        '2026-02-30T00:00:00Z',
      ),
    ],
  },
  'a day and time without a zone': {
    of: dateTime(),
    wire: 'form',
    reads: [['2026-03-02T09:30', '2026-03-02T09:30:00']],
    refuses: [...type('2026-03-02 09:30', '2026-03-02', '2026-03-02T09:30:00Z', '2026-03-02T09:30:00.1')],
  },
  'a choice of whole numbers': {
    of: choice([
      [10, 'Ten'],
      [-3, 'Minus three'],
    ]),
    wire: 'form',
    reads: [
      ['10', 10],
      ['-3', -3],
    ],
    refuses: [...type('ten', '1e1'), ['0', 'enumeration'], ['3', 'enumeration']],
  },
};

for (const [what, { of, wire, reads, refuses }] of Object.entries(grammars)) {
  describe(`${what}, on the ${wire} wire`, async () => {
    const one = ruleset('one', { fields: { field: of } });
    const meant = validator(one);
    const check = await loadedCheck(one);
    const told = (raw: unknown) => {
      const input = raw === undefined ? {} : { field: raw };
      const checked = meant.check(input, { wire });
      const module = check(input, { wire, on: 'server', clock: { instant: '2026-03-02T09:00:00Z' } });
      assert.deepEqual(module, checked, 'the compiled module says the same');
      return checked.ok ? checked.value : checked.violations.map(({ rule }) => rule.replace('one.field.', ''));
    };
    test('what is read, in its canonical form', () => {
      for (const [raw, canonical] of reads) assert.deepEqual(told(raw), { field: canonical }, JSON.stringify(raw));
    });
    test('what is refused, and by which facet', () => {
      for (const [raw, facet] of refuses)
        assert.ok(
          (told(raw) as readonly string[]).includes?.(facet),
          `${JSON.stringify(raw)}: ${JSON.stringify(told(raw))}`,
        );
    });
  });
}
