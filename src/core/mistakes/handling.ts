import type { Schema } from '../declare/index.js';
import { isNumeric, isTextual, type KnownField, scaleOf, valueDomain, valueField } from '../kinds/index.js';
import { formName, isSent, type Path, plainFields, type Row, type Violation } from '../model/index.js';
import { isLookup } from '../operators/index.js';

type Model = Schema[number];
type Input = { readonly [name: string]: unknown };

/** How a record is checked, as compiled modules take it. */
export interface CheckHow {
  readonly wire: 'form' | 'json';
  readonly partial?: boolean;
  readonly existing?: Row | null;
  readonly clock: { readonly instant: string; readonly zone: string };
}
export type Checked =
  | { readonly ok: true; readonly value: Row }
  | { readonly ok: false; readonly violations: readonly Violation[] };
export type Check = (input: unknown, how: CheckHow) => Checked;

/** A mistake around a check: in what is handed to it, or made of what it says. */
export interface Handling {
  readonly words: string;
  /** The facet of the field that it is about. */
  readonly facet: string;
  /** Where it is made once for the whole record: whether it makes a difference to some ruleset; all of them unless told. */
  readonly applies?: (model: Model) => boolean;
  /** The fields at which it can be made; null for one that is made once for the whole record. */
  readonly at: ((field: KnownField, model: Model) => boolean) | null;
  readonly wrap: (check: Check, path: Path, model: Model) => Check;
}

/** Hands another value of one field to the check. */
function before(change: (raw: unknown, how: CheckHow, field: KnownField) => unknown): Handling['wrap'] {
  return (check, path, model) => (input, how) => {
    if (typeof input !== 'object' || input === null || Array.isArray(input)) return check(input, how);
    const field = plainFields(model).find((one) => one.path === path);
    const name = how.wire === 'form' ? formName(path) : path;
    const record = input as Input;
    // An ordinary object, so that a key "__proto__" stays one.
    const entries = Object.entries(record).filter(([key]) => key !== name);
    const raw = Object.hasOwn(record, name) ? record[name] : undefined;
    const changed = field === undefined ? raw : change(raw, how, field);
    if (changed === undefined && !Object.hasOwn(record, name)) return check(input, how);
    return check(Object.fromEntries([...entries, [name, changed]]), how);
  };
}

/** Makes another answer of an accepted record. */
function behind(change: (value: Row, path: Path, input: Input) => Row): Handling['wrap'] {
  return (check, path) => (input, how) => {
    const result = check(input, how);
    return result.ok ? { ok: true, value: change(result.value, path, input as Input) } : result;
  };
}

