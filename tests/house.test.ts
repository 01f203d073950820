import assert from 'node:assert/strict';
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import { describe, test } from 'node:test';
import { kinds } from '../src/core/kinds/index.js';
import { targetNames } from '../src/core/targets/index.js';

interface Source {
  /** Below `src`, with forward slashes. */
  readonly file: string;
  readonly text: string;
  /** Files below `src` that it imports, and packages. */
  readonly imports: readonly string[];
}

const sources: readonly Source[] = readdirSync('src', { recursive: true, encoding: 'utf8' })
  .map((file) => file.replaceAll('\\', '/'))
  .filter((file) => file.endsWith('.ts'))
  .map((file) => {
    const text = readFileSync(join('src', file), 'utf8');
    const found = [...text.matchAll(/(?:from|import)\s*\(?\s*'([^']+)'/g)].map(([, name = '']) => name);
    return {
      file,
      text,
      imports: found.map((name) => (name.startsWith('.') ? normalize(join(dirname(file), name)) : name)),
    };
  });

/** Every import that breaks a rule, as `file imports name`. */
function offences(isWrong: (file: string, name: string) => boolean): readonly string[] {
  return sources.flatMap(({ file, imports }) =>
    imports.filter((name) => isWrong(file, name)).map((name) => `${file} imports ${name}`),
  );
}

function room(file: string): string {
  return file.startsWith('core/') ? (file.split('/')[1]?.replace(/\.(?:js|ts)$/, '') ?? '') : '';
}

/** Each room of core may import itself and those before it; rooms of one line may import each other. */
const order: readonly (readonly string[])[] = [
  ['model'],
  ['messages'],
  ['kinds', 'operators'],
  ['declare', 'meaning'],
  ['decider'],
  ['reason'],
  ['targets'],
  ['cases'],
  ['review', 'fill', 'mistakes'],
];
const rank = (name: string) => order.findIndex((rooms) => rooms.includes(name));

describe('the house', () => {
  test('there is something to look at', () => assert.ok(sources.length > 100, `${sources.length} files`));

  test('core imports nothing outside core but the regex parser and the automata, in reason and targets only', () => {
    const packages = ['refa', '@eslint-community/regexpp'];
    assert.deepEqual(
      offences((file, name) => {
        if (!file.startsWith('core/') || name.startsWith('core/')) return false;
        return !(packages.includes(name) && ['reason', 'targets'].includes(room(file)));
      }),
      [],
    );
  });

  test('inside core no room imports one that comes after it', () => {
    const rooms = new Set(sources.map(({ file }) => room(file)).filter((name) => name !== ''));
    assert.deepEqual(
      [...rooms].filter((name) => rank(name) < 0),
      [],
      'every room has its place in the order',
    );
    assert.deepEqual(
      offences(
        (file, name) => file.startsWith('core/') && name.startsWith('core/') && rank(room(name)) > rank(room(file)),
      ),
      [],
    );
  });

  test('no file needs itself to be loaded, but for two languages whose terms and predicates are made of each other', () => {
    const recursive = [/^core\/reason\/solve\//, /^core\/targets\/javascript\//];
    const needs = new Map(
      sources.map(({ file, text }) => {
        const found = [...text.matchAll(/^(?:import|export) (?!type )([^;]*?)from '(\.[^']+)'/gm)];
        const values = found.filter(([, names = '']) => !/^\{(?:\s*type \w+(?: as \w+)?,?)+\s*\}\s*$/.test(names));
        return [file, values.map(([, , name = '']) => normalize(join(dirname(file), name)).replace(/\.js$/, '.ts'))];
      }),
    );
    const reaches = (from: string, wanted: string, seen: Set<string>): boolean =>
      (needs.get(from) ?? []).some((next) => {
        if (next === wanted) return true;
        if (seen.has(next)) return false;
        seen.add(next);
        return reaches(next, wanted, seen);
      });
    const circular = [...needs.keys()].filter((file) => reaches(file, file, new Set()));
    assert.deepEqual(
      circular.filter((file) => !recursive.some((language) => language.test(file))),
      [],
    );
  });

  test('a kind knows no other kind, an operator no other operator', () => {
    const isMember = ({ file, text }: Source) =>
      /^core\/(?:kinds|operators)\//.test(file) && /^export const \w+: (?:Kind|Operator<)/m.test(text);
    const members = sources.filter(isMember).map(({ file }) => file.replace(/\.ts$/, ''));
    assert.equal(members.length, 37, 'sixteen kinds and twenty-one operators');
    const tables = ['core/kinds/index', 'core/operators/index'];
    const bare = (name: string) => name.replace(/\.(?:js|ts)$/, '');
    assert.deepEqual(
      offences((file, name) => members.includes(bare(file)) && [...members, ...tables].includes(bare(name))),
      [],
    );
  });

  test('a target does not know another target', () => {
    const target = (file: string) => /^core\/targets\/([\w-]+)\//.exec(file)?.[1];
    // A store of documents is a schema of JSON in the CHECKs of PostgreSQL: it is made of both.
    const madeOf: { readonly [target: string]: readonly string[] } = {
      'postgresql-documents': ['json-schema', 'postgresql'],
    };
    assert.deepEqual(
      offences((file, name) => {
        const [own, other] = [target(file), target(name)];
        if (own === undefined || other === undefined || other === own || other === 'sql') return false;
        return madeOf[own]?.includes(other) !== true;
      }),
      [],
    );
  });

  test('sibling targets have the same file names', () => {
    const files = (target: string) =>
      sources.filter(({ file }) => file.startsWith(`core/targets/${target}/`)).map(({ file }) => file.split('/')[3]);
    for (const target of ['javascript', 'html', 'postgresql', 'mariadb', 'sqlite']) {
      for (const name of ['index.ts', 'names.ts', 'predicates.ts', 'types.ts'])
        assert.ok(files(target).includes(name), `${target}/${name}`);
    }
  });

  test('reports take data and give text: no file, no process, no layer, no meaning', () => {
    assert.deepEqual(
      offences((file, name) => {
        const heart = /^core\/(?:kinds|operators|meaning|reason|targets|cases)\//.test(name);
        return (
          file.startsWith('report/') && (name.startsWith('node:') || /^(?:layers|server|cli)\//.test(name) || heart)
        );
      }),
      [],
    );
  });

  test('the command line computes nothing: it calls the rooms that do, and none of them calls it', () => {
    const inside = /^core\/(?:kinds|operators|meaning|reason)\/|^core\/(?:targets|cases|declare)\/(?!index)/;
    assert.deepEqual(
      offences((file, name) => file.startsWith('cli/') && inside.test(name)),
      [],
    );
    assert.deepEqual(
      offences((file, name) => !file.startsWith('cli/') && name.startsWith('cli/')),
      [],
    );
  });

  test('files and processes belong to layers and the command line', () => {
    assert.deepEqual(
      offences((file, name) => name.startsWith('node:') && !/^(?:layers|cli)\//.test(file)),
      [],
    );
  });

  test('what ships to a page has no dependency, but for the binding of React', () => {
    assert.deepEqual(
      offences(
        (file, name) =>
          file.startsWith('browser/') &&
          !name.startsWith('browser/') &&
          !(file === 'browser/react.ts' && name === 'react'),
      ),
      [],
    );
    assert.deepEqual(
      offences((file, name) => !file.startsWith('browser/') && name.startsWith('browser/')),
      [],
    );
  });

  test('the examples use what everybody can import', () => {
    const files = readdirSync('examples', { recursive: true, encoding: 'utf8' }).filter(
      (file) => /\.(?:ts|js)$/.test(file) && !/\/(?:dist|echo)\//.test(file),
    );
    assert.ok(files.length > 15, `${files.length} files`);
    assert.deepEqual(
      files.filter((file) => /from '[./]+\/(?:src|dist)\//.test(readFileSync(join('examples', file), 'utf8'))),
      [],
    );
  });

  test('no module keeps state', () => {
    // What it holds follows from its keys: nobody can tell whether it was there before.
    const remembered = 'core/reason/remembered.ts';
    const others = sources.filter(({ file }) => file !== remembered);
    assert.equal(others.length, sources.length - 1);
    const stateful = others.filter(({ text }) =>
      /^(?:export )?(?:let|var) |^(?:export )?const \w+(?:: [^=]+)? = new (?:Map|WeakMap|Set)\b[^(]*\(\)/m.test(text),
    );
    assert.deepEqual(
      stateful.map(({ file }) => file),
      [],
    );
  });

  test('nobody asks for a kind or a target by its name', () => {
    const names = [...Object.keys(kinds), ...targetNames].join('|');
    const asking = new RegExp(`(?:kind|target|definition)\\)? ?[!=]== '(?:${names})'|case '(?:${names})':`);
    assert.deepEqual(
      sources.filter(({ text }) => asking.test(text)).map(({ file }) => file),
      [],
    );
  });

  test('files are small and named for what they hold', () => {
    assert.deepEqual(
      sources.filter(({ file }) => /util|helper|common|misc/.test(file)).map(({ file }) => file),
      [],
    );
    const long = sources.filter(({ text }) => text.split('\n').length > 300);
    assert.deepEqual(
      long.map(({ file }) => file),
      [],
    );
  });

  // Without a message the runner works one out from the source text, which takes it minutes where that was transpiled.
  test('every bare assertion says what it is about', () => {
    const tests = readdirSync('tests', { recursive: true, encoding: 'utf8' }).filter((file) =>
      file.endsWith('.test.ts'),
    );
    const bare = tests.filter((file) => {
      const text = readFileSync(join('tests', file), 'utf8');
      return [...text.matchAll(/assert\.ok\(([\s\S]*?)\);\n/g)].some(
        ([, inside = '']) => !/[,]\s*(?:[`']|\w+,?\s*$|JSON|[a-z]+\b)/.test(inside),
      );
    });
    assert.deepEqual(bare, []);
  });
});
