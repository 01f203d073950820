import { type Constraint, type Row, valueAt, wires } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { applied, brokenRules, type Context, carried, type Draft } from './context.js';

/**
 * Records that are worked out for rules which no other criterion gave a case that breaks them, or one that keeps them: of
 * those that keep all other rules where there are any, else of all that there are.
 *
 * @param broken the rules that some case breaks; `alone` those of them that some case breaks and nothing else
 */
export function witnesses(
  context: Context,
  { broken, alone }: { readonly broken: ReadonlySet<string>; readonly alone: ReadonlySet<string> },
): readonly Draft[] {
  const { model } = context;
  return model.constraints.flatMap((rule): readonly Draft[] => {
    // Of a rule that is broken beside others, a limit or a pattern is worth a record of its own.
    const isSimple = rule.facet && (rule.predicate.op === 'compare' || rule.predicate.op === 'matches');
    if (broken.has(rule.id) && !isSimple) return [];
    const isServed = rule.enforcedIn.some((enforcer) => enforcer !== 'client');
    if (isLookup(rule.predicate) || alone.has(rule.id) || !isServed || !isSentTo(rule, context)) return [];
    const example = witness(context, rule, broken.has(rule.id));
    if (example === null) return [];
    // The base with its values, where that breaks nothing else.
    const paths = rule.subjects.filter((path) => !path.includes('[]'));
    const values = Object.fromEntries(paths.map((path) => [path, valueAt(example, path)]));
    const likely = context.settle(applied(context.base, values), paths, rule.id);
    const row = brokenRules(context, likely).join() === rule.id ? likely : example;
    const before = context.targets(row);
    return wires.map((wire) => ({
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

/** @param isBroken other cases break it, together with others: then only a record that breaks nothing else adds to them */
function witness({ model, reasoner }: Context, rule: Constraint, isBroken: boolean): Row | null {
  const others = model.constraints.filter((one) => one !== rule && !isLookup(one.predicate));
  for (const kept of isBroken ? [others] : [others, []]) {
    const found = reasoner.decide(kept, { breaks: rule });
    if (found.is === 'possible') return found.example.row;
  }
  return null;
}
