import {
  choicesOf,
  firstDate,
  fractionOf,
  type KnownField,
  lastDate,
  type PerKind,
  scaleOf,
  secondsOf,
  steppedTime,
  stepSeconds,
  valueField,
} from '../../kinds/index.js';
import { english, phrase } from '../../messages/index.js';
import { textPattern } from './predicates.js';
import { rangePattern } from './range.js';

/** Words of a catalogue's entry with its limits in their places. */
export type Say = (key: string, limit?: string, least?: string) => string;

/** The words of controls in English. */
export const inEnglish: Say = (key, limit = '', least = '') => phrase(english, { keys: [key], limit, label: least });

/** The control of a field, as data: an element, its attributes, and the options where it has some. */
export interface Control {
  readonly element: 'input' | 'textarea' | 'select' | 'checkbox' | 'fieldset';
  readonly attributes: { readonly [name: string]: string | true };
  /** What a list or a text area begins with. */
  readonly holds?: string;
  readonly options?: readonly (readonly [value: string, label: string])[];
}

const nothingChosen = ['', ''] as const;

function requiredOf(field: KnownField): { readonly required?: true } {
  return field.optional ? {} : { required: true };
}

/**
 * The right control for each kind. Numbers are text controls: a number control silently turns `1,5` into 15, and reads
 * `1e3`. Lengths are part of `pattern`, since `maxlength` counts UTF-16 units and white space that is trimmed later.
 */
const types: PerKind<(field: KnownField, say: Say) => Control> = {
  text: (field, say) => {
    if (field.facets.lines === 'many') return textarea(field, say);
    // What is typed is not shown, and no browser fills in one that it knows from elsewhere.
    const secret: { [attribute: string]: string } = field.concealed
      ? { type: 'password', autocomplete: 'new-password' }
      : {};
    return textInput(field, say, secret);
  },
  email: (field, say) => textInput(field, say, { inputmode: 'email' }),
  url: (field, say) => textInput(field, say, { inputmode: 'url' }),
  uuid: (field, say) => textInput(field, say),
  ip: (field, say) => textInput(field, say),
  integer: (field, say) => {
    const least = typeof field.facets.min === 'number' ? field.facets.min : Number.MIN_SAFE_INTEGER;
    const most = typeof field.facets.max === 'number' ? field.facets.max : Number.MAX_SAFE_INTEGER;
    const pattern = rangePattern(least, most);
    const title = limits('hint.whole', field.facets.min, field.facets.max, say);
    return {
      element: 'input',
      attributes: { type: 'text', inputmode: 'numeric', ...requiredOf(field), pattern, title },
    };
  },
  decimal: (field, say) => {
    const digits = Number(field.facets.precision) - scaleOf(field);
    const scale = scaleOf(field);
    const whole = digits === 0 ? '0' : `(?:0|[1-9][0-9]{0,${digits - 1}})`;
    const pattern = `-?${whole}${scale === 0 ? '' : `(?:\\.[0-9]{1,${scale}}0*)?`}`;
    const title = limits('hint.number', field.facets.min, field.facets.max, say);
    return {
      element: 'input',
      attributes: { type: 'text', inputmode: 'decimal', ...requiredOf(field), pattern, title },
    };
  },
  choice: (field) => ({
    element: 'select',
    attributes: requiredOf(field),
    options: [nothingChosen, ...choicesOf(field).map(([code, label]) => [String(code), label] as const)],
  }),
  date: (field) => {
    const min = typeof field.facets.min === 'string' ? field.facets.min : firstDate;
    const max = typeof field.facets.max === 'string' ? field.facets.max : lastDate;
    return { element: 'input', attributes: { type: 'date', ...requiredOf(field), min, max } };
  },
  time: (field) =>
    secondsOf(field) === 'none' ? timeInput(field) : momentInput(field, '[0-2][0-9]:[0-5][0-9]', 'HH:MM:SS'),
  // A page adds its own offset, where script is on: a control for moments without one would send none.
  timestamp: (field) => {
    const offset = '(?:Z|[+\\-][0-2][0-9]:[0-5][0-9])';
    const control = momentInput(field, `${dayForm}T[0-2][0-9]:[0-5][0-9]`, 'YYYY-MM-DDTHH:MM:SSZ', offset);
    return { ...control, attributes: { ...control.attributes, 'data-moment': true } };
  },
  dateTime: (field) => momentInput(field, `${dayForm}T[0-2][0-9]:[0-5][0-9]`, 'YYYY-MM-DDTHH:MM:SS'),
  // A box says yes or no; where neither may be said, a list with an empty option does.
  boolean: (field, say): Control =>
    field.optional
      ? {
          element: 'select',
          attributes: {},
          // Where it must be true, no is no choice.
          options: [
            nothingChosen,
            ['true', say('form.yes')],
            ...(field.facets.must === true ? [] : [['false', say('form.no')] as const]),
          ],
        }
      : {
          element: 'checkbox',
          attributes: {
            type: 'checkbox',
            ...(field.facets.must === true ? { required: true as const } : {}),
            value: 'true',
          },
        },
  record: () => group,
  list: () => group,
  reference: (field, say) => controlOf({ ...valueField(field), optional: field.optional }, say),
};

