import { isTextual, type KnownField, valueField } from '../kinds/index.js';
import type { Pattern, Predicate } from '../model/index.js';
import { type Lengths, shortestLength, wordOfLength } from '../reason/index.js';
import type { Context } from './context.js';
import type { Grammars } from './grammars.js';
import { conditionsOf } from './sides.js';

/** What a field's own patterns say of its texts, the length apart. */
export function patternsOf({ model }: Context, field: KnownField): readonly Pattern[] {
  const patterns = model.constraints.flatMap(({ owner, facet, predicate }) =>
    facet && owner === field.path && predicate.op === 'matches' ? [predicate.pattern] : [],
  );
  const outer: Pattern = { source: '\\S(?:[\\s\\S]*\\S)?', flags: 'u' };
  return [outer, ...patterns];
}

/** The shortest text that all of some patterns take, of one of the lengths; null where there is none. */
export function textWithin(grammars: Grammars, patterns: readonly Pattern[], lengths: Lengths): string | null {
  const all = grammars.together(patterns)?.automaton ?? null;
  const shortest = all === null ? 'none' : shortestLength(all, lengths);
  return typeof shortest === 'object' && all !== null ? wordOfLength(all, shortest.length) : null;
}

/** A text of a field's own grammar of just so many characters; null where there is none. */
export function textOfLength(context: Context, field: KnownField, length: number): string | null {
  if (!isTextual(field)) return null;
  return textWithin(context.grammars, patternsOf(context, field), [[length, length]]);
}

/** Texts of a field's own grammar and length for which what a predicate asks of its text holds, one for each question. */
export function textsHolding(context: Context, field: KnownField, predicate: Predicate): readonly string[] {
  if (!isTextual(field)) return [];
  const asked = conditionsOf(predicate).flatMap((one) => askedOf(field.path, one) ?? []);
  const { minLength, maxLength } = valueField(field).facets;
  const lengths: Lengths = [[Number(minLength ?? 1), Number(maxLength ?? MOST_CHARACTERS)]];
  return asked.flatMap(
    (pattern) => textWithin(context.grammars, [...patternsOf(context, field), pattern], lengths) ?? [],
  );
}

/** Texts longer than this are not looked for. */
const MOST_CHARACTERS = 200;

/** The texts of a field for which a condition holds, as a pattern; null where it asks something else. */
function askedOf(path: string, condition: Predicate): Pattern | null {
  if (condition.op !== 'includes' && condition.op !== 'matches') return null;
  if (condition.of.term !== 'field' || condition.of.path !== path) return null;
  if (condition.op === 'matches') return condition.pattern;
  const { text, where } = condition;
  if (text.term !== 'literal') return null;
  const part = String(text.value).replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&');
  const [before, behind] = [where === 'start' ? '' : '[\\s\\S]*', where === 'end' ? '' : '[\\s\\S]*'];
  return { source: `${before}${part}${behind}`, flags: 'u' };
}
