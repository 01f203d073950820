import { compile } from '../src/compile.js';
import { integer, list, record, ruleset, text } from '../src/index.js';
import { fastest, figure } from './measure.js';

type Check = (input: unknown, how: object) => unknown;

const shelf = ruleset('shelf', {
  key: 'code',
  fields: {
    code: text({ pattern: /[A-Z]{2}[0-9]{2}/ }),
    plain: text({ optional: true }),
    lines: text({ lines: 'many', optional: true }),
    composed: text({ unicode: 'NFC', optional: true }),
    matched: text({ pattern: /(?:[a-z]+ ?)+/, optional: true }),
    tags: list(text({ maxLength: 12 }), { distinct: true, maxItems: 100_000 }),
    pots: list(record({ mark: text({ maxLength: 12 }), weight: integer() }), { key: 'mark', maxItems: 100_000 }),
  },
});
const ENTRIES = 2_000;
const CHARACTERS = 100_000;

/** What twice the input costs: texts, lists, updates, forms, faults. A time in proportion doubles. */
export async function benchGrowth(): Promise<void> {
  const [file] = compile([shelf], ['javascript']).files.filter(({ path }) => path.endsWith('.js'));
  const module = (await import(`data:text/javascript,${encodeURIComponent(file?.text ?? '')}`)) as { check: Check };
  const json = { wire: 'json' };
  const whole = { code: 'AB12' };
  const pots = (count: number) => Array.from({ length: count }, (_, at) => ({ mark: `m${at}`, weight: at }));
  const existing = (count: number) => ({
    ...{ code: 'AB12', plain: null, lines: null, composed: null, matched: null, tags: [] },
    pots: pots(count),
  });
  const jobs: readonly (readonly [what: string, size: number, of: (size: number) => () => unknown])[] = [
    ['a text', CHARACTERS, textIn('plain', 'a')],
    ['a text with line ends', CHARACTERS, textIn('lines', 'ab\r\n')],
    ['a text in form C', CHARACTERS, textIn('composed', 'e\u0301')],
    ['a text against a slow pattern', CHARACTERS, textIn('matched', 'a')],
    ['a distinct list', ENTRIES, (size) => entriesIn((at) => `t${at}`, size)],
    ['a list with as many repeats', ENTRIES, (size) => entriesIn(() => 'same', size)],
    [
      'a keyed list that replaces one',
      ENTRIES,
      (size) => {
        const how = { ...json, partial: true, existing: existing(size) };
        const input = { pots: pots(size).reverse() };
        return () => module.check(input, how);
      },
    ],
    [
      'a list on a form',
      ENTRIES,
      (size) => {
        const entries = Object.fromEntries(Array.from({ length: size }, (_, at) => [`tags[${at}]`, `t${at}`]));
        return () => module.check({ ...whole, ...entries }, { wire: 'form' });
      },
    ],
    [
      'one name of a form, as many times',
      ENTRIES,
      (size) => {
        const tags = Array.from({ length: size }, (_, at) => `t${at}`);
        return () => module.check({ ...whole, tags }, { wire: 'form' });
      },
    ],
  ];
  for (const [what, size, of] of jobs) {
    const [once = 0, twice = 0] = fastest(15, [of(size), of(2 * size)]);
    figure(`${what}, ${2 * size} beside ${size}`, twice / once, 'about 2');
  }

  function textIn(field: string, repeated: string) {
    return (size: number) => {
      const input = { ...whole, [field]: repeated.repeat(size / repeated.length) };
      return () => module.check(input, json);
    };
  }

  function entriesIn(entry: (at: number) => string, size: number) {
    const tags = Array.from({ length: size }, (_, at) => entry(at));
    return () => module.check({ ...whole, tags }, json);
  }
}
