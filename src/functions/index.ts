import type { Schema } from '../core/declare/index.js';
import { type Problem, problems } from '../core/messages/index.js';
import type { Place } from '../core/model/index.js';
import { functionText } from '../core/targets/index.js';
import { freeNames } from './free-names.js';

/** The line, from a place on, that has a name in it; null where that is not known. */
export type LineOf = (place: Place, name: string) => number | null;

/**
 * What is wrong with the functions of custom rules: a compiled module holds their text alone, so that each must need
 * nothing from around it.
 *
 * @param lineOf finds where a rule uses a name, for the place of a problem; by the function's text where it does not
 */
export function functionProblems(schema: Schema, lineOf: LineOf = () => null): readonly Problem[] {
  return schema.flatMap(({ ruleset, constraints, functions }) =>
    constraints.flatMap(({ id, place, predicate }): readonly Problem[] => {
      const names = namesIn(predicate);
      return names.flatMap((name) => {
        const own = Object.hasOwn(functions, name) ? functions[name] : undefined;
        if (own === undefined) return [];
        return problemsOf(functionText(own), id.slice(ruleset.length + 1), place, lineOf);
      });
    }),
  );
}

function problemsOf(text: string, rule: string, place: Place, lineOf: LineOf): readonly Problem[] {
  try {
    const free = freeNames(text);
    const [first] = free;
    if (first === undefined) return [];
    const at = { ...place, line: lineOf(place, first.name) ?? place.line + first.line - 1 };
    const named = [...new Set(free.map(({ name }) => `"${name}"`))];
    return [problems.functionOutside(at, rule, named.join(', '))];
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return [problems.functionUnread(place, rule, 'its text is no function that can be written elsewhere')];
  }
}

/** The functions that a predicate calls, at any depth. */
function namesIn(part: unknown): readonly string[] {
  if (typeof part !== 'object' || part === null) return [];
  const { op, name } = part as { readonly op?: unknown; readonly name?: unknown };
  const own = op === 'custom' ? [String(name)] : [];
  return [...own, ...Object.values(part).flatMap(namesIn)];
}
