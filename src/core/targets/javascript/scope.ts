import type { KindName } from '../../kinds/index.js';
import { type Field, listsOf, type Model, type Path } from '../../model/index.js';
import { joinedName, type Names } from './names.js';
import { printJs } from './print.js';
import { call, type Js, literal, name } from './tree.js';

type Known = Field<KindName>;

/** One module that is being made. */
export interface Making {
  readonly model: Model<KindName>;
  readonly names: Names;
  /** Constants at the head of the module, by name. */
  readonly constants: Map<string, Js>;
  /** The variables of fields, by path; those of a list's items only within the loop that reads them. */
  readonly variables: Map<Path, string>;
}

/**
 * Where code stands: the item of a list that is at hand, where it has been read already, and the fields that are known
 * to be given.
 */
export interface Scope {
  readonly making: Making;
  readonly items: ReadonlyMap<Path, { readonly item: string }>;
  /** The index at hand of each list, in the loop that reads it. */
  readonly indices: ReadonlyMap<Path, string>;
  readonly given: ReadonlySet<Path>;
  /** The variables that hold a text's length here, by path. */
  readonly sizes: ReadonlyMap<Path, string>;
  /** A pattern that the text at hand does not fit where this holds: it was matched before, and need not be again. */
  readonly unfit: { readonly constraint: string; readonly where: Js } | null;
}

/** The variable of a field, taken once. */
export function variableOf(making: Making, { path }: Pick<Known, 'path'>): string {
  const known = making.variables.get(path) ?? making.names.take(joinedName(path));
  making.variables.set(path, known);
  return known;
}

/** A constant at the head of the module; one that is there already is used again. */
export function constantOf(making: Making, wanted: string, is: Js): Js {
  const text = printJs(is);
  const twin = [...making.constants].find(([, other]) => printJs(other) === text);
  const taken = twin?.[0] ?? making.names.take(wanted);
  making.constants.set(taken, is);
  return name(taken);
}

/** The value of a field: its variable, or what is within the item at hand. */
export function valueJs(path: Path, { making, items }: Scope): Js {
  const bound = listsOf(path)
    .filter((list) => items.has(list))
    .at(-1);
  if (bound === undefined) return name(making.variables.get(path) ?? 'undefined');
  const steps = path
    .slice(`${bound}[]`.length)
    .split('.')
    .filter((step) => step !== '');
  return steps.reduce<Js>((record, step) => call('at', record, literal(step)), name(items.get(bound)?.item ?? ''));
}

/** The value of a list; one that an absent record would have is empty. */
export function listJs(path: Path, scope: Scope): Js {
  const value = valueJs(path, scope);
  return 'name' in value ? value : call('listOf', value);
}

/** Where no item is at hand. */
export function scopeOf(making: Making): Scope {
  return { making, items: new Map(), indices: new Map(), given: new Set(), sizes: new Map(), unfit: null };
}
