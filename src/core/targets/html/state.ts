import type { Schema } from '../../declare/index.js';
import type { KnownField } from '../../kinds/index.js';
import { encode, mostNames, readForm } from '../../meaning/index.js';
import { type Catalogue, english, phrase, type WordKey } from '../../messages/index.js';
import { isSent, type Row, type Violation } from '../../model/index.js';
import { Drawn } from './drawn.js';
import { controlId } from './names.js';
import type { Say } from './types.js';

type Model = Schema[number];

/** The keys of stored records and the texts that name them to a person. */
export type Options = readonly (readonly [key: string | number, called: string])[];

/** What a form shows: nothing is needed. */
export interface FormState {
  /** The stored record that is edited, in canonical form. */
  readonly record?: { readonly [field: string]: unknown } | null;
  /** What was sent, by the names of controls: shown again as it was. It goes before `record`. */
  readonly entries?: { readonly [name: string]: unknown } | null;
  readonly violations?: readonly Violation[];
  /** What can be chosen for references, by ruleset. References to others have a text control for the key. */
  readonly options?: { readonly [ruleset: string]: Options };
  /** The fields that it has controls for, by name; all of them unless told. */
  readonly fields?: readonly string[];
  readonly action?: string;
  /** Values that travel along, such as a form token. */
  readonly hidden?: { readonly [name: string]: string };
  readonly catalogue?: Catalogue;
  /** The words on the button. */
  readonly button?: string;
}

/** What the parts of a form ask of its state. */
export interface Shown {
  readonly model: Model;
  /** What was sent or is stored, put into the shape of the record; null in a new form. */
  readonly tree: { readonly [name: string]: unknown } | null;
  /** A stored record is edited: a secret of its own stays unless another is typed. */
  readonly isStored: boolean;
  readonly violations: readonly Violation[];
  /** The fields of the record that the form has controls for. */
  readonly fields: readonly KnownField[];
  /** What can be chosen; null where a text control takes the key. */
  options(ruleset: string): Options | null;
  /** What the form is called. */
  readonly name: string;
  label(field: KnownField): string;
  word(key: WordKey, label?: string): string;
  readonly say: Say;
  readonly drawn: Drawn;
}

/** Entries in the shape of the record; of more names than anybody reads, none. */
function treeOf(model: Model, entries: { readonly [name: string]: unknown }): Shown['tree'] {
  return Object.keys(entries).length > mostNames ? {} : readForm(model.fields, entries).tree;
}

/** What a form shows, worked out once for all its parts. */
export function shownOf(model: Model, state: FormState): Shown {
  const { catalogue = english, options = {}, record = null, violations = [] } = state;
  const entries = state.entries ?? (record === null ? null : encode(model, record as Row, 'form'));
  const labels = catalogue.labels ?? {};
  const say: Say = (key, limit = '', least = '') => phrase(catalogue, { keys: [key], limit, label: least });
  return {
    model,
    tree: entries === null ? null : treeOf(model, entries),
    isStored: record !== null,
    violations,
    fields: inPage(model.fields).filter(({ name }) => state.fields?.includes(name) ?? true),
    options: (ruleset) => (Object.hasOwn(options, ruleset) ? (options[ruleset] ?? null) : null),
    name: labels[model.ruleset] ?? model.label,
    label: ({ path, label }) => labels[`${model.ruleset}.${path}`] ?? label,
    word: (key, label = '') => phrase(catalogue, { keys: [key], label, limit: '' }),
    say,
    drawn: new Drawn(say),
  };
}

/** The fields that a page has controls for. */
export function inPage(fields: { readonly [name: string]: KnownField }): readonly KnownField[] {
  return Object.values(fields).filter((field) => isSent(field) && field.enforcedIn.includes('client'));
}

/** The id of the control that a JSON Pointer leads to; null where the form has none there. */
export function idAt({ model, fields }: Shown, pointer: string): string | null {
  const [top, ...steps] = pointer.slice(1).split('/');
  let field = fields.find(({ name }) => name === top);
  for (const step of steps) field = field?.item ?? inPage(field?.fields ?? {}).find(({ name }) => name === step);
  return field === undefined ? null : controlId(model.ruleset, `${top}${steps.map((step) => `[${step}]`).join('')}`);
}

/** The text that a control of its own shows; null where nothing was sent. Of several entries the last. */
export function textIn(tree: unknown): string | null {
  const entry: unknown = Array.isArray(tree) ? tree.at(-1) : tree;
  return typeof entry === 'string' ? entry : null;
}

/** What was sent within a record, by field; nothing where something else stands in its place. */
export function recordIn(tree: unknown): { readonly [name: string]: unknown } {
  return typeof tree === 'object' && tree !== null && !Array.isArray(tree)
    ? (tree as { readonly [name: string]: unknown })
    : {};
}
