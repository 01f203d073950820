import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { ProblemError, problems } from '../core/messages/index.js';
import {
  type Answer,
  type Case,
  type Clock,
  pointerToPath,
  type Row,
  type Wire,
  type WriteOperation,
  writes,
} from '../core/model/index.js';
import { assertFieldNames, type FieldNames, TAKEN_NAME, type Translation, translations } from './field-names.js';
import { type JudgedOptions, judgedBy, type Layer, type OpenLayer, type Surroundings } from './layer.js';
import { loadModule } from './module-loader.js';

type Loaded = { readonly [name: string]: unknown };

/** What a function's result means: the stored value, or the fields it blames, by the names of the ruleset's fields. */
export type FunctionAnswer =
  | { readonly accepted: Row }
  | { readonly refused: readonly { readonly field: string; readonly rule?: string; readonly message?: string }[] };

/** What is done with a record, and the stored one that it is done to; null for a new one. */
export type Write = Pick<Case, 'does' | 'existing'>;

export interface FunctionOptions extends JudgedOptions {
  /** A module for each ruleset that the function checks; without it, the compiled modules are asked. */
  readonly modules?: { readonly [ruleset: string]: string };
  /**
   * Calls the function; `check(input, { wire, clock, … })` if not given. What it throws is a breakdown. `write` says
   * whether it is a new record, or one in the place of, or over some fields of, the stored one that comes with it.
   */
  readonly call?: (module: Loaded, input: unknown, wire: Wire, clock: Clock, write: Write) => unknown;
  /** What it does with records: all three where `call` is not given, otherwise it takes new ones unless told. */
  readonly does?: readonly WriteOperation[];
  /** Reads the result; the compiled modules' own form if not given. */
  readonly answer?: (result: unknown) => FunctionAnswer;
  /** The wires it takes. */
  readonly wires?: readonly ('form' | 'json')[];
  /** What it calls fields otherwise than declared, in what it takes and in what it answers. */
  readonly names?: FieldNames;
  /** Where the function keeps records: asked for what is there before and after each case. */
  readonly store?: {
    readonly clear: (module: Loaded) => void;
    readonly put: (module: Loaded, ruleset: string, row: Row) => void;
    readonly rows: (module: Loaded, ruleset: string) => readonly unknown[];
  };
}

/** A function in this process: the compiled module, or one that was written by hand, with a small mapping. */
export function functionLayer(options: FunctionOptions = {}): Layer {
  const wires = options.wires ?? ['form', 'json'];
  const store = options.store !== undefined;
  const own = options.call === undefined ? writes : (['insert'] as const);
  return {
    kind: 'function',
    ...judgedBy(options, options.modules === undefined && options.call === undefined),
    target: 'javascript',
    rulesets: options.modules === undefined ? null : Object.keys(options.modules),
    can: { store, allViolations: true, wires, does: options.does ?? own, on: ['server'], convertsFirst: false },
    open: (surroundings) => open(options, surroundings),
  };
}

async function open(options: FunctionOptions, { schema, folder, output }: Surroundings): Promise<OpenLayer> {
  assertFieldNames(schema, options.names, 'function');
  const modules = new Map<string, Loaded>();
  for (const { ruleset } of schema) {
    const own = options.modules?.[ruleset];
    if (options.modules !== undefined && own === undefined) continue;
    const file = own === undefined ? resolve(output, `javascript/${ruleset}.js`) : resolve(folder, own);
    if (!existsSync(file)) {
      const problem =
        own === undefined ? problems.notCompiled(null, file) : problems.fileMissing(null, 'The layer', file);
      throw new ProblemError([problem]);
    }
    modules.set(ruleset, await loadModule(file));
  }
  return answering(modules, options, translations(schema, options.names));
}

/** A layer of modules that are loaded already, by ruleset. */
export function answering(
  modules: ReadonlyMap<string, Loaded>,
  options: FunctionOptions = {},
  translation: ((ruleset: string) => Translation) | null = null,
): OpenLayer {
  return {
    async *answer(cases) {
      for (const one of cases) {
        const module = modules.get(one.ruleset);
        if (module === undefined) throw new Error(`no module for ${one.ruleset}`);
        yield [one, await answerOne(options, module, one, translation?.(one.ruleset) ?? null)] as const;
      }
    },
    close: async () => {},
  };
}

async function answerOne(
  options: FunctionOptions,
  module: Loaded,
  one: Case,
  translation: Translation | null,
): Promise<Answer> {
  try {
    const before = prepared(options, module, one);
    const answer = await called(options, module, one, translation);
    if ('notApplicable' in answer) return answer;
    const grown = (options.store?.rows(module, one.ruleset).length ?? 0) > before;
    const residue = grown ? { residue: 'refuses it, and stores a row all the same' } : {};
    return 'accepted' in answer ? answer : { ...answer, ...residue };
  } catch (error) {
    return { breakdown: `its store can't be read: ${describe(error)}` };
  }
}

/** Stores the rows that are there before, and counts those of the case's own ruleset. */
function prepared({ store }: FunctionOptions, module: Loaded, one: Case): number {
  if (store === undefined) return 0;
  store.clear(module);
  for (const { ruleset, row } of one.before) store.put(module, ruleset, row);
  if (one.existing !== null) store.put(module, one.ruleset, one.existing);
  return store.rows(module, one.ruleset).length;
}

async function called(
  options: FunctionOptions,
  module: Loaded,
  one: Case,
  translation: Translation | null,
): Promise<Answer> {
  try {
    const call = options.call ?? callCheck;
    const { does, existing, wire, clock } = one;
    const input = translation === null ? one.input : translation.toWire(one.input, wire);
    if (input === null && one.input !== null) return { notApplicable: TAKEN_NAME };
    const said = await call(module, structuredClone(input), wire, clock, { does, existing });
    const result = (options.answer ?? readChecked)(said);
    // A function without types may say yes and give nothing back.
    if ('accepted' in result) {
      const kept = result.accepted ?? {};
      return { accepted: (translation?.fromJson(kept) ?? kept) as Row };
    }
    const blames = result.refused.map(({ field, rule, message }) => ({
      pointer: field.startsWith('/') || field === '' ? field : pointerToPath(field),
      rule: rule ?? null,
      message: message ?? '',
    }));
    return { refused: translation?.blamed(blames) ?? blames };
  } catch (error) {
    return { breakdown: describe(error) };
  }
}

function describe(error: unknown): string {
  return error instanceof Error ? `${error.name}: ${error.message}` : String(error);
}

function callCheck(module: Loaded, input: unknown, wire: Wire, clock: Clock, { does, existing }: Write): unknown {
  if (typeof module.check !== 'function') throw new TypeError('the module exports no function check');
  return module.check(input, { wire, clock, ...(does === 'patch' ? { partial: true, existing } : {}) });
}

function readChecked(result: unknown): FunctionAnswer {
  const checked = result as
    | { readonly ok: true; readonly value: Row }
    | { readonly ok: false; readonly violations: readonly { pointer: string; rule: string; message: string }[] };
  if (checked.ok) return { accepted: checked.value };
  return { refused: checked.violations.map(({ pointer, ...rest }) => ({ field: pointer, ...rest })) };
}
