import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { choice, integer, list, lookUp, record, ruleset, text, validator } from 'echo-rule';
import { messagesIn, polish } from 'echo-rule/languages';
import { endpoint, formHtml, type LogEntry, readBody, receive, wantsHtml } from '../../src/server/index.js';

const pot = ruleset('pot', {
  ignore: ['token'],
  fields: {
    name: text({ maxLength: 20, label: 'Name <of> the "pot"' }),
    size: integer({ min: 1, max: 9 }),
    glaze: choice({ ash: 'Ash', shino: 'Shino' }, { optional: true }),
    lid: record({ wide: integer() }, { optional: true }),
    pass: text({ minLength: 8, secret: { storedAs: 'digest', by: (typed: string) => `#${typed.length}` } }),
    digest: text({ enforcedIn: ['database'] }),
  },
  rules: (it) => ({
    ashIsSmall: it.glaze.is('ash').implies(it.size.isAtMost(4)),
    known: lookUp([it.name]),
  }),
});
const good = { name: ' Cup ', size: 3, pass: 'open the kiln' };

const post = (
  body: BodyInit | null,
  type: string | null = 'application/json',
  headers: { [name: string]: string } = {},
) =>
  new Request('http://studio.example/pots?token=1', {
    method: 'POST',
    body,
    headers: { ...(type === null ? {} : { 'content-type': type }), ...headers },
  });
const form = 'application/x-www-form-urlencoded';
const parts = (body: string) => `--boundary-of-parts\r\n${body}\r\n--boundary-of-parts--\r\n`;
const part = (name: string, value: string) => `content-disposition: form-data; name="${name}"\r\n\r\n${value}`;
const bytes = (...all: number[]) => new Uint8Array(all);

/** A body, its type, and the status and code of what is said of it. */
const bodies: readonly (readonly [what: string, request: () => Request, status: number, code: string])[] = [
  ['no type', () => post(bytes(123, 125), null), 415, 'media_type'],
  ['another type', () => post('<a/>', 'application/xml'), 415, 'media_type'],
  ['a type that is none', () => post('{}', '/;;=', {}), 415, 'media_type'],
  ['another charset', () => post('{}', 'application/json; charset=utf-16le'), 415, 'charset'],
  ['a compressed body', () => post('{}', 'application/json', { 'content-encoding': 'gzip' }), 415, 'content_coding'],
  ['no JSON', () => post('{"name":'), 400, 'malformed'],
  ['an empty body', () => post(''), 400, 'malformed'],
  ['no UTF-8', () => post(bytes(34, 255, 34)), 400, 'malformed'],
  ['a form that is no UTF-8', () => post(bytes(97, 61, 255), form), 400, 'malformed'],
  ['parts without a boundary', () => post(parts(part('name', 'x')), 'multipart/form-data'), 400, 'malformed'],
  [
    'parts that break off',
    () => post('--boundary-of-parts\r\ncontent-disp', 'multipart/form-data; boundary=boundary-of-parts'),
    400,
    'malformed',
  ],
  ['deep JSON', () => post(`${'['.repeat(65)}${']'.repeat(65)}`), 400, 'too_deep'],
  ['JSON as deep as is allowed', () => post(`${'['.repeat(64)}${']'.repeat(64)}`), 422, 'invalid'],
  ['brackets in a text', () => post(`{"name":"${'['.repeat(70)}\\"{"}`), 422, 'invalid'],
  ['JSON as large as is allowed', () => post(`"${'x'.repeat(999_998)}"`), 422, 'invalid'],
  ['one byte more', () => post(`"${'x'.repeat(999_999)}"`), 413, 'too_large'],
  ['a form of as many entries as are allowed', () => post(`a${'&a'.repeat(9_999)}`, form), 422, 'invalid'],
  ['one entry more', () => post(`a${'&a'.repeat(10_000)}`, form), 413, 'too_large'],
  ['JSON that is no record', () => post('[1]'), 422, 'invalid'],
  [
    'a form with a file',
    () =>
      post(
        parts('content-disposition: form-data; name="name"; filename="a"\r\ncontent-type: text/plain\r\n\r\nx'),
        'multipart/form-data; boundary=boundary-of-parts',
      ),
    422,
    'invalid',
  ],
];

