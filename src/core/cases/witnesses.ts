import type { Constraint, Row } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import type { Wish } from '../reason/index.js';
import { type Context, carried, type Draft } from './context.js';

/**
 * Records that are worked out for rules which no other criterion gave a case that breaks them, or one that keeps them: of
 * those that keep all other rules where there are any, else of all that there are.
 *
 * @param broken the rules that some case breaks
 */
export function witnesses(context: Context, broken: ReadonlySet<string>): readonly Draft[] {
  const { model } = context;
  return model.constraints.flatMap((rule): readonly Draft[] => {
    const isServed = rule.enforcedIn.some((enforcer) => enforcer !== 'client');
    if (isLookup(rule.predicate) || broken.has(rule.id) || !isServed || !isSentTo(rule, context)) return [];
    const row = witness(context, rule, { breaks: rule });
    if (row === null) return [];
    const before = context.targets(row);
    return (['json', 'row'] as const).map((wire) => ({
      constraint: rule.id,
      reason: 'a record that is worked out to break the rule',
      wire,
      input: carried(context, row, wire),
      before,
    }));
  });
}

/** True for a rule over fields that somebody sends; the record's own rules have cases by their criteria. */
function isSentTo({ owner, facet, subjects }: Constraint, { model }: Context): boolean {
  const paths = facet && owner !== '' ? [owner] : subjects;
  const tops = paths.map((path) => model.fields[path.split(/[.[]/)[0] ?? '']);
  return tops.length > 0 && tops.every((field) => field?.generated === null || field?.derivation != null);
}

function witness({ model, reasoner }: Context, rule: Constraint, wish: Wish): Row | null {
  const others = model.constraints.filter((one) => one !== rule && !isLookup(one.predicate));
  for (const kept of [others, []]) {
    const found = reasoner.decide(kept, wish);
    if (found.is === 'possible') return found.example.row;
  }
  return null;
}
