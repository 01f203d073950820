import { existsSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { choicesOf } from '../../core/kinds/index.js';
import { read } from '../../core/meaning/index.js';
import { ProblemError, problems } from '../../core/messages/index.js';
import {
  type Answer,
  allFields,
  type Blame,
  type Case,
  enforcers,
  formName,
  type Model,
  plainFields,
  pointerToKey,
} from '../../core/model/index.js';
import { assertFieldNames, type FieldNames, translations } from '../field-names.js';
import { type JudgedOptions, judgedBy, type Layer, modelOf, type OpenLayer, type Surroundings } from '../layer.js';
import { type Control, type Form, readForm } from './controls.js';
import { fill } from './fill.js';
import { suffersFrom } from './validity.js';

export interface FormOptions extends JudgedOptions {
  /** An HTML file for each ruleset; without it, the compiled forms are judged. */
  readonly files?: { readonly [ruleset: string]: string };
  /** What it calls controls otherwise than declared. */
  readonly names?: FieldNames;
}

/**
 * A form, judged by the attributes in its HTML file as the HTML standard says, without a browser: what a person can put
 * into each control, whether the form would be sent, and what it would send.
 */
export function formLayer(options: FormOptions = {}): Layer {
  return {
    kind: 'form',
    ...judgedBy(options, options.files === undefined),
    target: 'html',
    rulesets: options.files === undefined ? null : Object.keys(options.files),
    can: {
      store: false,
      allViolations: true,
      wires: ['form'],
      does: ['insert', 'replace'],
      on: ['server', 'client'],
      convertsFirst: false,
    },
    open: async (surroundings) => open(options, surroundings),
  };
}

function open({ files, names }: FormOptions, { schema, folder, output }: Surroundings): OpenLayer {
  assertFieldNames(schema, names, 'form');
  const translation = translations(schema, names);
  const forms = new Map<string, Form>();
  for (const { ruleset } of schema) {
    const own = files?.[ruleset];
    if (files !== undefined && own === undefined) continue;
    const file = own === undefined ? resolve(output, `html/${ruleset}.html`) : resolve(folder, own);
    if (!existsSync(file)) {
      const problem =
        own === undefined ? problems.notCompiled(null, file) : problems.fileMissing(null, 'The layer', file);
      throw new ProblemError([problem]);
    }
    const form = readForm(readFileSync(file, 'utf8'));
    if (form === null) throw new ProblemError([problems.layerUnreachable(null, 'form', `${file} holds no form`)]);
    const counts = new Map<string, number>();
    const controls = form.controls.map((control) => ({
      ...control,
      name: translation(ruleset).fromControl(control.name, counts),
    }));
    forms.set(ruleset, { ...form, controls });
  }
  return judging(forms, schema);
}

/** A layer of forms that are read already, by ruleset. */
export function judging(forms: ReadonlyMap<string, Form>, schema: Surroundings['schema']): OpenLayer {
  return {
    async *answer(cases) {
      for (const one of cases) {
        const form = forms.get(one.ruleset);
        if (form === undefined) throw new Error(`no form for ${one.ruleset}`);
        const controls = form.controls.map((control) => offering(control, one, schema));
        yield [one, answerOne({ ...form, controls }, modelOf(one.ruleset, schema), one)] as const;
      }
    },
    close: async () => {},
  };
}

/** A list of what a reference can lead to, filled from the rows that are there before. */
function offering(control: Control, { before }: Case, schema: Surroundings['schema']): Control {
  const to = control.attributes.get('data-refers-to');
  if (to === undefined) return control;
  const { key } = modelOf(to, schema);
  const rows = before.filter(({ ruleset }) => ruleset === to);
  const keys = rows.map(({ row }) => ({ value: String(row[key ?? '']), disabled: false }));
  return { ...control, options: [...control.options, ...keys] };
}

function answerOne({ controls: first, unchecked }: Form, model: Model, one: Case): Answer {
  const input = one.input as { readonly [name: string]: unknown };
  const controls = withRows(first, Object.keys(input));
  const elsewhere = Object.keys(input).filter((key) => !controls.some(({ name }) => name === key));
  const about = elsewhere.find((key) => isAbout(one, key) || !isFieldName(model, key));
  if (about !== undefined) return { notApplicable: `the form has no control for ${about}` };
  const sent: { [name: string]: unknown[] } = {};
  const blames: Blame[] = [];
  for (const control of controls.filter(({ name }) => isFieldName(model, name))) {
    if (isDefaulted(model, control.name) && !Object.hasOwn(input, control.name))
      return { notApplicable: `the form always sends ${control.name}` };
    const text = entryFor(control, input);
    if (text === null) return { notApplicable: `the form does not send ${control.name} like that` };
    const filled = fill(control, text);
    if ('cannotHold' in filled) {
      // A list without a choice that is declared can't send it, and so refuses it.
      if (!isDeclaredChoice(model, control, text)) return { notApplicable: filled.cannotHold };
      blames.push({ pointer: pointerToControl(control.name), rule: null, message: filled.cannotHold });
      continue;
    }
    const fault = unchecked ? null : suffersFrom(control, filled.holds);
    // What only the page has, a case for a server does not give.
    if (fault !== null && one.on === 'server' && isOfPageOnly(model, control.name))
      return { notApplicable: `the page asks for ${control.name} by itself` };
    if (fault !== null) blames.push({ pointer: pointerToControl(control.name), rule: null, message: fault });
    if (filled.sends !== null)
      sent[control.name] = [...(Object.hasOwn(sent, control.name) ? (sent[control.name] ?? []) : []), filled.sends];
  }
  if (blames.length > 0) return { refused: blames };
  // What the form has no control for comes from elsewhere: it is judged on what it has.
  for (const key of elsewhere) sent[key] = [input[key]].flat();
  return { accepted: read(model, sent, 'form', one.on === 'client' ? enforcers : undefined) };
}

/** The controls, and those of further rows of its lists: each is like the first one. */
function withRows(controls: readonly Control[], names: readonly string[]): readonly Control[] {
  const byName = new Map(controls.map((control) => [control.name, control]));
  const further = names.flatMap((name) => {
    const like = byName.has(name) ? undefined : byName.get(name.replace(/\[[0-9]+\]/, '[0]'));
    return like === undefined ? [] : controls.filter((one) => one.name === like.name).map((one) => ({ ...one, name }));
  });
  return [...controls, ...further];
}

/** Only a form that does not send a name at all leaves it to the default. */
function isDefaulted(model: Model, name: string): boolean {
  return plainFields(model).some((field) => field.default !== null && formName(field.path) === name);
}

/** A name that leads to a field of the ruleset, or into one. */
function isFieldName(model: Model, name: string): boolean {
  return Object.hasOwn(model.fields, stepsOf(name)[0] ?? '');
}

/** `shelf[bay]` and `shelf.bay` are the steps `shelf` and `bay`. */
function stepsOf(name: string): readonly string[] {
  return name.split(/[.[\]]+/).filter((step) => step !== '');
}

function pointerToControl(name: string): string {
  return stepsOf(name).map(pointerToKey).join('');
}

/** The field that a control is for, in whatever entry of a list. */
function fieldNamed(model: Model, name: string): Model['fields'][string] | undefined {
  const path = pathOf(name);
  return allFields(model).find((field) => field.path === path);
}

/** `pieces[0][clay]` is for the path `pieces[].clay`. */
function pathOf(name: string): string {
  const [first = '', ...rest] = stepsOf(name);
  return rest.reduce((before, step) => (/^[0-9]+$/.test(step) ? `${before}[]` : `${before}.${step}`), first);
}

function isOfPageOnly(model: Model, name: string): boolean {
  const field = model.fields[stepsOf(name)[0] ?? ''];
  return field !== undefined && !field.enforcedIn.includes('server');
}

/** True for the code of a choice that the form's own list should have. */
function isDeclaredChoice(model: Model, { name, type }: Control, text: string): boolean {
  const field = fieldNamed(model, name);
  return type === 'select' && field !== undefined && choicesOf(field).some(([code]) => String(code) === text);
}

function isAbout({ constraint, ruleset }: Case, name: string): boolean {
  return constraint.startsWith(`${ruleset}.${pathOf(name)}.`);
}

const TICKED = JSON.stringify(['false', 'true']);

/** The text that a case wants in a control, '' for nothing; null for what the control never sends. */
function entryFor({ name, type }: Control, input: { readonly [name: string]: unknown }): string | null {
  const given: unknown = Object.hasOwn(input, name) ? input[name] : undefined;
  const isBox = type === 'checkbox' || type === 'hidden';
  // A ticked box sends its hidden entry, too; the other way round no box sends two.
  const isTicked = isBox && JSON.stringify(given) === TICKED;
  if (Array.isArray(given)) return given.length <= 1 || isTicked ? String(given.at(-1) ?? '') : null;
  if (isBox && given === '') return null;
  return given === undefined || given === null ? '' : String(given);
}
