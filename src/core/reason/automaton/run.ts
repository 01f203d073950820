import { includes } from '../pattern/ranges.js';
import type { Automaton } from './build.js';

/** True where the automaton accepts the whole text. */
export function accepts(automaton: Automaton, text: string): boolean {
  let state = automaton.states[0];
  for (const character of text) {
    const point = character.codePointAt(0) ?? 0;
    const move = state?.moves.find(({ on }) => includes(on, point));
    if (move === undefined) return false;
    state = automaton.states[move.to];
  }
  return state?.accepts ?? false;
}
