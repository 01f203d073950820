import type { Place } from '../../model/index.js';
import type { Problem } from '../problem.js';

export type Make = (place: Place | null, ...parameters: string[]) => Problem;

/** Fixes the code and leaves the words: each entry gives the problem and the fix. */
export function entry(code: string, words: (...parameters: string[]) => readonly [message: string, fix: string]): Make {
  return (place, ...parameters) => {
    const [message, fix] = words(...parameters);
    return { code, place, message, mend: fix };
  };
}