const dayForm = '[0-9]{4}-[0-9]{2}-[0-9]{2}';
/** Controls in a frame of their own. */
const group: Control = { element: 'fieldset', attributes: {} };

/** The control of a field that is no reference to be chosen from a list. Its words are English unless told. */
export function controlOf(field: KnownField, say: Say = inEnglish): Control {
  return types[field.kind](field, say);
}

/** A list of what a reference can lead to, by the texts that name it to a person. */
export function selectOf(field: KnownField, options: readonly (readonly [string | number, string])[]): Control {
  const listed = options.map(([key, called]) => [String(key), called] as const);
  return { element: 'select', attributes: requiredOf(field), options: [nothingChosen, ...listed] };
}

/** The control of times without seconds sends `HH:MM` in every browser. */
function timeInput(field: KnownField): Control {
  const limits = Object.entries(field.facets).filter(([name]) => name === 'min' || name === 'max');
  const attributes = Object.fromEntries(limits.map(([name, value]) => [name, String(value)]));
  return { element: 'input', attributes: { type: 'time', ...requiredOf(field), ...stepOf(field), ...attributes } };
}

/** Steps are counted from the minimum, and without one from the value that is shown: midnight is the minimum then. */
function stepOf(field: KnownField): { readonly [attribute: string]: string } {
  const { step, min = '00:00' } = field.facets;
  if (typeof step !== 'string' || steppedTime(field, String(min)) !== min) return {};
  return { min: String(min), step: String(stepSeconds(field)) };
}

/** A text control: one for moments shows no seconds, and sends another spelling in each browser. */
function momentInput(field: KnownField, start: string, title: string, end = ''): Control {
  const digits = fractionOf(field);
  const fraction = digits === 0 ? '' : `(?:\\.[0-9]{1,${digits}})?`;
  const pattern = `${start}(?::[0-5][0-9]${fraction})?${end}`;
  return { element: 'input', attributes: { type: 'text', ...requiredOf(field), pattern, title } };
}

function textInput(field: KnownField, say: Say, more: { readonly [attribute: string]: string } = {}): Control {
  const { attribute: pattern, sample } = textPattern(field);
  const shown = sample === null ? [] : [say('hint.sample', sample)];
  const title = [...shown, ...lengthWords(field, say)].join('. ');
  return {
    element: 'input',
    attributes: {
      type: 'text',
      ...more,
      ...requiredOf(field),
      pattern,
      ...(title === '' ? {} : { title }),
    },
  };
}

/** `pattern` does not apply to it. A minimum in UTF-16 units is looser than the rule, but refuses blanks that are absent. */
function textarea(field: KnownField, say: Say): Control {
  const { minLength } = field.facets;
  const least: { [name: string]: string } = {};
  if (!field.optional && typeof minLength === 'number') least.minlength = String(minLength);
  const [title] = lengthWords(field, say);
  return {
    element: 'textarea',
    attributes: { ...requiredOf(field), ...least, ...(title === undefined ? {} : { title }) },
  };
}

function lengthWords({ facets }: KnownField, say: Say): readonly string[] {
  const { minLength, maxLength } = facets;
  if (typeof minLength !== 'number' && typeof maxLength !== 'number') return [];
  return [limits('hint.characters', minLength ?? undefined, maxLength ?? undefined, say)];
}

function limits(key: string, least: unknown, most: unknown, say: Say): string {
  const [has, hasMost] = [least !== undefined && least !== null, most !== undefined && most !== null];
  if (has && hasMost) return say(`${key}.between`, String(most), String(least));
  if (has) return say(`${key}.least`, String(least));
  return hasMost ? say(`${key}.most`, String(most)) : say(key);
}