/** What a partial update sends as a whole. */
const topOf = (path: Path) => path.split(/[.[]/)[0] ?? path;
const isTop = ({ path }: KnownField) => !path.includes('.') && !path.includes('[');
const isNumber = (field: KnownField) => isTop(field) && valueDomain(field) === 'number';
const isText = (field: KnownField) => isTop(field) && isTextual(field);
const isMissing = (raw: unknown) => raw === undefined || raw === null || raw === '';
const isNeeded = (field: KnownField) => isSent(field) && field.enforcedIn.includes('server');

/** What servers do around a check that is right by itself. */
export const handlings: { readonly [mistake: string]: Handling } = {
  'first violation only': {
    words: 'only the first fault is told',
    facet: 'type',
    at: null,
    wrap: (check) => (input, how) => {
      const result = check(input, how);
      return result.ok ? result : { ok: false, violations: result.violations.slice(0, 1) };
    },
  },
  'faults without a field': {
    words: 'every fault is told of the record as a whole',
    facet: 'type',
    at: null,
    wrap: (check) => (input, how) => {
      const result = check(input, how);
      return result.ok ? result : { ok: false, violations: result.violations.map((one) => ({ ...one, pointer: '' })) };
    },
  },
  'partial update unchecked': {
    words: 'a partial update is stored as it comes',
    facet: 'type',
    at: null,
    wrap: (check) => (input, how) =>
      how.partial === true ? { ok: true, value: { ...how.existing, ...(input as Row) } } : check(input, how),
  },
  'partial update by itself': {
    words: 'a partial update is checked without what is stored',
    facet: 'type',
    at: null,
    applies: ({ constraints }) =>
      constraints.some(
        ({ facet, predicate, subjects }) => !facet && !isLookup(predicate) && new Set(subjects.map(topOf)).size > 1,
      ),
    wrap: (check) => (input, how) => {
      const result = how.partial === true ? check(input, { ...how, existing: null }) : check(input, how);
      return result.ok ? { ok: true, value: { ...how.existing, ...result.value } } : result;
    },
  },
  'unknown keys kept': {
    words: 'unknown keys are kept',
    facet: 'keys',
    at: null,
    wrap: (check, _path, model) => (input, how) => {
      if (typeof input !== 'object' || input === null || Array.isArray(input)) return check(input, how);
      const known = new Set(plainFields(model).map(({ path }) => path.split('.')[0]));
      const isKnown = (key: string) => known.has(key.split(/[.[]/)[0] ?? '');
      return check(Object.fromEntries(Object.entries(input).filter(([key]) => isKnown(key))), how);
    },
  },
  'missing number read as zero': {
    words: 'a missing number is zero',
    facet: 'required',
    at: isNumber,
    wrap: before((raw, { wire, partial }) => (isMissing(raw) && partial !== true ? (wire === 'form' ? '0' : 0) : raw)),
  },
  'zero taken for missing': {
    words: 'zero is missing',
    facet: 'type',
    at: (field) =>
      isNumber(field) && field.key === null && Number(field.facets.min ?? 0) <= 0 && Number(field.facets.max ?? 0) >= 0,
    wrap: before((raw) => (raw === 0 || raw === '0' ? null : raw)),
  },
  'digits in quotes read': {
    words: 'digits in quotes are a number',
    facet: 'type',
    at: (field) => isNumber(field) && isNumeric(field),
    wrap: before((raw, { wire }) => (wire === 'json' && typeof raw === 'string' && raw !== '' ? Number(raw) : raw)),
  },
  'spaces around a number': {
    words: 'spaces around a number are taken off',
    facet: 'type',
    at: isNumber,
    wrap: before((raw, { wire }) => (wire === 'form' && typeof raw === 'string' ? raw.trim() : raw)),
  },
  'fraction rounded': {
    words: 'what is too fine is rounded',
    facet: 'scale',
    at: (field) => isNumber(field) && field.facets.scale !== undefined && isNumeric(field),
    wrap: before((raw, _how, field) => (typeof raw === 'number' ? Number(raw.toFixed(scaleOf(field))) : raw)),
  },
  'text cut short': {
    words: 'what is too long is cut',
    facet: 'maxLength',
    at: (field) => isText(field) && typeof valueField(field).facets.maxLength === 'number',
    wrap: before((raw, _how, field) => {
      const most = Number(valueField(field).facets.maxLength);
      return typeof raw === 'string' ? [...raw.trim()].slice(0, most).join('') : raw;
    }),
  },
  'breaks on another type': {
    words: 'it breaks down where no text comes',
    facet: 'type',
    at: isText,
    wrap: before((raw) => (isMissing(raw) ? raw : (raw as string).trim())),
  },
  'null as a word': {
    words: 'null becomes the word',
    facet: 'required',
    at: isText,
    wrap: before((raw) => (raw === null ? 'null' : raw)),
  },
  'any value as text': {
    words: 'numbers and truths become text',
    facet: 'type',
    at: isText,
    wrap: before((raw, { wire }) => {
      const isOther = typeof raw === 'number' || typeof raw === 'boolean';
      return wire === 'json' && isOther ? String(raw) : raw;
    }),
  },
  'stored as it came': {
    words: 'the text is stored as it came, not as it was checked',
    facet: 'canonical',
    at: isText,
    wrap: behind((value, path, input) => {
      const raw = typeof input === 'object' && input !== null && Object.hasOwn(input, path) ? input[path] : undefined;
      return typeof raw === 'string' && raw !== '' ? { ...value, [path]: raw } : value;
    }),
  },
  'absent stored as empty': {
    words: 'an absent text is stored as an empty one',
    facet: 'canonical',
    at: (field) => isText(field) && field.optional,
    wrap: behind((value, path) => (value[path] === null ? { ...value, [path]: '' } : value)),
  },
  'days rolled over': {
    words: 'a day that is none becomes the next one',
    facet: 'type',
    at: (field) => isTop(field) && valueDomain(field) === 'date',
    wrap: before((raw) => {
      const parts = typeof raw === 'string' ? /^([0-9]{4})-([0-9]{2})-([0-9]{2})$/.exec(raw) : null;
      const date = parts === null ? null : new Date(Date.UTC(Number(parts[1]), Number(parts[2]) - 1, Number(parts[3])));
      return date === null || Number.isNaN(date.getTime()) ? raw : date.toISOString().slice(0, 10);
    }),
  },
  'truth in words and numbers': {
    words: 'the words true and false, and 1 and 0, are truths',
    facet: 'type',
    at: (field) => isTop(field) && valueDomain(field) === 'boolean',
    wrap: before((raw, { wire }) => {
      if (wire === 'form') return raw;
      return raw === 'true' || raw === 1 ? true : raw === 'false' || raw === 0 ? false : raw;
    }),
  },
  'default written over null': {
    words: 'a default takes the place of null',
    facet: 'type',
    at: (field) => isTop(field) && field.default !== null && field.optional,
    wrap: (check, path, model) => (input, how) => {
      const result = check(input, how);
      const filling = model.fields[path]?.default ?? null;
      return result.ok && result.value[path] === null
        ? { ok: true, value: { ...result.value, [path]: filling } }
        : result;
    },
  },
  'one entry for a list': {
    words: 'one value is taken for a list of it',
    facet: 'type',
    at: (field) => isTop(field) && field.item !== null,
    wrap: before((raw, { wire }) => (wire === 'json' && !isMissing(raw) && !Array.isArray(raw) ? [raw] : raw)),
  },
  'last entries dropped': {
    words: 'more entries than there may be are dropped',
    facet: 'maxItems',
    at: (field) => isTop(field) && typeof field.facets.maxItems === 'number',
    wrap: before((raw, _how, field) => (Array.isArray(raw) ? raw.slice(0, Number(field.facets.maxItems)) : raw)),
  },
};

/** The handlings of a ruleset at each place where they can be made. */
export function handlingsOf(model: Model): readonly { readonly mistake: string; readonly path: Path | null }[] {
  const fields = plainFields(model).filter((field) => isNeeded(field));
  return Object.entries(handlings).flatMap(([mistake, { at, applies }]) => {
    if (applies?.(model) === false) return [];
    const paths: readonly (Path | null)[] =
      at === null ? [null] : fields.filter((field) => at(field, model)).map(({ path }) => path);
    return paths.map((path) => ({ mistake, path }));
  });
}
