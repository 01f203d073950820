import type { Schema } from '../../core/declare/index.js';
import {
  aloneWith,
  type Check,
  handlings,
  type LayerName,
  MemoryStore,
  type Mutant,
  type Storing,
} from '../../core/mistakes/index.js';
import type { Answer, Case } from '../../core/model/index.js';
import { type TargetName, targets } from '../../core/targets/index.js';
import { readForm } from '../../layers/form/controls.js';
import { formLayer, judging } from '../../layers/form/index.js';
import { answering, functionLayer } from '../../layers/function.js';
import type { Layer, OpenLayer } from '../../layers/layer.js';
import type { Scratch } from './scratch.js';

type Model = Schema[number];

/** Where one ruleset's layer is built, with or without a mistake. */
export interface Bench {
  readonly name: LayerName;
  /** The target whose ledger speaks for it, and what it can be held to. */
  readonly layer: Pick<Layer, 'target' | 'can' | 'rulesets'>;
  /** The layer's text as it is made. */
  readonly text: string;
  /** The text with a mutant's mistake in it; the same one where the mistake is not in the text. */
  textOf(mutant: Mutant): string;
  open(text: string, mutant: Mutant | null): Promise<OpenLayer>;
}

/** The text that a target makes of a ruleset, of the path that begins with a name. */
function textFrom(model: Model, schema: Schema, target: TargetName, begins: string): string {
  const file = targets[target].emit(aloneWith(model, schema)).find(({ path }) => path.startsWith(begins));
  if (file === undefined) throw new Error(`${target} makes nothing of ${model.ruleset}`);
  return file.text;
}

function textual(model: Model, schema: Schema, target: TargetName, begins: string) {
  const text = textFrom(model, schema, target, begins);
  return {
    text,
    textOf({ plant }: Mutant): string {
      if ('model' in plant) return textFrom(plant.model, schema, target, begins);
      return 'text' in plant ? plant.text : text;
    },
  };
}

/** The compiled module, and mistakes around it. */
export function functionBench(model: Model, schema: Schema): Bench {
  const { ruleset } = model;
  return {
    name: 'javascript',
    layer: functionLayer(),
    ...textual(model, schema, 'javascript', `javascript/${ruleset}.js`),
    async open(text, mutant) {
      const check = await checkIn(text);
      const plant = mutant?.plant;
      const wrapped =
        plant !== undefined && 'handling' in plant ? handled(check, plant.handling, plant.path, model) : check;
      return answering(new Map([[ruleset, { check: wrapped }]]));
    },
  };
}

function handled(check: Check, handling: string, path: string | null, model: Model): Check {
  const found = handlings[handling];
  if (found === undefined) throw new Error(`no handling ${handling}`);
  return found.wrap(check, path ?? '', model);
}

/** The module's text, loaded. */
async function checkIn(text: string): Promise<Check> {
  const encoded = encodeURIComponent(text);
  const module = (await import(`data:text/javascript;charset=utf-8,${encoded}`)) as { readonly check: Check };
  return module.check;
}

/** A server with a store in memory around the compiled module. */
export function storeBench(model: Model, schema: Schema): Bench {
  const { can } = functionLayer();
  const { text } = textual(model, schema, 'javascript', `javascript/${model.ruleset}.js`);
  return {
    name: 'store',
    layer: { target: 'javascript', rulesets: null, can: { ...can, store: true } },
    text,
    textOf: () => text,
    async open(_text, mutant) {
      const plant = mutant?.plant;
      const storing = plant !== undefined && 'handling' in plant ? (plant.handling as Storing) : null;
      const store = new MemoryStore(model, await checkIn(text), storing);
      return over((one) => store.answer(one));
    },
  };
}

function over(answer: (one: Case) => Answer): OpenLayer {
  return {
    async *answer(cases) {
      for (const one of cases) yield [one, answer(one)] as const;
    },
    close: async () => {},
  };
}

/** The made form, judged by its attributes. */
export function formBench(model: Model, schema: Schema): Bench {
  return {
    name: 'html',
    layer: formLayer(),
    ...textual(model, schema, 'html', `html/${model.ruleset}.html`),
    async open(text) {
      const form = readForm(text);
      if (form === null) throw new Error(`no form of ${model.ruleset}`);
      return judging(new Map([[model.ruleset, form]]), schema);
    },
  };
}

/** Tables in a scratch database. */
export function tableBench(model: Model, schema: Schema, scratch: Scratch): Bench {
  const { engine, layer } = scratch;
  return {
    name: engine,
    layer,
    ...textual(model, schema, engine, `${engine}/tables.sql`),
    open: (text) => scratch.open(text, { schema: aloneWith(model, schema), folder: '', output: '' }),
  };
}
