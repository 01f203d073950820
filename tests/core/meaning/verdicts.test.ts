import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { decide, encode } from '../../../src/core/meaning/index.js';
import type { Row, Wire } from '../../../src/core/model/index.js';
import {
  boolean,
  choice,
  date,
  integer,
  reference,
  rule,
  ruleset,
  text,
  unique,
  validator,
} from '../../../src/index.js';

const kiln = ruleset('kiln', { key: 'code', fields: { code: text({ pattern: /K[0-9]{2}/ }) } });
const booking = ruleset('booking', {
  fields: {
    tag: text({ minLength: 2, maxLength: 4 }),
    notes: text({ lines: 'many', optional: true }),
    pieces: integer({ min: 1, max: 40, optional: true }),
    glaze: choice({ ash: 'Ash', rust: 'Rust' }, { optional: true }),
    loadOn: date({ optional: true, min: '2024-01-01' }),
    collectOn: date({ optional: true }),
    vented: boolean(),
    washed: boolean({ optional: true }),
    kiln: reference(kiln, { optional: true }),
  },
  rules: (it) => ({
    order: it.collectOn.isAfter(it.loadOn),
    ashVented: rule({
      holds: it.glaze.is('ash').implies(it.vented.is(true)),
      blame: it.vented,
      message: 'Open the vent.',
    }),
    tagOnce: unique(it.tag),
    pair: unique(it.pieces, it.kiln),
  }),
});

/** What is told of a valid booking with some fields changed: pointers and rules, or the accepted fields that changed. */
function told(changes: object, wire: Wire, stored: readonly Row[] = []) {
  const valid = wire === 'form' ? { tag: 'AB', vented: 'false' } : { tag: 'AB', vented: false };
  const input = Object.fromEntries(Object.entries({ ...valid, ...changes }).filter(([, value]) => value !== undefined));
  const store = (of: string) => (of === 'booking' ? stored : [{ code: 'K01' }]);
  const verdict = decide(booking.model, input, wire, { store });
  if ('refused' in verdict) {
    const words = ({ rule: id, pointer }: { rule: string; pointer: string }) =>
      `${pointer} ${id.replace('booking.', '')}`;
    return [...verdict.refused.map(words), ...verdict.possibly.map((one) => `possibly ${words(one)}`)];
  }
  const names = Object.keys(changes) as (keyof typeof verdict.accepted)[];
  return Object.fromEntries(names.map((name) => [name, verdict.accepted[name]]));
}

