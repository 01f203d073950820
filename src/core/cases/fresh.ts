import { canonicalValue, encodeValue, type KnownField, targetOf } from '../kinds/index.js';
import { type ClockReading, judgingFor, type Matchers, readClock } from '../meaning/index.js';
import {
  type Constraint,
  fieldAt,
  formName,
  listsOf,
  type Path,
  type Row,
  randomFrom,
  seedOf,
  type Value,
  valueAt,
  type Wire,
  withValue,
} from '../model/index.js';
import { isLookup, type Judging } from '../operators/index.js';
import { caseClock } from './clock.js';
import type { Context, Draft } from './context.js';
import { drawnValue } from './draw.js';
import { putRaw, rawAt } from './places.js';

type Input = { [name: string]: unknown };

/** So many values are drawn for a case before it keeps the base's. */
const MOST_DRAWN = 8;
/** After so many drawn in vain in a row, other cases have all that there are, or nearly. */
const MOST_IN_VAIN = 128;

/**
 * Gives every case values of its own where records must differ, so that cases can be stored one after the other: each
 * unique rule gets another value in one of its fields. What a case is about stays as it is, and so does a case with a
 * stored record of its own kind, which must meet it.
 */
export class Fresh {
  readonly #context: Context;
  readonly #fields: readonly FreshField[];
  readonly #subjects: ReadonlyMap<string, readonly string[]>;
  /** What the base carries on each wire. */
  readonly #standard: { readonly [W in Wire]: { readonly [name: string]: unknown } };

  constructor(context: Context) {
    this.#context = context;
    const { model, base } = context;
    this.#subjects = new Map(model.constraints.map(({ id, subjects }) => [id, subjects]));
    const standard = (wire: Wire) => context.carrier.carried(base, wire);
    this.#standard = { form: standard('form'), json: standard('json'), row: standard('row') };
    const paths = model.constraints.flatMap(({ predicate }) => {
      if (predicate.op !== 'unique' || predicate.of.some((path) => listsOf(path).length > 0)) return [];
      const isOwn = (path: string) => targetOf(fieldAt(model, path)) === null && valueAt(base, path) !== null;
      return predicate.of.filter(isOwn).slice(-1);
    });
    const judgingOf = recordsOf(context);
    this.#fields = [...new Set(paths)].map((path) => freshField(context, path, judgingOf));
  }

  /** What a draft sends, with values of its own, the same ones for the same id. */
  freshened(draft: Draft, id: string): unknown {
    if (isMet(draft, this.#context.model.ruleset)) return draft.input;
    if (typeof draft.input !== 'object' || draft.input === null || Array.isArray(draft.input)) return draft.input;
    const subjects = this.#subjects.get(draft.constraint) ?? [];
    const { wire } = draft;
    const given = draft.input as Input;
    let input: Input | null = null;
    for (const field of this.#fields) {
      const value = subjects.includes(field.path) ? null : this.#valueFor(field, input ?? given, wire, id);
      if (value === null) continue;
      input ??= { ...given };
      putRaw(input, field.path, encodeValue(field.field, value, wire), wire);
    }
    return input ?? given;
  }

  /** Another value for a field that has the base's there, where the base would be as valid with it; null otherwise. */
  #valueFor(field: FreshField, input: Input, wire: Wire, id: string): Value {
    const standard = this.#standard[wire];
    const isForm = wire === 'form';
    // A form has the names of fields; a row and JSON have their paths.
    for (const { path, name } of field.linked) {
      const isSame = isForm ? input[name] === standard[name] : rawAt(input, path, wire) === rawAt(standard, path, wire);
      if (!isSame) return null;
    }
    return this.#drawn(field, id);
  }

  /** True where the base with that value would keep every rule that mentions the field. */
  #keeps({ field, rules, baseWith }: FreshField, value: Value): boolean {
    const judging = baseWith(value);
    for (const { predicate, over } of rules) if (over === null && judging.truth(predicate) === false) return false;
    return canonicalValue(field, value) === value;
  }

  #drawn(fresh: FreshField, id: string): Value {
    const { path, field, standard, taken } = fresh;
    if (fresh.inVain >= MOST_IN_VAIN) return null;
    const random = randomFrom(seedOf(`${id} ${path}`));
    for (let tried = 0; tried < MOST_DRAWN; tried += 1) {
      const value = drawnValue(field, random, this.#context.grammars);
      if (value === null || value === standard || taken.has(value) || !this.#keeps(fresh, value)) continue;
      taken.add(value);
      fresh.inVain = 0;
      return value;
    }
    fresh.inVain += MOST_DRAWN;
    return null;
  }
}

/** True for a draft with a stored record of its own kind. */
function isMet({ existing, before }: Draft, ruleset: string): boolean {
  return existing !== undefined || before?.some((stored) => stored.ruleset === ruleset) === true;
}

/** A field that gets a value of its own in each case. */
interface FreshField {
  readonly path: Path;
  readonly field: KnownField;
  /** The base's value. */
  readonly standard: Value;
  /** The values that other cases have. */
  readonly taken: Set<Value>;
  /** How many values were drawn since one was found that no other case has. */
  inVain: number;
  /** The rules that mention the field, its own among them. */
  readonly rules: readonly Constraint[];
  /** The base with another value, to be asked; until the next one is. */
  readonly baseWith: (value: Value) => Judging;
  /** Itself, and the fields that a rule holds against it: where a case changes one of them, this one stays. */
  readonly linked: readonly { readonly path: Path; readonly name: string }[];
}

/** How records of a context's ruleset are asked, with patterns that are made ready once. */
function recordsOf({ model }: Context): (row: Row) => Judging {
  const [clock, matchers]: [ClockReading, Matchers] = [readClock(caseClock(model), model.zone), new Map()];
  return (row) => judgingFor(model, row, clock, matchers);
}

function freshField({ model, base, beside }: Context, path: Path, judgingOf: (row: Row) => Judging): FreshField {
  const rules = model.constraints.filter(
    ({ owner, subjects, facet, predicate }) =>
      !isLookup(predicate) && (facet ? owner === path : subjects.includes(path)),
  );
  const linked = new Set([path, ...rules.filter(({ facet }) => !facet).flatMap(({ subjects }) => subjects)]);
  // A field at the top is changed in one record, which is not made anew for each value.
  const row: { [name: string]: Value } = { ...base };
  const judging = judgingOf(row);
  const withTop = (value: Value) => {
    row[path] = value;
    return judging;
  };
  return {
    path,
    field: fieldAt(model, path),
    baseWith: path.includes('.') ? (value) => judgingOf(withValue(base, path, value)) : withTop,
    standard: valueAt(base, path),
    taken: new Set(beside(model.ruleset).map((stored) => valueAt(stored, path))),
    inVain: 0,
    // A drawn value breaks no rule of its own field, most of the time.
    rules: [...rules.filter(({ facet }) => !facet), ...rules.filter(({ facet }) => facet)],
    linked: [...linked].filter((one) => listsOf(one).length === 0).map((one) => ({ path: one, name: formName(one) })),
  };
}
