import type { Schema } from '../declare/index.js';
import { targetOf } from '../kinds/index.js';
import { allFields, type Entry, type Path } from '../model/index.js';
import { type TargetName, tableTargets, targets } from '../targets/index.js';
import { html } from './code/html.js';
import { javascript } from './code/javascript.js';
import { mariadb } from './code/mariadb.js';
import { postgresql } from './code/postgresql.js';
import { sqlite } from './code/sqlite.js';
import { handlings, handlingsOf } from './handling.js';
import type { CodeMistakes, Mutant, Rewriting } from './mistake.js';
import { idOf } from './places.js';
import * as dropped from './rewrites/dropped.js';
import * as expressions from './rewrites/expressions.js';
import * as limits from './rewrites/limits.js';
import * as lookUps from './rewrites/look-ups.js';
import * as patterns from './rewrites/patterns.js';
import * as values from './rewrites/values.js';
import { storings, storingsOf } from './store.js';

export { Equivalence } from './equivalence.js';
export { type Check, type Checked, type CheckHow, handlings, handlingsOf } from './handling.js';
export type { Likeness, Mutant, Plant } from './mistake.js';
export { MemoryStore, type Storing, storings } from './store.js';

/** Mistakes in what is declared, by name: each is planted in every target. */
export const rewritings: { readonly [mistake: string]: Rewriting } = inWords({
  ...limits,
  ...dropped,
  ...patterns,
  ...expressions,
  ...lookUps,
  ...values,
});

/** The names of functions as words. */
function inWords(named: { readonly [name: string]: Rewriting }): { readonly [mistake: string]: Rewriting } {
  const words = (name: string) => name.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
  return Object.fromEntries(Object.entries(named).map(([name, rewriting]) => [words(name), rewriting]));
}

/** Mistakes in the code of one target. */
export const codeMistakes: { readonly [T in TargetName]: CodeMistakes } = {
  javascript,
  html,
  postgresql,
  mariadb,
  sqlite,
  'json-schema': {},
  'postgresql-documents': {},
};

/** Where a layer is asked for: what a target makes, or a server with a store. */
export type LayerName = TargetName | 'store';

/** The part of a schema that one ruleset's layer needs: its own model last, those that it refers to without their rules. */
export function aloneWith(model: Schema[number], schema: Schema): Schema {
  const needed = new Set([model.ruleset]);
  for (const ruleset of needed) {
    const one = schema.find((other) => other.ruleset === ruleset);
    for (const field of one === undefined ? [] : allFields(one)) {
      const target = targetOf(field);
      if (target !== null) needed.add(target.to);
    }
  }
  const others = schema.filter(({ ruleset }) => ruleset !== model.ruleset && needed.has(ruleset));
  return [...others.map(bare), model];
}

/** A model that lets everything of its columns' types in. */
function bare(model: Schema[number]): Schema[number] {
  const constraints = model.constraints.filter(
    ({ id, predicate }) => predicate.op === 'unique' || predicate.op === 'typed' || /\.(?:keys|limits)$/.test(id),
  );
  return { ...model, constraints };
}

/** Every mutant of a ruleset in some layers, of the rules that those hold by the ledger. */
export function mutantsOf(
  model: Schema[number],
  layers: readonly LayerName[],
  ledger: readonly Entry[],
  main: MainText,
): readonly Mutant[] {
  const numbered = new Map<string, number>();
  const named = (layer: LayerName, mistake: string, constraint: string) => {
    const place = `${layer}/${mistake.replaceAll(' ', '-')}/${constraint}`;
    const count = (numbered.get(place) ?? 0) + 1;
    numbered.set(place, count);
    return count === 1 ? place : `${place}/${count}`;
  };
  const { ruleset } = model;
  const whole = `${ruleset}.type`;
  const made = layers.flatMap((layer): readonly Mutant[] => {
    if (layer === 'store') {
      return storingsOf(model).map((mistake) => ({
        id: named(layer, mistake, whole),
        layer,
        mistake,
        words: storings[mistake],
        ruleset,
        constraint: whole,
        plant: { handling: mistake, path: null },
      }));
    }
    // A form only shows its defaults; who fills them in is behind it.
    const own = Object.entries(rewritings).filter(
      ([mistake]) => targets[layer].standsAlone || mistake !== 'default dropped',
    );
    const rewritten = own.flatMap(([mistake, rewrite]) =>
      rewrite(model)
        .filter(isHeldIn(layer))
        .map(({ model: other, words, constraint }) => ({
          id: named(layer, mistake, constraint),
          layer,
          mistake,
          words,
          ruleset,
          constraint,
          plant: { model: other },
        })),
    );
    const text = main(layer);
    const coded = Object.entries(codeMistakes[layer]).flatMap(([mistake, { edits, matters }]) =>
      edits(text, model).map(({ text: edited, words, constraint = whole }) => ({
        id: named(layer, mistake, constraint),
        layer,
        mistake,
        words,
        ruleset,
        constraint,
        plant: { text: edited, matters },
      })),
    );
    return [...rewritten, ...coded, ...handled(layer)];
  });
  return made;

  /** What the ledger says that a layer does not hold as it is declared, no mistake can take from it. */
  function isHeldIn(layer: TargetName) {
    const own = new Map(
      ledger.filter(({ target }) => target === layer).map((entry) => [entry.constraint, entry.fidelity]),
    );
    return ({ constraint }: { readonly constraint: string }) => {
      const is = own.get(constraint)?.is ?? 'exact';
      return is === 'exact' || is === 'stricter';
    };
  }

  function handled(layer: TargetName): readonly Mutant[] {
    if (!targets[layer].standsAlone || Object.hasOwn(tableTargets, layer)) return [];
    return handlingsOf(model).map(({ mistake, path }) => {
      const constraint = constraintAt(path, mistake);
      const { words = mistake } = handlings[mistake] ?? {};
      return {
        id: named(layer, mistake, constraint),
        layer,
        mistake,
        words,
        ruleset,
        constraint,
        plant: { handling: mistake, path },
      };
    });
  }

  function constraintAt(path: Path | null, mistake: string): string {
    const facet = handlings[mistake]?.facet ?? 'type';
    const id = path === null ? `${ruleset}.${facet}` : idOf(model, path, facet);
    return model.constraints.some((one) => one.id === id) ? id : path === null ? whole : idOf(model, path, 'type');
  }
}

/** The main text of what a target makes of the ruleset as it is. */
export type MainText = (target: TargetName) => string;
