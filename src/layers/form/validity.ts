import type { Control } from './controls.js';
import { NUMBER, TIME } from './fill.js';

const TEXT_TYPES = ['text', 'search', 'tel', 'url', 'email', 'password'];
const LENGTH_TYPES = [...TEXT_TYPES, 'textarea'];

/** The HTML standard's e-mail address. */
const EMAIL =
  /^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*$/;

/**
 * Which of the HTML standard's constraints a control suffers from with what it holds; null where it is valid. Lengths
 * are judged as for a value that was typed.
 */
export function suffersFrom(control: Control, holds: string): string | null {
  if (control.type === 'hidden' || control.attributes.has('readonly')) return null;
  if (holds === '') return isMissing(control) ? 'valueMissing' : null;
  const found = checks.find(([, broken]) => broken(control, holds));
  return found?.[0] ?? null;
}

/** A list is missing a value only where its first option is the empty one. */
function isMissing({ type, attributes, options }: Control): boolean {
  return attributes.has('required') && (type !== 'select' || options[0]?.value === '');
}

const checks: readonly (readonly [name: string, broken: (control: Control, holds: string) => boolean])[] = [
  [
    'typeMismatch',
    ({ type }, holds) => (type === 'email' && !EMAIL.test(holds)) || (type === 'url' && !URL.canParse(holds)),
  ],
  ['patternMismatch', patternMismatch],
  [
    'tooLong',
    (control, holds) => LENGTH_TYPES.includes(control.type) && holds.length > count(control, 'maxlength', Infinity),
  ],
  [
    'tooShort',
    (control, holds) => LENGTH_TYPES.includes(control.type) && holds.length < count(control, 'minlength', 0),
  ],
  ['rangeUnderflow', (control, holds) => !isReversed(control) && compared(control, holds, 'min') < 0],
  ['rangeOverflow', (control, holds) => !isReversed(control) && compared(control, holds, 'max') > 0],
  [
    'rangeUnderflow',
    (control, holds) =>
      isReversed(control) && compared(control, holds, 'min') < 0 && compared(control, holds, 'max') > 0,
  ],
  ['stepMismatch', stepMismatch],
];

/** Compiled under flag v, anchored at both ends; one that does not compile is ignored. */
function patternMismatch({ type, attributes }: Control, holds: string): boolean {
  const source = attributes.get('pattern');
  if (source === undefined || !TEXT_TYPES.includes(type)) return false;
  try {
    new RegExp(source, 'v');
    return !new RegExp(`^(?:${source})$`, 'v').test(holds);
  } catch {
    return false;
  }
}

/** A non-negative integer by the standard's parsing rules; a malformed one is no limit. */
function count({ attributes }: Control, name: string, without: number): number {
  const digits = /^[\t\n\f\r ]*\+?([0-9]+)/.exec(attributes.get(name) ?? '')?.[1];
  return digits === undefined ? without : Number(digits);
}

/** The sign of the value beside a limit of the control's own type; 0 where there is no such limit. */
function compared({ type, attributes }: Control, holds: string, limit: 'min' | 'max'): number {
  const bound = attributes.get(limit);
  if (bound === undefined) return 0;
  if (type === 'number') return NUMBER.test(bound) ? Number(holds) - Number(bound) : 0;
  if (type === 'time') return TIME.test(bound) ? millisecondsOf(holds) - millisecondsOf(bound) : 0;
  return type === 'date' && /^[0-9]{4,}-[0-9]{2}-[0-9]{2}$/.test(bound)
    ? Number(holds > bound) - Number(holds < bound)
    : 0;
}

/** Times go round: a minimum after the maximum allows the times from it past midnight to the maximum. */
function isReversed({ type, attributes }: Control): boolean {
  const [min = '', max = ''] = [attributes.get('min'), attributes.get('max')];
  return type === 'time' && TIME.test(min) && TIME.test(max) && millisecondsOf(min) > millisecondsOf(max);
}

function millisecondsOf(time: string): number {
  const [hours, minutes, seconds = 0] = time.split(':').map(Number);
  return Math.round(((hours ?? 0) * 3600 + (minutes ?? 0) * 60 + seconds) * 1000);
}

/** Of a time: whole steps of a minute from `min` or midnight, unless `step` gives other seconds. */
function timeStepMismatch({ attributes }: Control, holds: string, step: string | undefined): boolean {
  const size = step !== undefined && NUMBER.test(step) && Number(step) > 0 ? Number(step) : 60;
  const min = attributes.get('min') ?? '';
  return (millisecondsOf(holds) - (TIME.test(min) ? millisecondsOf(min) : 0)) % Math.round(size * 1000) !== 0;
}

/** Of a number: whole steps of 1 from `min`, unless `step` says otherwise. */
function stepMismatch(control: Control, holds: string): boolean {
  const { type, attributes } = control;
  const step = attributes.get('step')?.toLowerCase();
  if (type === 'time' && step !== 'any') return timeStepMismatch(control, holds, step);
  if (type !== 'number' || step === 'any') return false;
  const size = step !== undefined && NUMBER.test(step) && Number(step) > 0 ? Number(step) : 1;
  const min = attributes.get('min') ?? attributes.get('value') ?? '0';
  const steps = (Number(holds) - (NUMBER.test(min) ? Number(min) : 0)) / size;
  return Math.abs(steps - Math.round(steps)) > 5e-8;
}
