import type { Schema } from '../core/declare/index.js';
import type { KnownField } from '../core/kinds/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import { allFields, type Blame, formName, type Path, pointerToKey, type Wire } from '../core/model/index.js';

/**
 * What a layer calls fields on its wire, by ruleset and path: only what it calls otherwise than declared. In JSON it is the
 * key in the record that holds it. On a form it is the control's whole name; of an item (`helpers[]`) the name that all
 * controls of the list share, and of a field within an item (`pieces[].clay`) the last step of it.
 */
export interface FieldNames {
  readonly [ruleset: string]: { readonly [path: Path]: string };
}

/** Why a case does not apply whose undeclared key is the layer's name of a field. */
export const TAKEN_NAME = "its undeclared key is the layer's name of a field";

type Fields = { readonly [name: string]: KnownField };
type Entries = { readonly [name: string]: unknown };

/** A record without fields, or what is in it. */
function isRecord(value: unknown): value is Entries {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/**
 * Makes sure that a layer's names are about declared fields.
 *
 * @param kind the kind of the layer
 * @throws ProblemError `layer_unfit` for a ruleset or a field that is not declared
 */
export function assertFieldNames(schema: Schema, names: FieldNames | undefined, kind: string): void {
  const reason = undeclaredIn(schema, names ?? {});
  if (reason !== null) throw new ProblemError([problems.layerUnfit(null, kind, reason)]);
}

/** What is wrong with names that are about nothing declared, in words; null where nothing is. */
function undeclaredIn(schema: Schema, names: FieldNames): string | null {
  for (const [ruleset, own] of Object.entries(names)) {
    const model = schema.find((one) => one.ruleset === ruleset);
    if (model === undefined) return `names: there is no ruleset ${ruleset}`;
    const paths = new Set(allFields(model).map(({ path }) => path));
    const lost = Object.keys(own).find((path) => !paths.has(path));
    if (lost !== undefined) return `names: ${ruleset} has no field ${lost}`;
  }
  return null;
}

/** Translates records, names and pointers of one ruleset between what is declared and what a layer calls it. */
export class Translation {
  readonly #fields: Fields;
  readonly #names: { readonly [path: Path]: string };
  /** The declared form names that have one of their own, by that name. */
  readonly #byControl: ReadonlyMap<string, Path>;

  constructor({ fields }: Schema[number], names: FieldNames[string] | undefined) {
    this.#fields = fields;
    this.#names = names ?? {};
    this.#byControl = new Map(Object.entries(this.#names).map(([path, name]) => [name, path]));
  }

  /** True where the layer calls everything as it is declared. */
  get isPlain(): boolean {
    return this.#byControl.size === 0;
  }

  /** A record as the layer takes it; null where an undeclared key of it is the layer's name of a field. */
  toWire(record: unknown, wire: Wire): unknown {
    if (this.isPlain || !isRecord(record)) return record;
    return wire === 'form' ? this.#toForm(record) : this.#toJson(record, this.#fields, '');
  }

  /** A record of the layer's answer as it is declared. */
  fromJson(record: unknown): unknown {
    return this.isPlain ? record : this.#back(record, this.#fields, '');
  }

  /** The entries that a form sent, under the declared names. */
  fromForm(entries: Entries): Entries {
    const counts = new Map<string, number>();
    return Object.fromEntries(Object.entries(entries).map(([name, value]) => [this.fromControl(name, counts), value]));
  }

  /** What is blamed at the layer's own names, at the declared ones. */
  blamed(blames: readonly Blame[]): readonly Blame[] {
    if (this.isPlain) return blames;
    return blames.map((blame) =>
      blame.pointer === null ? blame : { ...blame, pointer: this.fromPointer(blame.pointer) },
    );
  }

  /** A pointer into the layer's record as one into the declared record. */
  fromPointer(pointer: string): string {
    const whole = this.#byControl.get(pointer.slice(1));
    if (whole !== undefined && !whole.includes('[]')) return whole.split('.').map(pointerToKey).join('');
    let fields: Fields | null = this.#fields;
    let path = '';
    const steps = pointer.split('/').slice(1);
    const declared = steps.map((step) => {
      if (fields === null) return step;
      const name = this.#declaredAs(step, fields, path);
      const isItem = /^(?:[0-9]+|-)$/.test(step) && path.endsWith('[]');
      if (isItem) return step;
      const field: KnownField | undefined = Object.hasOwn(fields, name) ? fields[name] : undefined;
      path = path === '' ? name : `${path}.${name}`;
      if (field?.item != null) path += '[]';
      fields = field?.fields ?? field?.item?.fields ?? null;
      return name;
    });
    return declared.map((step) => `/${step}`).join('');
  }

  /**
   * The declared form name of one of the layer's controls. Several of one name are a list's entries in their order.
   *
   * @param counts how many of each name were before
   */
  fromControl(name: string, counts: Map<string, number>): string {
    const path = this.#byControl.get(name);
    if (path?.endsWith('[]')) {
      const at = counts.get(name) ?? 0;
      counts.set(name, at + 1);
      return `${formName(path.slice(0, -2))}[${at}]`;
    }
    if (path !== undefined && !path.includes('[]')) return formName(path);
    const [, list = '', rest = ''] = /^([^[\].]+)(\[.*)$/.exec(name) ?? [];
    const listPath = this.#byControl.get(list) ?? list;
    if (list === '' || this.isPlain) return name;
    const inner = rest.replace(/^(\[[0-9]*\])\[([^\]]+)\]$/, (_, index: string, step: string) => {
      const own = this.#byControl.get(step);
      return `${index}[${own?.startsWith(`${listPath}[].`) ? own.slice(listPath.length + 3) : step}]`;
    });
    return `${listPath}${inner}`;
  }

  #declaredAs(step: string, fields: Fields, path: string): string {
    const found = Object.keys(fields).find((name) => this.#names[path === '' ? name : `${path}.${name}`] === step);
    return found ?? step;
  }

  #toJson(record: unknown, fields: Fields, path: string): unknown {
    if (Array.isArray(record)) return record.map((one) => this.#toJson(one, fields, path));
    if (!isRecord(record)) return record;
    const taken = new Set<string>();
    const entries = Object.entries(record).map(([key, value]): readonly [string, unknown] | null => {
      const own = path === '' ? key : `${path}.${key}`;
      const field = Object.hasOwn(fields, key) ? fields[key] : undefined;
      const name = field === undefined ? key : (this.#names[own] ?? key);
      if (taken.has(name)) return null;
      taken.add(name);
      const within = field?.fields ?? field?.item?.fields ?? null;
      const inner = within === null ? value : this.#toJson(value, within, field?.item == null ? own : `${own}[]`);
      return inner === null && value !== null ? null : [name, inner];
    });
    const isLost = entries.some((entry) => entry === null) || [...taken].some((name) => this.#isTaken(name, record));
    // A key like __proto__ stays one.
    return isLost ? null : Object.fromEntries(entries as readonly (readonly [string, unknown])[]);
  }

  /** An undeclared key that is the layer's name of a field, which the record does not have. */
  #isTaken(name: string, record: Entries): boolean {
    const path = this.#byControl.get(name);
    return path !== undefined && Object.hasOwn(record, name) && !Object.hasOwn(record, path.split('.').at(-1) ?? '');
  }

  #back(record: unknown, fields: Fields, path: string): unknown {
    if (Array.isArray(record)) return record.map((one) => this.#back(one, fields, path));
    if (!isRecord(record)) return record;
    return Object.fromEntries(
      Object.entries(record).map(([key, value]) => {
        const name = this.#declaredAs(key, fields, path);
        const field = Object.hasOwn(fields, name) ? fields[name] : undefined;
        const own = path === '' ? name : `${path}.${name}`;
        const within = field?.fields ?? field?.item?.fields ?? null;
        return [name, within === null ? value : this.#back(value, within, field?.item == null ? own : `${own}[]`)];
      }),
    );
  }

  #toForm(entries: Entries): Entries | null {
    const sent: { [name: string]: unknown } = {};
    for (const [key, value] of Object.entries(entries)) {
      const name = this.#controlFor(key);
      // Only the entries of a list share a name.
      if (Object.hasOwn(sent, name) && !this.#byControl.get(name)?.endsWith('[]')) return null;
      if (name === key && this.#byControl.has(key)) return null;
      sent[name] = Object.hasOwn(sent, name) ? [sent[name], value].flat() : value;
    }
    return sent;
  }

  /** What the layer calls the control of a declared form name. */
  #controlFor(name: string): string {
    const steps = name.split(/[.[\]]+/).filter((step) => step !== '');
    const [first = '', index, ...rest] = steps;
    const field = Object.hasOwn(this.#fields, first) ? this.#fields[first] : undefined;
    if (field?.item == null) return this.#names[steps.join('.')] ?? name;
    const shared = this.#names[`${first}[]`];
    if (shared !== undefined) return shared;
    const list = this.#names[first] ?? first;
    if (index === undefined) return name.replace(first, () => list);
    const inner = rest.map((step) => `[${this.#names[`${first}[].${step}`] ?? step}]`).join('');
    return `${list}[${index}]${inner}`;
  }
}

/** The translations of a schema's rulesets. */
export function translations(schema: Schema, names: FieldNames = {}): (ruleset: string) => Translation {
  const made = new Map(schema.map((model) => [model.ruleset, new Translation(model, names[model.ruleset])]));
  return (ruleset) => {
    const found = made.get(ruleset);
    if (found === undefined) throw new Error(`no ruleset ${ruleset} in the schema`);
    return found;
  };
}
