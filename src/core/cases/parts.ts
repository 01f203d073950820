import { judgingFor } from '../meaning/index.js';
import { type Constraint, type Predicate, type Row, valueAt } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import type { Wish } from '../reason/index.js';
import { caseClock } from './clock.js';
import { applied, brokenRules, type Context, carried, type Draft } from './context.js';
import { combinations } from './rules.js';

/**
 * Records that show each part of a rule of several, where no combination of plausible values does: the rule comes out
 * otherwise without that part. Where every such record breaks other rules, one that does.
 */
export function partsShown(context: Context, rule: Constraint): readonly Draft[] {
  return partsOf(rule.predicate).flatMap((without, at): readonly Draft[] => {
    const differs = (row: Row) => isBroken(context, rule.predicate, row) !== isBroken(context, without, row);
    const isShown = combinations(context, rule).some((values) => {
      const row = applied(context.base, values);
      return differs(row) && brokenRules(context, row).every((id) => id === rule.id);
    });
    const example = isShown ? null : workedOut(context, rule, without);
    if (example === null) return [];
    // The plausible record with its values, where that shows it too.
    const values = rule.subjects.map((path) => [path, valueAt(example, path)] as const);
    const likely = context.settle(applied(context.base, Object.fromEntries(values)), rule.subjects, rule.id);
    const row = [likely, example].find(differs);
    if (row === undefined) return [];
    const reason = `part ${at + 1} of the rule decides`;
    const before = context.targets(row);
    return (['json', 'row'] as const).map((wire) => ({
      constraint: rule.id,
      reason,
      wire,
      input: carried(context, row, wire),
      before,
    }));
  });
}

/** What is left of a rule without each of its parts in turn. */
function partsOf(predicate: Predicate): readonly Predicate[] {
  if (predicate.op !== 'and' && predicate.op !== 'or') return [];
  const parts = predicate.op === 'and' ? predicate.all : predicate.any;
  return parts.map((part): Predicate => {
    const rest = parts.filter((one) => one !== part);
    return predicate.op === 'and' ? { op: 'and', all: rest } : { op: 'or', any: rest };
  });
}

function isBroken({ model }: Context, predicate: Predicate, row: Row): boolean {
  return judgingFor(model, row, caseClock(model)).truth(predicate) === false;
}

/** A record on which a rule and another predicate differ; null where none was found. */
function workedOut({ model, reasoner }: Context, rule: Constraint, without: Predicate): Row | null {
  const others = model.constraints.filter((one) => one !== rule && !isLookup(one.predicate));
  const [stricter, looser] = rule.predicate.op === 'and' ? [rule.predicate, without] : [without, rule.predicate];
  for (const kept of [others, []])
    for (const is of ['true', 'unknown'] as const) {
      const together: readonly Wish[] = [
        { predicate: stricter, is: 'false' },
        { predicate: looser, is },
      ];
      const found = reasoner.decide(kept, { together });
      if (found.is === 'possible') return found.example.row;
    }
  return null;
}
