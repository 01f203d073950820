import {
  choicesOf,
  firstDate,
  fractionOf,
  type KnownField,
  lastDate,
  type PerKind,
  scaleOf,
  valueField,
} from '../../kinds/index.js';
import { textPattern } from './predicates.js';
import { rangePattern } from './range.js';

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
const types: PerKind<(field: KnownField) => Control> = {
  text: (field) => (field.facets.lines === 'many' ? textarea(field) : textInput(field)),
  email: (field) => textInput(field, { inputmode: 'email' }),
  url: (field) => textInput(field, { inputmode: 'url' }),
  uuid: (field) => textInput(field),
  ip: (field) => textInput(field),
  integer: (field) => {
    const least = typeof field.facets.min === 'number' ? field.facets.min : Number.MIN_SAFE_INTEGER;
    const most = typeof field.facets.max === 'number' ? field.facets.max : Number.MAX_SAFE_INTEGER;
    const pattern = rangePattern(least, most);
    const title = `A whole number${limits(field.facets.min, field.facets.max)}`;
    return {
      element: 'input',
      attributes: { type: 'text', inputmode: 'numeric', ...requiredOf(field), pattern, title },
    };
  },
  decimal: (field) => {
    const digits = Number(field.facets.precision) - scaleOf(field);
    const scale = scaleOf(field);
    const whole = digits === 0 ? '0' : `(?:0|[1-9][0-9]{0,${digits - 1}})`;
    const pattern = `-?${whole}${scale === 0 ? '' : `(?:\\.[0-9]{1,${scale}}0*)?`}`;
    const title = `A number${limits(field.facets.min, field.facets.max)}`;
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
  time: (field) => momentInput(field, '[0-2][0-9]:[0-5][0-9]', 'HH:MM:SS'),
  // The page's own offset is not known here: a text control takes what it is given.
  timestamp: (field) =>
    momentInput(field, `${dayForm}T[0-2][0-9]:[0-5][0-9]`, 'YYYY-MM-DDTHH:MM:SSZ', '(?:Z|[+\\-][0-2][0-9]:[0-5][0-9])'),
  dateTime: (field) => momentInput(field, `${dayForm}T[0-2][0-9]:[0-5][0-9]`, 'YYYY-MM-DDTHH:MM:SS'),
  // A box says yes or no; where neither may be said, a list with an empty option does.
  boolean: (field): Control =>
    field.optional
      ? { element: 'select', attributes: {}, options: [nothingChosen, ['true', 'Yes'], ['false', 'No']] }
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
  reference: (field) => controlOf({ ...valueField(field), optional: field.optional }),
};

const dayForm = '[0-9]{4}-[0-9]{2}-[0-9]{2}';
/** Controls in a frame of their own. */
const group: Control = { element: 'fieldset', attributes: {} };

export function controlOf(field: KnownField): Control {
  return types[field.kind](field);
}

/** A text control: one for moments shows no seconds, and sends another spelling in each browser. */
function momentInput(field: KnownField, start: string, title: string, end = ''): Control {
  const digits = fractionOf(field);
  const fraction = digits === 0 ? '' : `(?:\\.[0-9]{1,${digits}})?`;
  const pattern = `${start}(?::[0-5][0-9]${fraction})?${end}`;
  return { element: 'input', attributes: { type: 'text', ...requiredOf(field), pattern, title } };
}

function textInput(field: KnownField, more: { readonly inputmode?: string } = {}): Control {
  const { attribute: pattern, sample } = textPattern(field);
  const { minLength, maxLength } = field.facets;
  const counted = typeof minLength === 'number' || typeof maxLength === 'number';
  const lengths = counted ? [lengthWords(minLength, maxLength)] : [];
  const title = [...(sample === null ? [] : [`such as ${sample}`]), ...lengths].join(', ').trim();
  return {
    element: 'input',
    attributes: {
      type: 'text',
      ...more,
      ...requiredOf(field),
      pattern,
      ...(title === '' ? {} : { title: capitalised(title) }),
    },
  };
}

/** `pattern` does not apply to it. A minimum in UTF-16 units is looser than the rule, but refuses blanks that are absent. */
function textarea(field: KnownField): Control {
  const { minLength } = field.facets;
  const least: { [name: string]: string } = {};
  if (!field.optional && typeof minLength === 'number') least.minlength = String(minLength);
  return { element: 'textarea', attributes: { ...requiredOf(field), ...least } };
}

function limits(least: unknown, most: unknown): string {
  if (least !== undefined && most !== undefined) return ` from ${least} to ${most}`;
  if (least !== undefined) return ` of ${least} or more`;
  return most !== undefined ? ` of at most ${most}` : '';
}

function capitalised(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

function lengthWords(least: unknown, most: unknown): string {
  if (typeof least === 'number' && typeof most === 'number') return `${least} to ${most} characters`;
  return typeof least === 'number' ? `at least ${least} characters` : `at most ${most} characters`;
}