const absentNotes = { notes: null };
const table: readonly (readonly [wire: Wire, changes: object, expected: unknown])[] = [
  // absent, in every spelling
  ['json', { tag: undefined }, ['/tag tag.required']],
  ['json', { tag: null }, ['/tag tag.required']],
  ['json', { tag: '' }, ['/tag tag.required']],
  ['json', { tag: ' \u00a0\t\u3000\ufeff' }, ['/tag tag.required']],
  ['form', { tag: undefined }, ['/tag tag.required']],
  ['form', { tag: '  ' }, ['/tag tag.required']],
  ['row', { tag: null }, ['/tag tag.required']],
  ['row', { tag: '' }, ['/tag tag.canonical', '/tag tag.minLength']],
  ['row', { tag: '   ' }, ['/tag tag.canonical']],
  ['json', { notes: '' }, absentNotes],
  ['form', { notes: '\r\n' }, absentNotes],
  ['json', { pieces: '' }, ['/pieces pieces.type']],
  ['form', { pieces: '' }, { pieces: null }],
  ['form', { pieces: '  ' }, ['/pieces pieces.type']],
  ['json', { glaze: '' }, ['/glaze glaze.type']],
  ['form', { glaze: '' }, { glaze: null }],
  ['json', { loadOn: '' }, ['/loadOn loadOn.type']],
  ['json', { kiln: '' }, { kiln: null }],
  ['json', { kiln: ' K01 ' }, { kiln: 'K01' }],
  // text: trimmed, counted in code points, one line unless said
  ['json', { tag: ' AB\u2003' }, { tag: 'AB' }],
  ['json', { tag: '🏺🏺🏺🏺' }, { tag: '🏺🏺🏺🏺' }],
  ['json', { tag: '🏺' }, ['/tag tag.minLength']],
  ['json', { tag: '🏺🏺🏺🏺🏺' }, ['/tag tag.maxLength']],
  ['json', { tag: 'e\u0301' }, { tag: 'e\u0301' }],
  ['json', { tag: 'a\nb' }, ['/tag tag.lines']],
  ['json', { tag: 'a\u2028b' }, { tag: 'a\u2028b' }],
  ['json', { tag: 'ab\n' }, { tag: 'ab' }],
  ['json', { notes: 'a\r\nb\rc\nd ' }, { notes: 'a\nb\nc\nd' }],
  ['row', { notes: 'a\r\nb' }, ['/notes notes.canonical']],
  ['row', { tag: 'AB ' }, ['/tag tag.canonical']],
  ['json', { tag: 'a\0b' }, ['/tag tag.type']],
  ['json', { tag: 'a\ud800' }, ['/tag tag.type']],
  ['json', { tag: 'a\ufffd' }, ['/tag tag.type']],
  ['json', { tag: 12 }, ['/tag tag.type']],
  ['form', { tag: ['AB'] }, { tag: 'AB' }],
  ['form', { tag: ['AB', 'AB'] }, ['/tag tag.type']],
  ['form', { tag: [] }, ['/tag tag.required']],
  // integers: one spelling
  ...['1e1', '007', '+5', '0x10', '12abc', '1_0', ' 5', '5.0', '٣', '--1', '9007199254740993'].map(
    (text) => ['form', { pieces: text }, ['/pieces pieces.type']] as const,
  ),
  ['form', { pieces: '-0' }, ['/pieces pieces.min']],
  ['json', { pieces: 40 }, { pieces: 40 }],
  ['json', { pieces: 41 }, ['/pieces pieces.max']],
  ['json', { pieces: 0 }, ['/pieces pieces.min']],
  ['json', { pieces: 1.5 }, ['/pieces pieces.type']],
  ['json', { pieces: 2 ** 53 }, ['/pieces pieces.type']],
  ['json', { pieces: '5' }, ['/pieces pieces.type']],
  // dates: real days
  ['json', { loadOn: '2024-02-29' }, { loadOn: '2024-02-29' }],
  ...[
    '2023-02-29',
    '1900-02-29',
    '2024-04-31',
    '2024-13-01',
    '2024-00-10',
    '0000-01-01',
    '2024-2-3',
    '10000-01-01',
    '2024-02-03T00:00',
  ].map((text) => ['json', { collectOn: text }, ['/collectOn collectOn.type']] as const),
  ['json', { collectOn: '0001-01-01' }, { collectOn: '0001-01-01' }],
  ['json', { collectOn: '2000-02-29' }, { collectOn: '2000-02-29' }],
  ['json', { loadOn: '2023-12-31' }, ['/loadOn loadOn.min']],
  // booleans: a box that is not ticked
  ['form', { vented: undefined }, { vented: false }],
  ['form', { washed: undefined }, { washed: null }],
  ['form', { vented: ['false', 'on'] }, { vented: true }],
  ['form', { vented: ['true', 'false'] }, { vented: false }],
  ['form', { vented: 'yes' }, ['/vented vented.type']],
  ['json', { vented: undefined }, ['/vented vented.required']],
  ['json', { vented: 0 }, ['/vented vented.type']],
  // choices: by code
  ['json', { glaze: 'Ash' }, ['/glaze glaze.enumeration']],
  ['json', { glaze: 0 }, ['/glaze glaze.type']],
  ['json', { glaze: 'rust' }, { glaze: 'rust' }],
  // rules: broken only where false
  ['json', { loadOn: '2024-05-05', collectOn: '2024-05-05' }, ['/collectOn order']],
  ['json', { loadOn: '2024-05-05', collectOn: '2024-05-06' }, { loadOn: '2024-05-05', collectOn: '2024-05-06' }],
  ['json', { collectOn: '2024-05-05' }, { collectOn: '2024-05-05' }],
  ['json', { loadOn: 'never', collectOn: '2024-05-05' }, ['/loadOn loadOn.type']],
  ['json', { loadOn: '2023-05-05', collectOn: '2023-05-05' }, ['/loadOn loadOn.min', '/collectOn order']],
  ['json', { glaze: 'ash' }, ['/vented ashVented']],
  ['json', { glaze: 'ash', vented: true }, { glaze: 'ash', vented: true }],
  // keys, and everything at once in the order of the declaration
  ['json', { 'a/b~': 1 }, ['/a~1b~0 keys']],
  ['json', JSON.parse('{"__proto__": 1}'), ['/__proto__ keys']],
  [
    'json',
    { tag: 'ABCDE', pieces: 99, glaze: 'x', z: 1 },
    ['/z keys', '/tag tag.maxLength', '/pieces pieces.max', '/glaze glaze.enumeration'],
  ],
  // look-ups: behind another fault they are possible
  ['json', { kiln: 'K02' }, ['/kiln kiln.reference']],
  ['json', { kiln: 'X' }, ['/kiln kiln.pattern', 'possibly /kiln kiln.reference']],
];

