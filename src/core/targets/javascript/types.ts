import {
  codesOf,
  hasIntegerCodes,
  isNumeric,
  type KnownField,
  kindOf,
  type PerKind,
  secondsOf,
  valueField,
} from '../../kinds/index.js';
import { mostUnits } from '../../meaning/index.js';
import { call, type Js, literal, name, nothing } from './tree.js';

/** How a kind is read in a module, and its TypeScript type in the declarations beside it. */
export interface ModuleType {
  /** From what came in: undefined where refused, null where absent, else the value in canonical form. */
  read(field: KnownField, raw: Js): Js;
  typeText(field: KnownField): string;
}

const form = name('form');
const usualMost = 1_000_000;

/** Reads text and puts it into canonical form; U+0000 and the like are found when it is measured. */
function readText({ facets }: KnownField, raw: Js, limit: number): Js {
  const lines = facets.lines === 'many' ? call('withLines', raw) : raw;
  const most = limit === usualMost ? [] : [literal(limit)];
  let text = call(facets.trim === false ? 'readPadded' : 'readText', lines, ...most);
  if (facets.collapse === true) text = call('collapsed', text);
  const isComposed = facets.unicode === 'NFC';
  if (isComposed) text = call('composed', text);
  const changed = { lower: 'lowered', upper: 'uppered' }[String(facets.case)];
  if (changed === undefined) return text;
  text = call(changed, text);
  return isComposed ? call('composed', text) : text;
}

const text: ModuleType = {
  read: (field, raw) => readText(field, raw, mostUnits(field)),
  typeText: () => 'string',
};
const moment = (of: string): ModuleType => ({
  read: (field, raw) => call('readMoment', raw, name(of), literal(secondsOf(field)), form),
  typeText: () => 'string',
});
const composite = (what: string): ModuleType => ({
  read: () => {
    throw new Error(`a ${what} is read by its parts`);
  },
  typeText: () => what,
});

const types: PerKind<ModuleType> = {
  text,
  email: text,
  url: text,
  uuid: text,
  ip: text,
  integer: { read: (_field, raw) => call('readInteger', raw, form), typeText: () => 'number' },
  decimal: {
    read: (field, raw) => (isNumeric(field) ? call('readDecimal', raw, form) : call('readLongDecimal', raw)),
    typeText: (field) => (isNumeric(field) ? 'number' : 'string'),
  },
  boolean: {
    read: (field, raw) => {
      // An unticked box of a form sends nothing.
      const missing = kindOf(field).whenMissingFromForm(field);
      return call(
        'readBoolean',
        raw,
        form,
        missing === null ? nothing : { when: form, yes: literal(missing), no: nothing },
      );
    },
    typeText: () => 'boolean',
  },
  date: { read: (_field, raw) => call('readDate', raw), typeText: () => 'string' },
  time: moment('timeOf'),
  timestamp: moment('instantOf'),
  dateTime: moment('localOf'),
  choice: {
    read: (field, raw) => (hasIntegerCodes(field) ? call('readInteger', raw, form) : call('readCode', raw)),
    typeText: (field) =>
      codesOf(field)
        .map((code) => JSON.stringify(code))
        .join(' | '),
  },
  record: composite('object'),
  list: composite('array'),
  reference: {
    read: (field, raw) => readJs(valueField(field), raw),
    typeText: (field) => typeTextOf(valueField(field)),
  },
};

/** Code that reads a value of its own; a reference is read as its key is. */
export function readJs(field: KnownField, raw: Js): Js {
  return types[field.kind].read(field, raw);
}

export function typeTextOf(field: KnownField): string {
  return types[field.kind].typeText(field);
}

/** What came in is larger than anybody reads. */
export function isOverLimits(field: KnownField, raw: Js): Js {
  const { facets } = valueField(field);
  return call(facets.unicode === 'NFC' ? 'isLongOrStacked' : 'isLong', raw, literal(mostUnits(valueField(field))));
}
