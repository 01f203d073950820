import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { type CheckOptions, rule, ruleset, text, validator } from 'echo-rule';
import { encode } from '../../../src/core/meaning/index.js';
import { booking } from '../../fixtures/booking.rules.js';
import { loadedCheck, type Manner } from '../../fixtures/echo.js';

const clock = { instant: '2026-03-02T09:00:00Z' };
const meant = validator(booking);
const compiled = await loadedCheck(booking);

/** What both the validator and the compiled module say: the value, or pointers and rules. */
function told(input: unknown, how: CheckOptions): unknown {
  const checked = meant.check(input, { clock, ...how });
  const module = compiled(input, { on: 'server', wire: 'json', clock, ...how } as Manner);
  assert.deepEqual(JSON.parse(JSON.stringify(module)), JSON.parse(JSON.stringify(checked)), 'the module says the same');
  if (checked.ok) return checked.value;
  return checked.violations.map(({ pointer, rule }) => `${pointer} ${rule.replace('booking.', '')}`);
}

const whole = { tag: 'AB', vented: true, place: { hall: 'East' } };
const absent = { buyer: null, fee: null, weight: null, from: null, until: null, made: null, shelf: null };
const accepted = { ...whole, ...absent, grade: 20, place: { hall: 'East', door: null }, helpers: [], parts: [] };

describe('records and lists as JSON', () => {
  const cases: readonly (readonly [what: string, change: object, expected: unknown])[] = [
    ['what is left out is absent, a default fills its missing key', {}, accepted],
    ['null is absent, and no default fills it', { grade: null }, ['/grade grade.required']],
    ['an empty optional record is absent, and its defaults with it', { shelf: {} }, accepted],
    ['a blank optional record is absent', { shelf: { bay: '  ', level: null } }, accepted],
    ['false counts: it was said', { shelf: { lit: false } }, ['/shelf/bay shelf.bay.required']],
    [
      'a default fills a record that is there',
      { shelf: { bay: 'A', lit: true } },
      { ...accepted, shelf: { bay: 'A', level: 1, lit: true } },
    ],
    ['a required record says what is missing in it', { place: null }, ['/place/hall place.hall.required']],
    ['a record that is none', { place: 'East' }, ['/place place.type']],
    ['a strange key, at its own pointer', { shelf: { 'a/b': 1 } }, ['/shelf/a~1b keys']],
    [
      'a key that could reach the prototype',
      JSON.parse('{"place":{"hall":"East","__proto__":1}}'),
      ['/place/__proto__ keys'],
    ],
    ['a form token is passed over', { token: 'x' }, accepted],
    [
      'entries are told by index',
      { helpers: ['Ines', '', 'tooLong'] },
      ['/helpers helpers.maxItems', '/helpers/1 helpers[].required', '/helpers/2 helpers[].maxLength'],
    ],
    ['the same entry twice, once trimmed', { helpers: ['Ines', ' Ines '] }, ['/helpers/1 helpers.distinct']],
    [
      'what tells records apart is told where it stands',
      {
        parts: [
          { name: 'rim', count: 1, spare: true },
          { name: 'rim', count: 1, spare: true },
        ],
      },
      ['/parts/1/name parts.distinct'],
    ],
    ['a rule over entries', { parts: [{ name: 'rim', count: 10, spare: true }] }, ['/parts counted']],
    [
      'what could not be read is in no rule',
      { parts: [{ name: 'rim', count: 10, spare: true }, 'x'] },
      ['/parts/1 parts[].type'],
    ],
    ['decimals are exact, zeros that end them go', { fee: 1.5, weight: '0012' }, ['/weight weight.type']],
    ['more digits are refused, never rounded', { fee: 1.005, weight: '1.23450' }, ['/fee fee.scale']],
    ['many digits are text', { weight: '1234567890123456.5000' }, { ...accepted, weight: '1234567890123456.5' }],
    [
      'an instant is told in UTC',
      { made: '2026-03-02T23:30:00.5-02:00' },
      { ...accepted, made: '2026-03-03T01:30:00.50Z' },
    ],
    ['a rule by the clock', { from: '2026-03-01' }, ['/from notPast']],
    ['a text longer than anybody reads', { tag: 'x'.repeat(1_000_001) }, ['/tag limits']],
    ['a list longer than anybody reads', { helpers: new Array(10_001).fill('x') }, ['/helpers limits']],
    [
      'more keys than anybody reads',
      Object.fromEntries(Array.from({ length: 1_001 }, (_, at) => [`k${at}`, 1])),
      [' limits'],
    ],
  ];
  for (const [what, change, expected] of cases)
    test(what, () => assert.deepEqual(told({ ...whole, ...change }, {}), expected));
});

