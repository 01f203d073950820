import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { recordStatements } from '../agreement/index.js';
import {
  carriedRecords,
  checkRows,
  type FilledRuleset,
  fillSchema,
  formColumns,
  readRows,
} from '../core/fill/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Row, Wire } from '../core/model/index.js';
import { type EngineName, tableTargets } from '../core/targets/index.js';
import { englishWords } from '../fill.js';
import { fillText, recordsCsv } from '../report/index.js';
import { narrowed, type Project } from './project.js';
import { readRowFile } from './row-files.js';
import { shortPath, type Terminal } from './terminal.js';
import { writeFiles } from './write-files.js';

export interface FillOptions {
  readonly seed: number;
  readonly ruleset?: readonly string[];
  readonly beside?: readonly string[];
  readonly format: 'jsonl' | 'csv' | 'sql';
  readonly engine?: EngineName;
  readonly out?: string;
  readonly overwrite?: boolean;
}

/** Writes plausible valid records, the same ones for the same seed, to standard output or whole into files. */
export async function fill(project: Project, count: number, options: FillOptions, terminal: Terminal): Promise<number> {
  narrowed(project, options);
  const { schema } = project;
  const beside = await rowsBeside(project, options.beside ?? [], terminal);
  const fixed = givenRows(project, beside);
  const { seed, ruleset } = options;
  const words = englishWords();
  const asked = ruleset === undefined ? {} : { rulesets: ruleset };
  const filled = fillSchema(schema, { count, seed, words, fixed, beside, ...asked });
  const files = await written(project, filled, options);
  if (options.out === undefined) terminal.out(files.map(({ text }) => text).join(''));
  else {
    const named = files.map(({ name, text }) => ({
      file: resolve(terminal.folder, join(options.out ?? '', name)),
      text,
    }));
    const there = named.find(({ file }) => existsSync(file));
    if (there !== undefined && options.overwrite !== true)
      throw new ProblemError([problems.fileExists({ file: there.file, line: 1 }, there.file)]);
    writeFiles(named);
    for (const { file } of named) terminal.note(`written  ${shortPath(terminal, file)}\n`);
  }
  terminal.note(fillText(filled.map((one) => ({ ...one, rows: one.rows.length }))));
  return 0;
}

/** The rows that the project gives, each held against its rules. */
function givenRows({ schema, records }: Project, beside: ReadonlyMap<string, readonly Row[]>) {
  const given = new Map<string, readonly Row[]>();
  const stored = (ruleset: string) => [...(beside.get(ruleset) ?? []), ...(given.get(ruleset) ?? [])];
  for (const model of schema) {
    const file = records.get(model.ruleset);
    if (file === undefined) continue;
    const { rows, refused } = checkRows(readRowFile(file), model, schema, stored);
    const faults = refused.flatMap(({ place, violations }) =>
      violations.map(({ pointer, rule, message }) => problems.rowRefused(place, model.ruleset, pointer, rule, message)),
    );
    if (faults.length > 0) throw new ProblemError(faults);
    given.set(model.ruleset, rows);
  }
  return given;
}

/** Rows of files (`firing=old.jsonl`) and of layers by their names. */
async function rowsBeside(project: Project, named: readonly string[], terminal: Terminal) {
  const rows = new Map<string, readonly Row[]>();
  const add = (ruleset: string, more: readonly Row[]) => rows.set(ruleset, [...(rows.get(ruleset) ?? []), ...more]);
  for (const one of named) {
    const [, ruleset, path = ''] = /^([a-z]\w*)=(.+)$/s.exec(one) ?? [];
    if (ruleset === undefined) await fromLayer(project, one, add);
    else {
      const model = project.schema.find((known) => known.ruleset === ruleset);
      const known = project.schema.map((other) => other.ruleset).join(', ');
      if (model === undefined) throw new ProblemError([problems.rulesetUnknown(null, ruleset, known)]);
      add(ruleset, readRows(readRowFile(resolve(terminal.folder, path)), model));
    }
  }
  return rows;
}

async function fromLayer(project: Project, name: string, add: (ruleset: string, rows: readonly Row[]) => void) {
  const { layers } = narrowed(project, { layer: [name] });
  const layer = layers[name];
  const opened = await layer?.open(project);
  if (layer === undefined || opened?.stored === undefined) {
    await opened?.close();
    throw new ProblemError([problems.layerStoreless(null, name)]);
  }
  try {
    const known = project.schema.map(({ ruleset }) => ruleset);
    for (const ruleset of layer.rulesets ?? known) add(ruleset, await opened.stored(ruleset));
  } finally {
    await opened.close();
  }
}

/** The files by their names within `--out`, or the parts of standard output. */
async function written(project: Project, filled: readonly FilledRuleset[], { format, engine, out }: FillOptions) {
  const { schema } = project;
  const encoded = ({ ruleset, rows }: FilledRuleset, wire: Wire) => {
    const model = schema.find((one) => one.ruleset === ruleset);
    return model === undefined ? [] : carriedRecords(model, rows, wire);
  };
  if (format === 'sql') {
    if (engine === undefined)
      throw new ProblemError([problems.optionMissing(null, 'sql', '--engine', Object.keys(tableTargets).join(' or '))]);
    const statements = await recordStatements(filled, engine, schema);
    return [{ name: '', text: `BEGIN;\n${statements.join('\n')}\nCOMMIT;\n` }];
  }
  if (format === 'csv') {
    if (out === undefined && filled.length > 1)
      throw new ProblemError([problems.optionMissing(null, 'csv', '--out', '<folder>, for a file of each ruleset')]);
    return filled.map((one) => {
      const records = encoded(one, 'form');
      const model = schema.find(({ ruleset }) => ruleset === one.ruleset);
      const columns = model === undefined ? [] : formColumns(model, records);
      return { name: `${one.ruleset}.csv`, text: recordsCsv(records, columns) };
    });
  }
  const lines = (list: readonly object[]) => list.map((one) => `${JSON.stringify(one)}\n`).join('');
  return filled.map((one) => {
    const records = encoded(one, 'json');
    const { ruleset } = one;
    return {
      name: `${ruleset}.jsonl`,
      text: lines(out === undefined ? records.map((record) => ({ ruleset, record })) : records),
    };
  });
}
