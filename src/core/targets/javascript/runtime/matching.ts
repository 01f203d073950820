import { type Helpers, helper } from './piece.js';

/** Patterns that a backtracking matcher might not get done with: one step a character, whatever the text. */
export const matching: Helpers = {
  classAt: helper(`/** The class of a character: that of the stretch that it stands in. */
function classAt(starts, classes, point) {
  let low = 0;
  let high = starts.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (starts[middle] <= point) low = middle + 1;
    else high = middle;
  }
  return low === 0 ? -1 : classes[low - 1];
}`),
  tableMatcher: helper(
    `/** A pattern as a table: the next state by state and class of characters. */
function tableMatcher(starts, classes, next, accepting) {
  const ends = new Set(accepting);
  const test = (text) => {
    let state = 0;
    for (const character of text) {
      state = next[state][classAt(starts, classes, character.codePointAt(0))] ?? -1;
      if (state === -1) return false;
    }
    return ends.has(state);
  };
  return { test };
}`,
    'classAt',
  ),
  followMatcher: helper(
    `/** A pattern as the positions of its characters, all followed at once; \`counts\` are of those that repeat. */
function followMatcher(starts, classes, characters, first, follow, last, isNullable, counts) {
  const ends = new Set(last);
  const sets = characters.map((of) => new Set(of));
  const test = (text) => {
    if (text === '') return isNullable;
    // When each position was entered, the oldest first; what stands before \`head\` does not count any more.
    let entered = new Map();
    let at = 0;
    for (const character of text) {
      const kind = classAt(starts, classes, character.codePointAt(0));
      const next = new Map();
      const enter = (position) => {
        if (!sets[position].has(kind)) return;
        const times = next.get(position) ?? { list: [], head: 0, leaves: false };
        if (times.list.at(-1) !== at) times.list.push(at);
        next.set(position, times);
      };
      const left = [];
      for (const [position, times] of entered) {
        if (times.leaves) left.push(position);
        const most = counts[position]?.[1] ?? 1;
        if (most === 1 || !sets[position].has(kind)) continue;
        while (times.head < times.list.length && at - times.list[times.head] >= most) times.head += 1;
        if (times.head < times.list.length) next.set(position, times);
      }
      if (at === 0) for (const position of first) enter(position);
      for (const position of left) for (const to of follow[position]) enter(to);
      at += 1;
      for (const [position, times] of next) times.leaves = at - times.list[times.head] >= (counts[position]?.[0] ?? 1);
      if (next.size === 0) return false;
      entered = next;
    }
    for (const [position, times] of entered) if (times.leaves && ends.has(position)) return true;
    return false;
  };
  return { test };
}`,
    'classAt',
  ),
};
