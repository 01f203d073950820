import type { Ranges } from './ranges.js';

/** A regular expression as a tree of our own: what every target translates from, with classes as code point sets. */
export type PatternTree =
  | { readonly one: Ranges }
  | { readonly sequence: readonly PatternTree[] }
  | { readonly either: readonly PatternTree[] }
  | { readonly repeat: PatternTree; readonly from: number; readonly to: number };

/** More states than this are not built: what would need them is told as not decided. */
export const mostStates = 12_000;

/** Text in no regular language's reach: a construct that would need memory, such as a backreference. */
export class NotRegular extends Error {
  readonly construct: string;

  constructor(construct: string) {
    super(`not a regular construct: ${construct}`);
    this.name = 'NotRegular';
    this.construct = construct;
  }
}

/** A regular construct whose automaton would be larger than the budget allows. */
export class TooLarge extends NotRegular {
  constructor() {
    super(`an automaton of more than ${mostStates} states`);
    this.name = 'TooLarge';
  }
}

/** What is made; or, where no automaton of bearable size holds it, the construct that stands in the way. */
export function orConstruct<T>(make: () => T): T | string {
  try {
    return make();
  } catch (error) {
    if (error instanceof NotRegular) return error.construct;
    throw error;
  }
}
