import type { Place } from '../../model/index.js';
import type { Problem } from '../problem.js';

export type Make = (place: Place | null, ...parameters: string[]) => Problem;

/** Fixes the code and leaves the words: each entry gives what is wrong and how to mend it. */
export function entry(
  code: string,
  words: (...parameters: string[]) => readonly [message: string, mend: string],
): Make {
  return (place, ...parameters) => {
    const [message, mend] = words(...parameters);
    return { code, place, message, mend };
  };
}
