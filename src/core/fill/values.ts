import { drawnValue } from '../cases/draw.js';
import type { Grammars } from '../cases/grammars.js';
import { addSecondsToDateTime, type KnownField, type PerKind, valueField, valuesOf } from '../kinds/index.js';
import type { Random, Row, Value } from '../model/index.js';
import { Dates } from './dates.js';
import { isAboutPeople, type Teller } from './roles.js';
import { textFor } from './text.js';
import type { Words } from './words.js';

/** What one record is made with: its own people, places and days. */
export interface Making {
  readonly random: Random;
  readonly grammars: Grammars;
  readonly teller: Teller;
  readonly dates: Dates;
  /** The keys that a reference may name. */
  readonly keysOf: (field: KnownField) => readonly Value[];
}

type Make = (field: KnownField, making: Making) => Value;

/** So many optional values are left out, and so many entries does a list have. */
const LEFT_OUT = 0.3;
const USUAL_ITEMS = 3;

export function makingOf(
  model: { readonly ruleset: string; readonly fields: { readonly [name: string]: KnownField } },
  words: Words,
  first: string,
  random: Random,
  given: Pick<Making, 'grammars' | 'keysOf'>,
): Making {
  const [person, place] = [words.person(), words.place()];
  const teller: Teller = { words, person, place, isPerson: isAboutPeople(model) };
  return { ...given, random, teller, dates: new Dates(first, random) };
}

const text: Make = (field, { teller, random, grammars }) => textFor(field, teller, random, grammars);
const drawn: Make = (field, { random, grammars }) => drawnValue(field, random, grammars);

/** A moment in working hours of one of the record's days. */
const moment =
  (end: string): Make =>
  (field, making) => {
    const day = making.dates.dayFor({ ...field, facets: {} });
    const time = addSecondsToDateTime(`${day}T08:00:00`, making.random.below(600) * 60) ?? `${day}T08:00:00`;
    const fraction = Number(field.facets.fraction ?? 0);
    const value = `${time}${fraction === 0 ? '' : `.${'0'.repeat(fraction)}`}${end}`;
    const { min, max } = field.facets;
    const isWithin = !(typeof min === 'string' && value < min) && !(typeof max === 'string' && value > max);
    return isWithin ? value : drawn(field, making);
  };

const makers: PerKind<Make> = {
  text,
  email: (field, { teller: { person, isPerson, words }, random }) => {
    const { mailbox } = isPerson ? person : words.person();
    const number = random.below(4) === 0 ? String(random.below(100)) : '';
    const address = `${mailbox}${number}@mail.example`;
    return address.length <= Number(field.facets.maxLength ?? 254) ? address : `a${number}@mail.example`;
  },
  url: drawn,
  uuid: drawn,
  ip: drawn,
  integer: drawn,
  decimal: drawn,
  boolean: (field, { random }) => (field.facets.must === true ? true : random.below(2) === 0),
  date: (field, { dates }) => dates.dayFor(field),
  time: drawn,
  timestamp: moment('Z'),
  dateTime: moment(''),
  choice: drawn,
  record: (field, making) => recordFor(field.fields as { readonly [name: string]: KnownField }, making),
  list: listFor,
  reference: (field, { keysOf, random }) => {
    const keys = keysOf(field);
    return keys.length === 0 ? null : random.pick(keys);
  },
};

/** A value of a field, or nothing where it is optional and left out this time. */
export function valueFor(field: KnownField, making: Making): Value {
  if (field.optional && making.random.next() < LEFT_OUT) return null;
  return makers[field.kind](field, making);
}

/** Values of all fields of a record that somebody sends. */
export function recordFor(fields: { readonly [name: string]: KnownField }, making: Making): Row {
  return Object.fromEntries(Object.values(fields).map((field) => [field.name, valueFor(field, making)]));
}

function listFor(field: KnownField, making: Making): Value {
  const { item, facets } = field;
  if (item === null) return [];
  const least = Number(facets.minItems ?? 0);
  const most = Math.min(Number(facets.maxItems ?? USUAL_ITEMS), Math.max(USUAL_ITEMS, least));
  const count = least + making.random.below(most - least + 1);
  const items: Value[] = [];
  const few = valuesOf(valueField(item))?.length ?? Number.POSITIVE_INFINITY;
  for (let tried = 0; items.length < Math.min(count, few) && tried < 20 * count; tried += 1) {
    const value = makers[item.kind](item, making);
    const isRepeat = items.some((other) => JSON.stringify(other) === JSON.stringify(value));
    if (value !== null && !isRepeat) items.push(value);
  }
  return items;
}
