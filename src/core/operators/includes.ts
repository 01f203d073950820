import type { Operator } from './operator.js';

const holds = {
  anywhere: (text: string, part: string) => text.includes(part),
  start: (text: string, part: string) => text.startsWith(part),
  end: (text: string, part: string) => text.endsWith(part),
} as const;

/** One text is within another, by code point; unknown where either is absent. */
export const includes: Operator<'includes'> = {
  mentions: ({ of, text }, inside) => [...inside.term(of), ...inside.term(text)],
  judge({ of, text, where }, judging) {
    const [whole, part] = [judging.term(of), judging.term(text)];
    return whole === null || part === null ? null : holds[where](String(whole), String(part));
  },
};
