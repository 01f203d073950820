import { existsSync } from 'node:fs';
import { dirname, relative, resolve } from 'node:path';
import { caseStatements, isForTable, isWithoutStore, judgedAlone } from '../agreement/index.js';
import { type CaseSet, caseSetsFor, selected, untestedRules } from '../core/cases/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import { type Case, writes } from '../core/model/index.js';
import { type EngineName, tableTargets } from '../core/targets/index.js';
import {
  casesCsv,
  casesSql,
  casesText,
  coverageText,
  type TestTarget,
  testFile,
  untestedText,
} from '../report/index.js';
import { fieldNamed } from './explain.js';
import { narrowed, type Project } from './project.js';
import { shortPath, type Terminal } from './terminal.js';
import { writeFiles } from './write-files.js';

export interface CasesOptions {
  readonly ruleset?: readonly string[];
  readonly rule?: readonly string[];
  readonly field?: readonly string[];
  readonly budget?: number;
  readonly out?: string;
  readonly overwrite?: boolean;
  readonly engine?: EngineName;
  readonly module?: readonly string[];
  readonly url?: readonly string[];
  readonly scratch?: readonly string[];
  readonly format: 'jsonl' | 'json' | 'csv' | 'sql' | 'test' | 'text';
}

/** Writes the boundary cases, the most telling first, to standard output or whole into a file; and what was left out. */
export async function cases(project: Project, options: CasesOptions, terminal: Terminal): Promise<number> {
  if (options.scratch !== undefined) throw new ProblemError([problems.scratchAlone(null)]);
  const { asked } = narrowed(project, options);
  const sets = caseSetsFor(asked, project.schema);
  const format = formats[options.format](project, options, terminal);
  const { cases: list, coverage } = selected(sets, {
    ...(options.rule === undefined ? {} : { rules: rulesNamed(options.rule, sets) }),
    ...(options.field === undefined ? {} : { fields: fieldsNamed(options.field, project) }),
    ...(options.budget === undefined ? {} : { budget: options.budget }),
    fits: format.fits,
  });
  const { text, unwritten = 0 } = await format.written(list);
  if (options.out === undefined) terminal.out(text);
  else {
    const file = resolve(terminal.folder, options.out);
    if (existsSync(file) && options.overwrite !== true)
      throw new ProblemError([problems.fileExists({ file, line: 1 }, file)]);
    writeFiles([{ file, text }]);
    terminal.note(`${shortPath(terminal, file)}: `);
  }
  terminal.note(coverageText(coverage, unwritten, format.only));
  const isNarrowed = options.rule !== undefined || options.field !== undefined;
  const untested = isNarrowed ? [] : untestedRules(sets, project.schema);
  if (untested.length > 0) terminal.note(`${untestedText(untested, { ...terminal.look, colour: false })}\n`);
  return 0;
}

/** What was written, and how many cases were not: those that turn out to be nothing that the format can say. */
interface Written {
  readonly text: string;
  readonly unwritten?: number;
}

/** One way to write cases. */
interface Format {
  readonly written: (list: readonly Case[]) => Written | Promise<Written>;
  readonly fits: (one: Case) => boolean;
  /** Which cases can be written so, in words; null for all. */
  readonly only: string | null;
}
type FormatOf = (project: Project, options: CasesOptions, terminal: Terminal) => Format;

const everyCase = { fits: () => true, only: null };

const formats: { readonly [F in CasesOptions['format']]: FormatOf } = {
  jsonl: () => ({
    ...everyCase,
    written: (list) => ({ text: list.map((one) => `${JSON.stringify(one)}\n`).join('') }),
  }),
  json: () => ({ ...everyCase, written: (list) => ({ text: `${JSON.stringify(list, null, 2)}\n` }) }),
  csv: () => ({ ...everyCase, written: (list) => ({ text: casesCsv(list) }) }),
  text: ({ schema }, _options, { look }) => ({
    ...everyCase,
    written: (list) => {
      const subjectsOf = ({ ruleset, constraint }: Case) => {
        const rules = schema.find((model) => model.ruleset === ruleset)?.constraints ?? [];
        return rules.find(({ id }) => id === constraint)?.subjects ?? [];
      };
      return { text: casesText(list, subjectsOf, look) };
    },
  }),
  sql: ({ schema }, { engine }) => {
    if (engine === undefined)
      throw new ProblemError([problems.optionMissing(null, 'sql', '--engine', Object.keys(tableTargets).join(' or '))]);
    const { spelling } = tableTargets[engine];
    return {
      written: async (list) => {
        const statements = await caseStatements(list, engine, schema);
        return { text: casesSql(statements, engine, spelling.text), unwritten: list.length - statements.length };
      },
      fits: isForTable(schema),
      only: 'new records that a server hands on to a table',
    };
  },
  test: (project, options, terminal) => {
    const { schema } = project;
    const target = targetFor(
      schema.map(({ ruleset }) => ruleset),
      options,
      project,
      terminal,
    );
    const isByAddress = ({ ruleset }: Case) => Object.hasOwn(target.addresses, ruleset);
    return {
      written: (list) => ({
        text: testFile(
          list.map((one) => (isByAddress(one) ? one : judgedAlone(one, schema))),
          target,
        ),
      }),
      fits: isWithoutStore(schema, (one) => (isByAddress(one) ? ['insert'] : writes)),
      only: 'what is judged without stored records, off a form or as JSON',
    };
  },
};

/** Who is asked about each ruleset: its address, its module, or else the compiled module; files as the test names them. */
function targetFor(
  rulesets: readonly string[],
  { out = '', url = [], module = [] }: CasesOptions,
  { output }: Project,
  { folder }: Terminal,
): TestTarget {
  const from = out === '' ? folder : dirname(resolve(folder, out));
  const named = (file: string) => {
    const path = relative(from, file).replaceAll('\\', '/');
    return path.startsWith('.') ? path : `./${path}`;
  };
  const addresses = new Map(pairsIn(url, rulesets));
  const own = new Map(pairsIn(module, rulesets).map(([ruleset, file]) => [ruleset, resolve(folder, file)]));
  const modules = rulesets
    .filter((ruleset) => !addresses.has(ruleset))
    .map((ruleset) => [ruleset, named(own.get(ruleset) ?? resolve(output, `javascript/${ruleset}.js`))] as const);
  return { modules: Object.fromEntries(modules), addresses: Object.fromEntries(addresses) };
}

/** `firing=./server.js`; without a name before it, it is for every ruleset. */
function pairsIn(given: readonly string[], rulesets: readonly string[]): readonly (readonly [string, string])[] {
  return given.flatMap((one) => {
    const [, name, value = one] = /^([a-z]\w*)=(.+)$/s.exec(one) ?? [];
    if (name !== undefined && !rulesets.includes(name))
      throw new ProblemError([problems.rulesetUnknown(null, name, rulesets.join(', '))]);
    return (name === undefined ? rulesets : [name]).map((ruleset) => [ruleset, value] as const);
  });
}

/** Rules by their ids, which must be those of some case. */
function rulesNamed(named: readonly string[], sets: readonly CaseSet[]): readonly string[] {
  const known = [...new Set(sets.flatMap(({ cases }) => cases.map(({ constraint }) => constraint)))];
  const unknown = named.filter((name) => !known.includes(name));
  if (unknown.length > 0)
    throw new ProblemError(unknown.map((name) => problems.ruleUnknown(null, name, known.join(', '))));
  return named;
}

function fieldsNamed(named: readonly string[], project: Project): readonly string[] {
  return named.map((name) => {
    const { model, path } = fieldNamed(name, project);
    return `${model.ruleset}.${path}`;
  });
}
