import { validator } from 'echo-rule';
import { type Case, unchecked } from 'echo-rule/compile';
import { formHtml, type Options } from 'echo-rule/server';
import type { Engine, Stored } from './engines.ts';
import type { Field, Rules } from './rules.ts';

export type Entries = { readonly [name: string]: unknown };
type Before = Case['before'];

/** What one layer says of what was typed. */
export interface Answer {
  readonly says: 'accepts' | 'refuses' | 'nothing';
  /** What it stores, or its words. */
  readonly words: string;
  /** Beside what the rules say: the same, another thing that the ledger tells of, or one that it does not. */
  readonly agrees: 'yes' | 'known' | 'no';
}

export interface Layers {
  readonly postgresql: Engine;
  readonly sqlite: Engine;
}
export const layerNames = ['form', 'server', 'postgresql', 'sqlite'] as const;
export type LayerName = (typeof layerNames)[number];
export const titles: { readonly [L in LayerName]: string } = {
  form: 'Form, script off',
  server: 'Server code',
  postgresql: 'PostgreSQL',
  sqlite: 'SQLite',
};

/** What the rules say: null where they accept, otherwise what is broken. */
type Broken = readonly { readonly rule: string; readonly message: string }[] | null;

export function expected({ ruleset }: Rules, entries: Entries): Broken {
  const checked = validator(ruleset).check(entries, { wire: 'form' });
  return checked.ok ? null : checked.violations;
}

/** What each layer says of a form's entries; tables are given what the server hands on, or what it refuses, unchecked. */
export async function answers(
  rules: Rules,
  layers: Layers,
  field: Field,
  entries: Entries,
  before: Before,
): Promise<{ readonly [L in LayerName]: Answer }> {
  const broken = expected(rules, entries);
  const checked = rules.check(entries, { wire: 'form' });
  const record = checked.ok ? checked.value : unchecked(rules.ruleset, entries);
  const given = at(record, field.path);
  const tables = async (name: 'postgresql' | 'sqlite'): Promise<Answer> => {
    if (typeof given === 'object' && given !== null)
      return { says: 'nothing', words: 'a column holds one value', agrees: 'yes' };
    return tableAnswer(rules, name, field, broken, given, await layers[name].insert(rules, record, before));
  };
  return {
    form: formAnswer(rules, broken, entries, before),
    server: {
      says: checked.ok ? 'accepts' : 'refuses',
      words: checked.ok ? `and hands on ${shown(at(checked.value, field.path))}` : messages(checked.violations),
      agrees: checked.ok === (broken === null) ? 'yes' : 'no',
    },
    postgresql: await tables('postgresql'),
    sqlite: await tables('sqlite'),
  };
}

/** The made form's own attributes, as this browser reads them. */
function formAnswer(rules: Rules, broken: Broken, entries: Entries, before: Before): Answer {
  const options: { [ruleset: string]: Options } = {};
  for (const { name, model } of rules.rulesets) {
    const rows = before.filter(({ ruleset }) => ruleset === name).map(({ row }) => row[model.key ?? ''] as string);
    options[name] = rows.map((key) => [key, String(key)] as const);
  }
  const page = new DOMParser().parseFromString(formHtml(rules.ruleset, { options }), 'text/html');
  const form = document.importNode(page.querySelector('form') as HTMLFormElement, true);
  const faults: string[] = [];
  for (const control of form.querySelectorAll<HTMLInputElement>('input:not([type=hidden]),select,textarea')) {
    const texts = [entries[control.name] ?? ''].flat();
    const text = texts.at(-1);
    if (typeof text !== 'string') continue;
    if (control.type === 'checkbox') control.checked = text === 'true' || text === 'on';
    else if (texts.length > 1) return { says: 'nothing', words: 'one control sends one entry', agrees: 'yes' };
    else if (/\p{Surrogate}/u.test(text))
      return { says: 'nothing', words: 'a lone surrogate is no character', agrees: 'yes' };
    else {
      control.value = text;
      const cleaned = text.replace(/\r\n?/g, '\n');
      if (control.value !== cleaned)
        return { says: 'nothing', words: `a ${control.type} control can't hold that`, agrees: 'yes' };
    }
    if (!control.validity.valid) faults.push(control.validationMessage);
  }
  if (faults.length > 0) return { says: 'refuses', words: faults.join(' '), agrees: broken === null ? 'no' : 'yes' };
  return {
    says: 'accepts',
    words: broken === null ? 'and sends it' : 'its attributes can’t tell; the script does',
    agrees: broken === null ? 'yes' : known(rules, 'html', broken) ? 'known' : 'no',
  };
}

function tableAnswer(
  rules: Rules,
  target: 'postgresql' | 'sqlite',
  { path }: Field,
  broken: Broken,
  was: unknown,
  answer: Stored,
): Answer {
  if ('broke' in answer) return { says: 'nothing', words: answer.broke, agrees: 'no' };
  if ('refused' in answer)
    return { says: 'refuses', words: messages(answer.refused), agrees: broken === null ? 'no' : 'yes' };
  const is = at(answer.stored, path);
  const isSame = JSON.stringify(was) === JSON.stringify(is);
  if (broken === null) return { says: 'accepts', words: `and stores ${shown(is)}`, agrees: isSame ? 'yes' : 'no' };
  const words = isSame ? `and stores ${shown(is)}` : `given ${shown(was)}, stores ${shown(is)}`;
  return { says: 'accepts', words, agrees: known(rules, target, broken) ? 'known' : 'no' };
}

/** True where the ledger says that a target holds none of these rules exactly. */
function known({ ledger }: Rules, target: string, broken: NonNullable<Broken>): boolean {
  return broken.every(({ rule }) =>
    ledger.some((entry) => entry.target === target && entry.constraint === rule && entry.fidelity.is !== 'exact'),
  );
}

function messages(violations: readonly { readonly message: string }[]): string {
  return violations.map(({ message }) => message).join(' ');
}

function at(record: unknown, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>((value, step) => (value as { [step: string]: unknown } | null)?.[step] ?? null, record);
}

/** A value so that white space and what is invisible can be seen. */
export function shown(value: unknown): string {
  if (value === null || value === undefined) return 'nothing';
  return JSON.stringify(value).replace(
    /[^\x20-\x7e\p{L}\p{M}\p{N}\p{P}\p{S}]/gu,
    (one) => `\\u{${one.codePointAt(0)?.toString(16)}}`,
  );
}