describe('what the meaning says', () => {
  for (const [wire, changes, expected] of table) {
    test(`${wire} ${JSON.stringify(changes, (_, value) => (value === undefined ? 'missing' : value))}`, () => {
      assert.deepEqual(told(changes, wire), expected);
    });
  }

  test('no record is one violation at the record', () => {
    for (const input of [null, [], 'x', 1, undefined]) {
      assert.deepEqual(decide(booking.model, input, 'json'), {
        refused: [{ pointer: '', rule: 'booking.type', message: 'Send one record: an object with fields.' }],
        possibly: [],
      });
    }
  });

  test('unique: the same values collide, absent ones never do', () => {
    const stored = [{ tag: 'AB', pieces: 3, kiln: 'K01' }];
    assert.deepEqual(told({}, 'json', stored), ['/tag tagOnce']);
    assert.deepEqual(told({ tag: ' AB ' }, 'json', stored), ['/tag tagOnce']);
    assert.deepEqual(told({ tag: 'ab' }, 'json', stored), { tag: 'ab' });
    assert.deepEqual(told({ tag: 'CD', pieces: 3, kiln: 'K01' }, 'json', stored), ['/pieces pair']);
    assert.deepEqual(told({ tag: 'CD', pieces: 3 }, 'json', [{ tag: 'X', pieces: 3, kiln: null }]), {
      tag: 'CD',
      pieces: 3,
    });
  });

  test('without a store look-ups are unknown, hence not broken', () => {
    const verdict = decide(booking.model, { tag: 'AB', vented: true, kiln: 'K77' }, 'json');
    assert.ok('accepted' in verdict, JSON.stringify(verdict));
  });

  test('every value has one spelling on each wire, and reading it gives the value back', () => {
    const row = {
      tag: 'AB',
      notes: 'a\nb',
      pieces: 7,
      glaze: null,
      loadOn: null,
      collectOn: '2026-03-02',
      vented: false,
      washed: null,
      kiln: 'K01',
    };
    assert.deepEqual(encode(booking.model, row, 'form'), {
      tag: 'AB',
      notes: 'a\nb',
      pieces: '7',
      collectOn: '2026-03-02',
      vented: 'false',
      kiln: 'K01',
    });
    for (const wire of ['form', 'json', 'row'] as const) {
      assert.deepEqual(decide(booking.model, encode(booking.model, row, wire), wire), { accepted: row });
    }
  });

  test('validator answers in process, with typed values', () => {
    const checked = validator(kiln).check({ code: ' K07 ' });
    assert.deepEqual(checked, { ok: true, value: { code: 'K07' } });
    assert.deepEqual(validator(kiln).check({ code: 'k07' }, { wire: 'form' }), {
      ok: false,
      violations: [{ pointer: '/code', rule: 'kiln.code.pattern', message: 'Code is not in the expected form.' }],
    });
  });
});
