import { kindOf, valueField } from '../../kinds/index.js';
import { type Comparator, exactOf, type Path, type Pattern, type Term } from '../../model/index.js';
import type { Lengths } from '../automaton/index.js';
import type { PatternTree } from '../pattern/index.js';
import { canonicalTrees, lengthsCompared } from '../text/sets.js';
import { all, type Formula, type Key, negated, present } from './formula.js';
import { keyOf, known, type Lowering, type Truths } from './lower.js';

/** A comparison of a text's length with a number, which is one of a set of lengths; null for any other. */
export function lengthCompared(left: Term, by: Comparator, right: Term, lowering: Lowering): Truths | null {
  if (left.term !== 'length' || right.term !== 'literal') return null;
  const limit = exactOf(right.value);
  if (limit === null) return null;
  const of = keyOf(left.of, lowering);
  return known(present(of), { is: 'length', of, lengths: lengthsCompared(by, limit) });
}

/** That a text fits a pattern; null where the pattern is none that automata can hold. */
export function matching(key: Key, pattern: Pattern, lowering: Lowering): Formula | null {
  const parts = lowering.languages.partsOf(pattern);
  if (typeof parts === 'string') return null;
  const id = `/${pattern.source}/${pattern.flags}`;
  return all(
    ...parts.map(({ tree, fits }, at) => {
      const formula = inTree(key, `${id}#${at}`, tree, lowering);
      return fits ? formula : negated(formula);
    }),
  );
}

/** More repeats than this of one set of characters are counted beside the automaton. */
const FEW_REPEATS = 64;

/** That a text is in the language of a tree. */
export function inTree(of: Key, id: string, tree: PatternTree, { languages }: Lowering): Formula {
  const [inner] = 'sequence' in tree && tree.sequence.length === 1 ? tree.sequence : [tree];
  const counted = inner !== undefined && 'repeat' in inner && 'one' in inner.repeat ? inner : null;
  if (
    counted !== null &&
    Math.max(counted.from, counted.to === Number.POSITIVE_INFINITY ? 0 : counted.to) > FEW_REPEATS
  ) {
    const lengths: Lengths = [[counted.from, counted.to]];
    const set = languages.ofTree(`${id} in any number`, { ...counted, from: 0, to: Number.POSITIVE_INFINITY });
    return all({ is: 'within', of, set, yes: true }, { is: 'length', of, lengths });
  }
  return { is: 'within', of, set: languages.ofTree(id, tree), yes: true };
}

/** What canonical text looks like: nothing that canonicalising would change. */
export function canonical(of: Path, lowering: Lowering): Truths {
  const sets = kindOf(valueField(lowering.space.field(of))).blankIsAbsent ? canonicalSets(of, lowering) : [];
  return known(present(of), all(...sets));
}

function canonicalSets(of: Path, { space, languages }: Lowering): readonly Formula[] {
  return canonicalTrees(valueField(space.field(of)).facets).map(([id, tree]) => ({
    is: 'within',
    of,
    set: languages.ofTree(id, tree),
    yes: true,
  }));
}