describe('the names of a form', () => {
  const form = { tag: 'ab', 'place[hall]': 'East' };
  const sent = { ...accepted, vented: false };
  const cases: readonly (readonly [what: string, change: object, expected: unknown])[] = [
    ['an unticked box sends nothing, and is false', {}, { ...sent, tag: 'AB' }],
    [
      'of several entries of a box the last counts',
      { vented: ['false', 'true'] },
      { ...sent, tag: 'AB', vented: true },
    ],
    ['several entries of anything else are refused', { tag: ['a', 'b'] }, ['/tag tag.type']],
    ['brackets and dots are one name', { 'place.hall': 'West' }, ['/place/hall place.hall.type']],
    [
      'entries by index in the order of their numbers, gaps closed, blank ones dropped',
      { 'helpers[7]': 'Oke', 'helpers.2': 'Ines', 'helpers[3]': ' ' },
      { ...sent, tag: 'AB', helpers: ['Ines', 'Oke'] },
    ],
    ['one name several times', { 'helpers[]': ['Ines', 'Oke'] }, { ...sent, tag: 'AB', helpers: ['Ines', 'Oke'] }],
    [
      'a row of which all is blank is none',
      {
        'parts[0][name]': '',
        'parts[0][count]': '',
        'parts[0][spare]': 'false',
        'parts[1][name]': 'rim',
        'parts[1][count]': '2',
      },
      { ...sent, tag: 'AB', parts: [{ name: 'rim', count: 2, spare: false }] },
    ],
    ['an unticked box does not make a record', { 'shelf[bay]': '', 'shelf[lit]': 'false' }, { ...sent, tag: 'AB' }],
    [
      'names that lead nowhere, as they were sent',
      { 'shelf[colour]': 'x', 'helpers[01]': 'x', 'tag[a]': 'x', '[]': 'x' },
      ['/shelf[colour] keys', '/helpers[01] keys', '/tag[a] keys', '/[] keys'],
    ],
    ['text instead of a record', { shelf: 'x' }, ['/shelf shelf.type']],
    ['a number in plain digits only', { grade: '1e1', fee: '1.50', weight: '-0' }, ['/grade grade.type']],
  ];
  for (const [what, change, expected] of cases) {
    test(what, () => assert.deepEqual(told({ ...form, ...change }, { wire: 'form' }), expected));
  }
  test('an edit form sent unchanged changes nothing', () => {
    const row = { ...accepted, fee: 0.07, shelf: { bay: 'A', level: 3, lit: false }, helpers: ['Ines'], grade: 10 };
    for (const wire of ['form', 'json'] as const) {
      assert.deepEqual(meant.check(encode(booking.model, row, wire), { wire, clock }), { ok: true, value: row });
    }
  });
});

