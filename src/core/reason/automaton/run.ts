import { includes } from '../pattern/ranges.js';
import type { Automaton, Move } from './build.js';

/** True where the automaton accepts the whole text. */
export function accepts(automaton: Automaton, text: string): boolean {
  let state = automaton.states[0];
  for (const character of text) {
    const move = moveOn(state?.moves ?? [], character.codePointAt(0) ?? 0);
    if (move === null) return false;
    state = automaton.states[move.to];
  }
  return state?.accepts ?? false;
}

/** The move that is made on a character; null where there is none. */
export function moveOn(moves: readonly Move[], point: number): Move | null {
  for (const move of moves) if (includes(move.on, point)) return move;
  return null;
}