const lookUps = { known: async (name: string) => name !== 'ghost' };

describe('requests', () => {
  const save = async () => Response.json({ done: true }, { status: 201 });
  const answer = endpoint(pot, { save, lookUps });

  for (const [what, request, status, code] of bodies) {
    test(`${what}: ${status} ${code}`, async () => {
      const response = await answer(request(), null);
      const told = (await response.json()) as { [member: string]: unknown };
      assert.equal(response.headers.get('content-type'), 'application/problem+json');
      assert.deepEqual([response.status, told.status, told.code], [status, status, code]);
      assert.ok(typeof told.detail === 'string' && told.detail.length > 10, JSON.stringify(told));
      if (status === 415) assert.match(response.headers.get('accept') ?? '', /application\/json/);
    });
  }

  test('the same record by every wire, checked and canonical', async () => {
    const entries = { name: ' Cup ', size: '3', pass: 'open the kiln', 'lid[wide]': '2', token: 'abc' };
    const multipart = new FormData();
    for (const [name, value] of Object.entries(entries)) multipart.append(name, value);
    const wires = [
      post(JSON.stringify({ ...good, lid: { wide: 2 } }), 'Application/JSON; Charset="UTF-8"'),
      post(new URLSearchParams(entries), null),
      new Request('http://studio.example/pots', { method: 'POST', body: multipart }),
    ];
    for (const request of wires) {
      const received = await receive(request, validator(pot), { lookUps });
      assert.ok(received.ok, JSON.stringify(received));
      assert.deepEqual(received.value, { name: 'Cup', size: 3, glaze: null, lid: { wide: 2 }, pass: 'open the kiln' });
    }
    const repeated = await readBody(post('a=1&a=2&__proto__=3&b', form));
    assert.ok('input' in repeated, 'it is read');
    assert.deepEqual(Object.entries(repeated.input as object), [
      ['a', ['1', '2']],
      ['__proto__', '3'],
      ['b', ''],
    ]);
  });

  test('everything that is wrong at once, look-ups too, in the language of the request', async () => {
    const inPolish = endpoint(pot, { save, lookUps, messages: () => messagesIn(pot, polish) });
    const told = (await (await inPolish(post('{"name":"ghost","size":0,"pass":"open the kiln"}'), null)).json()) as {
      violations: { pointer: string; rule: string; message: string }[];
    };
    assert.deepEqual(
      told.violations.map(({ pointer, rule }) => `${pointer} ${rule}`),
      ['/size pot.size.min', '/name pot.known'],
    );
    assert.match(told.violations[0]?.message ?? '', /„Size”/);
  });

  test('a partial update is checked with what is stored; without a stored record it is not found', async () => {
    const stored = { name: 'Cup', size: 6, glaze: null, lid: null, pass: 'open the kiln' };
    const saved: unknown[] = [];
    const patch = endpoint<object, string>(pot, {
      lookUps,
      existing: async ({ context }) => (context === 'cup' ? stored : null),
      async save(value) {
        saved.push(value);
        return Response.json(value);
      },
    });
    const send = (body: object, context = 'cup') =>
      patch(post(JSON.stringify(body), 'application/merge-patch+json'), context);
    const refused = (await (await send({ glaze: 'ash' })).json()) as { violations: { rule: string }[] };
    assert.deepEqual(
      refused.violations.map(({ rule }) => rule),
      ['pot.ashIsSmall'],
    );
    assert.equal((await send({ glaze: 'shino', size: 7 })).status, 200);
    assert.deepEqual(saved, [{ ...stored, glaze: 'shino', size: 7 }]);
    assert.equal((await send({}, 'jug')).status, 404);
  });

  test('an answer lists at most 200 violations, and counts the others', async () => {
    const rack = ruleset('rack', { fields: { sizes: list(integer({ min: 1 })) } });
    const answering = endpoint(rack, { save });
    for (const [count, listed, more] of [
      [200, 200, undefined],
      [201, 200, 1],
      [9_000, 200, 8_800],
    ] as const) {
      const response = await answering(post(JSON.stringify({ sizes: new Array(count).fill(0) })), null);
      const problem = await response.json();
      assert.deepEqual([response.status, problem.violations.length, problem.more], [422, listed, more]);
      assert.equal(/There are \d+ more\.$/.test(problem.detail), more !== undefined, 'the words count them, too');
    }
  });

  test('who asks for HTML gets the page with what was sent, escaped; secrets are not in it', async () => {
    const pages = endpoint(pot, {
      lookUps,
      save,
      page: ({ entries, violations }) => formHtml(pot, { entries, violations, action: '/pots' }),
    });
    const accept = 'text/html,application/xhtml+xml,application/xml;q=0.9,*/*;q=0.8';
    const sent = new URLSearchParams({ name: '"><script>alert(1)</script>', size: '12', glaze: 'slip', pass: 'short' });
    const response = await pages(post(sent, null, { accept }), null);
    const html = await response.text();
    assert.equal(response.status, 422);
    assert.equal(response.headers.get('content-type'), 'text/html; charset=utf-8');
    assert.match(html, /value="&quot;&gt;&lt;script&gt;alert\(1\)&lt;\/script&gt;"/);
    assert.match(html, /Name &lt;of&gt; the &quot;pot&quot; must have at most 20 characters\./);
    assert.match(html, /<input id="pot-size"[^>]+value="12"[^>]+aria-invalid="true"/);
    assert.match(html, /<option value="slip" selected>slip<\/option>/);
    assert.match(html, /<input id="pot-pass" name="pass" type="password" autocomplete="new-password"/);
    assert.doesNotMatch(html, /<script|short"|digest/);
    const told = await pages(post(sent, null, { accept: 'application/json, text/html;q=0.5' }), null);
    assert.equal(told.headers.get('content-type'), 'application/problem+json');
    const table = {
      '': false,
      '*/*': false,
      'text/html': true,
      'application/json;q=0.1, text/*': true,
      'text/plain': false,
    };
    for (const [asked, wanted] of Object.entries(table))
      assert.equal(wantsHtml(post('{}', null, { accept: asked })), wanted, asked);
  });

  test('a fault of the server is told as one, and a log knows why: without any secret', async () => {
    const entries: LogEntry[] = [];
    const failing = endpoint(pot, {
      lookUps,
      async save() {
        throw new Error('no disk left while storing open the kiln');
      },
      log: (entry) => entries.push(entry),
    });
    const response = await failing(post(JSON.stringify(good)), null);
    const told = await response.text();
    assert.equal(response.status, 500);
    assert.doesNotMatch(told, /disk|kiln/);
    await failing(post(JSON.stringify({ ...good, size: 11, secretKey: 'abc' })), null);
    assert.deepEqual(
      entries.map(({ method, path, status, code, input, violations }) => ({
        method,
        path,
        status,
        code,
        input,
        violations,
      })),
      [
        {
          method: 'POST',
          path: '/pots',
          status: 500,
          code: 'fault',
          input: { ...good, pass: '(secret)' },
          violations: [],
        },
        {
          method: 'POST',
          path: '/pots',
          status: 422,
          code: 'invalid',
          input: { ...good, size: 11, pass: '(secret)', secretKey: '(not declared)' },
          violations: [
            { pointer: '/secretKey', rule: 'pot.keys' },
            { pointer: '/size', rule: 'pot.size.max' },
          ],
        },
      ],
    );
    assert.equal(entries[0]?.error?.message, 'no disk left while storing (secret)');
    assert.doesNotMatch(JSON.stringify(entries), /open the kiln|abc/);
  });

  test("a driver's error that is thrown becomes the field's message", async () => {
    const error = Object.assign(new Error('duplicate key'), {
      code: '23514',
      constraint: 'pot_size_max',
      table: 'pot',
    });
    const taken = endpoint(pot, {
      lookUps,
      async save() {
        throw error;
      },
    });
    const response = await taken(post(JSON.stringify(good)), null);
    const { violations } = (await response.json()) as { violations: { pointer: string; rule: string }[] };
    assert.deepEqual([response.status, violations[0]?.pointer, violations[0]?.rule], [422, '/size', 'pot.size.max']);
  });
});