describe('partial updates', () => {
  const stored = {
    ...accepted,
    from: '2026-04-01',
    until: '2026-04-02',
    shelf: { bay: 'A', level: 2, lit: true },
    parts: [
      { name: 'rim', count: 4, spare: true },
      { name: 'foot', count: 3, spare: false },
    ],
  };
  const cases: readonly (readonly [what: string, input: object, how: CheckOptions, expected: unknown])[] = [
    ['nothing sent, nothing changed', {}, { existing: stored }, stored],
    [
      'missing is unchanged, null is cleared',
      { from: null, tag: 'cd' },
      { existing: stored },
      { ...stored, from: null, tag: 'CD' },
    ],
    [
      'a rule over several fields, on the merged record',
      { from: '2026-04-03' },
      { existing: stored },
      ['/until ordered'],
    ],
    ['no rule of which a field is not known', { from: '2026-04-03' }, {}, { from: '2026-04-03' }],
    ['a required field is cleared by nobody', { tag: null }, { existing: stored }, ['/tag tag.required']],
    [
      'within a record too',
      { shelf: { level: 5 } },
      { existing: stored },
      { ...stored, shelf: { bay: 'A', level: 5, lit: true } },
    ],
    [
      'a record that was not there must be whole',
      { shelf: { bay: 'B' } },
      { existing: { ...stored, shelf: null } },
      ['/shelf/level shelf.level.required', '/shelf/lit shelf.lit.required'],
    ],
    ['a record is cleared with all that is in it', { shelf: null }, { existing: stored }, { ...stored, shelf: null }],
    [
      'an entry of a stored key is merged, any other must be whole',
      {
        parts: [
          { name: 'foot', count: 1 },
          { name: 'lid', count: 1 },
        ],
      },
      { existing: stored },
      ['/parts/1/spare parts[].spare.required'],
    ],
    [
      'entries not sent go, in the order sent',
      { parts: [{ name: 'foot' }, { name: 'rim', count: 5 }] },
      { existing: stored },
      {
        ...stored,
        parts: [
          { name: 'foot', count: 3, spare: false },
          { name: 'rim', count: 5, spare: true },
        ],
      },
    ],
    ['no default in a partial update', { place: { hall: 'West' } }, {}, { place: { hall: 'West' } }],
    [
      'a form that did not show the box leaves it',
      { tag: 'cd' },
      { wire: 'form', existing: stored },
      { ...stored, tag: 'CD' },
    ],
    [
      'a form that showed it unticked it',
      { tag: 'cd' },
      { wire: 'form', existing: stored, shown: ['vented', 'helpers'] },
      { ...stored, tag: 'CD', vented: false },
    ],
    ['strange keys are told all the same', { surprise: 1 }, { existing: stored }, ['/surprise keys']],
  ];
  for (const [what, input, how, expected] of cases) {
    test(what, () => assert.deepEqual(told(input, { ...how, partial: true }), expected));
  }
});

describe('what the server makes of a record', () => {
  const account = ruleset('account', {
    fields: {
      title: text(),
      slug: text({ generated: 'derived', maxLength: 7 }),
      password: text({
        minLength: 4,
        trim: false,
        secret: { storedAs: 'digest', by: async (typed) => `#${typed.length}` },
      }),
      digest: text({ enforcedIn: ['database'] }),
      again: text({ enforcedIn: ['client'], optional: true }),
    },
    derived: (it) => ({ slug: it.title.slug() }),
    rules: (it) => ({ same: rule({ holds: it.again.is(it.password), blame: it.again, enforcedIn: ['client'] }) }),
  });
  const { check, derive, stored } = validator(account);
  const typed = { title: 'Éclat 1', password: 'four', again: 'fore' };

  test('secrets in the form they are stored in, derived fields, and nothing that only the page has', async () => {
    const checked = check(typed);
    assert.deepEqual(checked, { ok: true, value: { title: 'Éclat 1', password: 'four' } });
    if (!checked.ok) return;
    assert.deepEqual(derive(checked.value), { slug: 'eclat-1' });
    assert.deepEqual(await stored(checked.value), { title: 'Éclat 1', digest: '#4', slug: 'eclat-1' });
  });

  test('each side judges what it has; nobody sends what is made', () => {
    const rules = (input: unknown, on: 'client' | 'server') => {
      const checked = check(input, { on });
      return checked.ok ? [] : checked.violations.map(({ pointer, rule: id }) => `${pointer} ${id}`);
    };
    assert.deepEqual(rules(typed, 'client'), ['/again account.same']);
    assert.deepEqual(rules({ ...typed, digest: 'x', slug: 'y' }, 'server').slice(0, 2), [
      '/digest account.keys',
      '/slug account.keys',
    ]);
  });
});
