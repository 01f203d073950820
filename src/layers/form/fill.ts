import { isRealDate } from '../../core/kinds/index.js';
import type { Control } from './controls.js';

/** What a control holds once a person has put a value into it; or why the value can't be put there. */
export type Filled = { readonly holds: string; readonly sends: string | null } | { readonly cannotHold: string };

/** A time as the HTML standard defines a valid one. */
export const TIME = /^(?:[01][0-9]|2[0-3]):[0-5][0-9](?::[0-5][0-9](?:\.[0-9]{1,3})?)?$/;

/** True where a time control's steps are not whole minutes. */
export function showsSeconds(step: string | undefined): boolean {
  if (step === undefined || !NUMBER.test(step)) return step?.toLowerCase() === 'any';
  return Number(step) > 0 && Number(step) % 60 !== 0;
}

/** A floating-point number as the HTML standard defines a valid one. */
export const NUMBER = /^-?(?:[0-9]+|[0-9]*\.[0-9]+)(?:[eE][+-]?[0-9]+)?$/;

/**
 * Puts a text into a control by the HTML standard's rules for its type. An empty text clears it. `sends` is the entry
 * that submitting sends, or null for none.
 */
export function fill(control: Control, text: string): Filled {
  if (/\p{Surrogate}/u.test(text)) return { cannotHold: 'a lone surrogate is no character that can be typed' };
  const filler = fillers[control.type];
  return filler === undefined
    ? { cannotHold: `a ${control.type} control is not judged by its attributes` }
    : filler(control, text);
}

function held(text: string): Filled {
  return { holds: text, sends: text };
}

/** One-line controls drop line ends, so a text with one can't be in them. */
function fillText(_control: Control, text: string): Filled {
  return /[\n\r]/.test(text) ? { cannotHold: 'a control of one line holds no line ends' } : held(text);
}

function stripped(_control: Control, text: string): Filled {
  const inner = text.replace(/^[\t\n\f\r ]+|[\t\n\f\r ]+$/g, '');
  return /[\n\r]/.test(inner) ? { cannotHold: 'a control of one line holds no line ends' } : held(inner);
}

function formatted(fits: (text: string) => boolean, what: string) {
  return (_control: Control, text: string): Filled =>
    text === '' || fits(text) ? held(text) : { cannotHold: `a ${what} control holds nothing else` };
}

const fillers: { readonly [type: string]: (control: Control, text: string) => Filled } = {
  text: fillText,
  search: fillText,
  tel: fillText,
  password: fillText,
  email: stripped,
  url: stripped,
  number: formatted((text) => NUMBER.test(text) && Number.isFinite(Number(text)), 'number'),
  date: formatted(isRealDate, 'date'),
  // Seconds are shown, and so can be given, only where the steps are not whole minutes.
  time: (control, text) => {
    if (text !== '' && !TIME.test(text)) return { cannotHold: 'a time control holds nothing else' };
    const hidden = text.length > 5 && !showsSeconds(control.attributes.get('step'));
    return hidden ? { cannotHold: 'a time control of whole minutes shows no seconds' } : held(text);
  },
  // The value keeps line feeds only; submitting sends CRLF for each.
  textarea: (_control, text) => {
    const value = text.replace(/\r\n?/g, '\n');
    return { holds: value, sends: value.replaceAll('\n', '\r\n') };
  },
  // Without a choice the first option that is not disabled is selected, and sent.
  select: ({ options }, text) => {
    const chosen = options.find(({ value, disabled }) => value === text && !disabled);
    if (chosen !== undefined) return held(chosen.value);
    if (text !== '') return { cannotHold: 'the list has no such option' };
    const first = options.find(({ disabled }) => !disabled);
    return { holds: first?.value ?? '', sends: first?.value ?? null };
  },
  checkbox: ({ attributes }, text) => {
    const value = attributes.get('value') ?? 'on';
    if (text === '' || text === 'false') return { holds: '', sends: null };
    const ticked = text === 'true' || text === 'on' || text === value;
    return ticked ? { holds: value, sends: value } : { cannotHold: 'a box is ticked or not' };
  },
  hidden: ({ attributes }) => held(attributes.get('value') ?? ''),
};
