import { type Automaton, complement, type PatternTree, type Ranges, sizeOf } from '../../reason/index.js';

/** A pattern becomes at most so many GLOBs; beyond that the automaton is walked. */
const MOST_FORMS = 24;
/** The longest text that a single GLOB spells out character by character. */
const MOST_CHARACTERS = 80;

/** The fixed forms of a pattern: each a class for every character. Null where there are too many, or no end of them. */
export function fixedForms(tree: PatternTree): readonly (readonly Ranges[])[] | null {
  if ('one' in tree) return [[tree.one]];
  if ('either' in tree) return bounded(tree.either.map(fixedForms).reduce(united, []));
  if ('sequence' in tree) return bounded(tree.sequence.map(fixedForms).reduce(crossed, [[]]));
  if (tree.to > MOST_CHARACTERS) return null;
  const one = fixedForms(tree.repeat);
  const times = (count: number) => Array.from({ length: count }, () => one).reduce(crossed, [[]]);
  const counts = Array.from({ length: tree.to - tree.from + 1 }, (_, more) => tree.from + more);
  return counts.length > MOST_FORMS ? null : bounded(counts.map(times).reduce(united, []));
}

type Forms = readonly (readonly Ranges[])[] | null;

function bounded(forms: Forms): Forms {
  const fits = forms?.every((form) => form.length <= MOST_CHARACTERS) === true;
  return fits && forms.length <= MOST_FORMS ? forms : null;
}

function united(a: Forms, b: Forms): Forms {
  return a === null || b === null ? null : bounded([...a, ...b]);
}

function crossed(a: Forms, b: Forms): Forms {
  if (a === null || b === null || a.length * b.length > MOST_FORMS) return null;
  return a.flatMap((head) => b.map((tail) => [...head, ...tail]));
}

/** The fixed forms of an automaton, one for each of its ways. Null where there are too many, or no end of them. */
export function automatonForms({ states }: Automaton): readonly (readonly Ranges[])[] | null {
  const from = (state: number, left: number): Forms => {
    if (left < 0) return null;
    const here = states[state];
    const forms: (readonly Ranges[])[] = here?.accepts === true ? [[]] : [];
    for (const { on, to } of here?.moves ?? []) {
      const rest = from(to, left - 1);
      if (rest === null || forms.length + rest.length > MOST_FORMS) return null;
      for (const form of rest) forms.push([on, ...form]);
    }
    return forms;
  };
  return from(0, MOST_CHARACTERS);
}

/** One GLOB for a fixed form. */
export function globOf(form: readonly Ranges[]): string {
  return form.map((set) => globClass(set, false)).join('');
}

/**
 * One character of a set, or (`negated`) of its complement, in GLOB's syntax, which has no escapes: `]` stands first,
 * `-` last, `^` never first.
 */
export function globClass(set: Ranges, negated: boolean): string {
  if (sizeOf(complement(set)) === 0 && !negated) return '?';
  const outside = complement(set);
  const turned = outside.length < set.length;
  const ranges = turned ? outside : set;
  const not = turned !== negated;
  const [only] = ranges;
  if (!not && sizeOf(ranges) === 1 && only !== undefined) return literal(only[0]);
  const points = ranges.flatMap(([from, to]) => split(from, to));
  const isSingle = (character: string) => points.some(([from, to]) => from === to && from === character.codePointAt(0));
  const plain = points.filter(([from, to]) => from !== to || !/[\]^-]/.test(String.fromCodePoint(from)));
  const body = plain.map(([from, to]) => (from === to ? text(from) : `${text(from)}-${text(to)}`)).join('');
  const closing = isSingle(']') ? ']' : '';
  return `[${not ? '^' : ''}${closing}${body}${isSingle('^') ? '^' : ''}${isSingle('-') ? '-' : ''}]`;
}

/** Takes the characters that mean something in a class out of a range. U+0000 is never in a value. */
function split(from: number, to: number): readonly (readonly [number, number])[] {
  const pieces: [number, number][] = [];
  let next = Math.max(from, 1);
  for (const special of [0x2d, 0x5d, 0x5e]) {
    if (special < next || special > to) continue;
    if (special > next) pieces.push([next, special - 1]);
    pieces.push([special, special]);
    next = special + 1;
  }
  if (next <= to) pieces.push([next, to]);
  return pieces;
}

function text(point: number): string {
  return String.fromCodePoint(point);
}

/** Outside a class only `*`, `?` and `[` mean something; in a class of one they don't. */
function literal(point: number): string {
  return /[*?[]/.test(text(point)) ? `[${text(point)}]` : text(point);
}
