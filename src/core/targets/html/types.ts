import { choicesOf, firstDate, type KnownField, lastDate, type PerKind, valueField } from '../../kinds/index.js';
import { textPattern } from './predicates.js';
import { rangePattern } from './range.js';

/** The control of a field, as data: an element, its attributes, and the options where it has some. */
export interface Control {
  readonly element: 'input' | 'textarea' | 'select' | 'checkbox';
  readonly attributes: { readonly [name: string]: string | true };
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
const types = {
  text: (field) => (field.facets.lines === 'many' ? textarea(field) : textInput(field)),
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
  choice: (field) => ({
    element: 'select',
    attributes: requiredOf(field),
    options: [nothingChosen, ...choicesOf(field)],
  }),
  date: (field) => {
    const min = typeof field.facets.min === 'string' ? field.facets.min : firstDate;
    const max = typeof field.facets.max === 'string' ? field.facets.max : lastDate;
    return { element: 'input', attributes: { type: 'date', ...requiredOf(field), min, max } };
  },
  // A box says yes or no; where neither may be said, a list with an empty option does.
  boolean: (field): Control =>
    field.optional
      ? { element: 'select', attributes: {}, options: [nothingChosen, ['true', 'Yes'], ['false', 'No']] }
      : { element: 'checkbox', attributes: { type: 'checkbox', value: 'true' } },
  reference: (field) => controlOf(valueField(field)),
} satisfies PerKind<(field: KnownField) => Control>;

export function controlOf(field: KnownField): Control {
  return types[field.kind](field);
}

function textInput(field: KnownField): Control {
  const { attribute: pattern, sample } = textPattern(field);
  const { minLength, maxLength } = field.facets;
  const counted = typeof minLength === 'number' || typeof maxLength === 'number';
  const lengths = counted ? [lengthWords(minLength, maxLength)] : [];
  const title = [...(sample === null ? [] : [`such as ${sample}`]), ...lengths].join(', ').trim();
  return {
    element: 'input',
    attributes: { type: 'text', ...requiredOf(field), pattern, ...(title === '' ? {} : { title: capitalised(title) }) },
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
