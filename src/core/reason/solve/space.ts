import {
  isNumeric,
  isScalar,
  type KnownField,
  sampleOf,
  secondsOf,
  valueDomain,
  valueField,
  valuesOf,
} from '../../kinds/index.js';
import { exactOf, fieldAt, type Model, type Path, type Value } from '../../model/index.js';
import type { Range } from '../order/range.js';
import { countOf, endsOf, FINEST, isOrdered, type OrderedDomain, spelled, stepOf } from '../order/units.js';
import type { Key } from './formula.js';

/** A value whose order is counted in steps. */
export interface OrderedVariable {
  readonly sort: 'ordered';
  readonly domain: OrderedDomain;
  readonly range: Range;
  /** What a person would expect, if it may be had. */
  readonly likely: readonly bigint[];
  write(count: bigint): Value;
}
/** A text, and the texts that a person would expect. */
export interface TextVariable {
  readonly sort: 'text';
  readonly likely: readonly string[];
}
/** One of few values: a choice, with a code beside the declared ones; true and false. */
export interface FiniteVariable {
  readonly sort: 'finite';
  readonly values: readonly Value[];
}
/** Something that has a value or none. */
export type Variable = OrderedVariable | TextVariable | FiniteVariable;

/** The values of a ruleset's records, as they are reasoned about. */
export class Space {
  readonly model: Model;
  /** Digits after the point of every number, one more than any field or rule needs. */
  readonly scale: number;
  readonly #variables = new Map<Key, Variable>();
  readonly #extras = new Set<Key>();

  constructor(model: Model) {
    this.model = model;
    this.scale = 1 + Math.max(0, ...numbersIn([model.fields, model.constraints.map(({ predicate }) => predicate)]));
  }

  /** The variable of a key; those of terms must have been made before. */
  variable(key: Key): Variable {
    const known = this.#variables.get(key);
    if (known !== undefined) return known;
    const made = this.#ofField(fieldAt(this.model, key) as KnownField);
    this.#variables.set(key, made);
    return made;
  }

  field(path: Path): KnownField {
    return fieldAt(this.model, path) as KnownField;
  }

  /** A value of a domain as a count of its unit. */
  count(value: Value, domain: OrderedDomain): bigint | null {
    return countOf(value, domain, this.scale);
  }

  /** A variable for something that is no field: it has no presence unless something is said of it. */
  make(
    key: Key,
    domain: OrderedDomain | 'text',
    own: Partial<OrderedVariable['range']> = {},
    likely: Value = null,
  ): Key {
    if (this.#variables.has(key)) return key;
    if (domain === 'text') this.#variables.set(key, { sort: 'text', likely: [] });
    else {
      const range = { step: 1n, not: [], ...endsOf(domain), ...own };
      const write = (count: bigint) => spelled(count, domain, this.scale, FINEST);
      const liked = likely === null ? null : this.count(likely, domain);
      this.#variables.set(key, { sort: 'ordered', domain, range, likely: liked === null ? [] : [liked], write });
    }
    this.#extras.add(key);
    return key;
  }

  /** True for what has a value of its own: of a record only its presence is asked. */
  hasValue(key: Key): boolean {
    return this.#extras.has(key) || isScalar(this.field(key));
  }

  /** True for what is no field, and has a value in any record. */
  isExtra(key: Key): boolean {
    return this.#extras.has(key);
  }

  #ofField(field: KnownField): Variable {
    const inner = valueField(field);
    const domain = valueDomain(field);
    const values = valuesOf(inner);
    const samples = [0, 1, 2, 3].map((seed) => sampleOf(field, seed));
    if (values !== null) return { sort: 'finite', values: [...values, ...stranger(values)] };
    if (!isOrdered(domain)) return { sort: 'text', likely: [...samples.map(String)] };
    const { step, low, high } = this.#base(inner, domain);
    return {
      sort: 'ordered',
      domain,
      range: { low, high, step, not: [] },
      likely: samples.flatMap((sample) => this.count(sample, domain) ?? []),
      write: (count) => this.#written(inner, domain, count),
    };
  }

  /** What the grammar of the kind allows, before any facet. */
  #base(field: KnownField, domain: OrderedDomain): Range {
    if (domain !== 'number') {
      const step = domain === 'date' ? 1n : stepOf(secondsOf(field));
      const { low, high } = endsOf(domain);
      // The last moment of a day or of the calendar that such a fraction can spell.
      return { low, high: high === null ? null : high - (high % step), step, not: [] };
    }
    // Of the kinds of numbers only the decimal one has a precision; the other holds safe integers.
    if (field.facets.precision !== undefined) return { low: null, high: null, step: 1n, not: [] };
    const unit = 10n ** BigInt(this.scale);
    const most = BigInt(Number.MAX_SAFE_INTEGER) * unit;
    return { low: -most, high: most, step: unit, not: [] };
  }

  #written(field: KnownField, domain: OrderedDomain, count: bigint): Value {
    const text = spelled(count, domain, this.scale, domain === 'date' ? 0 : secondsOf(field));
    if (domain !== 'number') return text;
    return field.facets.precision === undefined || isNumeric(field) ? Number(text) + 0 : text;
  }
}

/** A value that is not declared, so that what forbids it can be reasoned about too; none beside true and false. */
function stranger(values: readonly Value[]): readonly Value[] {
  const [first] = values;
  if (typeof first === 'string') return [`${values.filter((one) => typeof one === 'string').join('-')}-other`];
  return typeof first === 'number' ? [Math.max(...values.map(Number)) + 1] : [];
}

/** How many digits after the point the numbers of rules have, and the scales that are declared. */
function numbersIn(data: unknown): readonly number[] {
  if (typeof data !== 'object' || data === null) return [];
  const said = data as { readonly [key: string]: unknown };
  const own = [
    said.term === 'literal' && said.domain === 'number' ? said.value : null,
    said.op === 'multiple' ? said.step : null,
  ];
  const digits = own.flatMap((number) => exactOf(number)?.scale ?? []);
  const declared = typeof said.scale === 'number' ? [said.scale] : [];
  return [...digits, ...declared, ...Object.values(said).flatMap(numbersIn)];
}
