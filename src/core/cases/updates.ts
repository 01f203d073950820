import { isTrimmed } from '../kinds/index.js';
import { encode } from '../meaning/index.js';
import {
  type Constraint,
  listsOf,
  type Path,
  type Row,
  spread,
  type Value,
  valueAt,
  withValue,
} from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { distinct } from './base.js';
import { applied, brokenRules, type Context, type Criterion, carried, type Draft, facetOf } from './context.js';
import { outcomeRows } from './item-rules.js';
import { listFields, singleFields } from './places.js';
import { combinations } from './rules.js';
import { isAboutEntries } from './sides.js';
import { withTargets } from './targets.js';

/**
 * A stored record that is changed: sent back as it is, which changes nothing and repeats nothing; partial updates of one
 * field, which say nothing of the others; and those that break a rule over several fields through the stored half.
 */
export const updates: Criterion = (context) => [
  ...sentBack(context),
  ...secretKept(context),
  ...singleChanges(context),
  ...listChanges(context),
  ...takenValues(context),
  ...throughStored(context),
];

/** A form shows no secret that is stored: blank, it says that the secret stays. */
function secretKept(context: Context): readonly Draft[] {
  const { model, base } = context;
  const secrets = Object.values(model.fields).filter(
    ({ concealed, enforcedIn }) => concealed && enforcedIn.includes('server'),
  );
  return secrets.map(
    ({ name }): Draft => ({
      constraint: facetOf(context, name, 'required'),
      reason: 'a form with a blank secret, which stays as it is stored',
      wire: 'form',
      input: { ...encode(model, base, 'form'), [name]: '' },
      does: 'patch',
      existing: base,
    }),
  );
}

function sentBack(context: Context): readonly Draft[] {
  const { model, base } = context;
  const constraint = `${model.ruleset}.type`;
  const existing = base;
  const back = (wire: 'form' | 'json' | 'row', reason: string): Draft => ({
    constraint,
    reason,
    wire,
    input: wire === 'row' ? base : encode(model, base, wire),
    does: 'replace',
    existing,
  });
  const patch = (reason: string, input: unknown, stored: Row = existing): Draft => ({
    constraint,
    reason,
    wire: 'json',
    input,
    does: 'patch',
    existing: stored,
  });
  const optional = singleFields(model).filter((field) => field.optional);
  const fewest = applied(base, Object.fromEntries(optional.map(({ path }) => [path, null])));
  const isFewest = optional.length > 0 && brokenRules(context, fewest).length === 0;
  return [
    back('form', 'a stored record, opened for editing and sent back unchanged'),
    back('json', 'a stored record sent back unchanged'),
    back('row', 'a stored record written back unchanged'),
    patch('a partial update that sends nothing', {}),
    patch('a partial update that sends everything as it is', encode(model, base, 'json')),
    ...(isFewest ? leftOut(context, fewest) : []),
    ...(isFewest ? [patch('a partial update that sends nothing, over absent values', {}, fewest)] : []),
    { ...patch('', { surprise: 'x' }), constraint: `${model.ruleset}.keys`, reason: 'a key that is not declared' },
  ];
}

/** A replacement says all of a record: what it leaves out is absent, and does not stay. */
function leftOut({ model, base }: Context, fewest: Row): readonly Draft[] {
  const input = encode(model, fewest, 'json');
  const about = { constraint: `${model.ruleset}.type`, wire: 'json', does: 'replace', existing: base } as const;
  return [{ ...about, input, reason: 'a replacement that leaves optional fields out: they are absent then' }];
}

/** Each field by itself: to its own value, to another, and to nothing. */
function singleChanges(context: Context): readonly Draft[] {
  const { model, base, choices } = context;
  const patch = (path: Path, value: unknown, constraint: string, reason: string): Draft => ({
    constraint,
    reason,
    wire: 'json',
    input: nested(path, value),
    does: 'patch',
    existing: base,
  });
  return singleFields(model).flatMap((field) => {
    const { path } = field;
    const lookups = model.constraints.filter(
      ({ predicate, subjects }) => isLookup(predicate) && subjects.includes(path),
    );
    const own = valueAt(base, path);
    const other = (choices.get(path) ?? []).find(
      (value) => value !== null && value !== own && brokenRules(context, withValue(base, path, value)).length === 0,
    );
    const replaced = encode(model, base, 'json');
    const isTop = !path.includes('.');
    const without = Object.fromEntries(Object.entries(replaced).filter(([name]) => name !== path));
    const reference = lookups.some(({ predicate }) => predicate.op === 'refersTo');
    const missing: Draft = {
      ...patch(path, null, facetOf(context, path, 'required'), 'a replacement that leaves a required field out'),
      does: 'replace',
      input: without,
    };
    return [
      ...(isTop && !field.optional ? [missing] : []),
      patch(path, null, facetOf(context, path, 'required'), 'null: cleared, which a required field refuses'),
      ...lookups.map(({ id }) => patch(path, carriedValue(context, path), id, 'its own value once more')),
      ...(other === undefined || reference
        ? []
        : [
            patch(path, rawOf(context, path, other), facetOf(context, path, 'type'), 'another value, and nothing else'),
          ]),
      ...(typeof other === 'string' && isTrimmed(field) && !reference
        ? [patch(path, ` ${other} `, facetOf(context, path, 'canonical'), 'another value, with spaces around it')]
        : []),
    ];
  });
}

/** A list that is sent replaces the one that is stored: with fewer entries, in another order, and with none. */
function listChanges(context: Context): readonly Draft[] {
  const { model, base } = context;
  return listFields(model)
    .filter(({ path }) => listsOf(path).length === 0)
    .flatMap(({ path }) => {
      const stored = valueAt(base, path);
      const entries: readonly Value[] = Array.isArray(stored) ? stored : [];
      const changes: readonly (readonly [list: readonly Value[], words: string])[] = [
        [[...entries].reverse(), 'a list in another order, and nothing else'],
        [entries.slice(1), 'a list without its first entry, and nothing else'],
        [[], 'an empty list, and nothing else'],
      ];
      return changes.flatMap(([list, reason]): readonly Draft[] => {
        const row = withValue(base, path, list);
        const isSame = JSON.stringify(list) === JSON.stringify(entries);
        if (isSame || brokenRules(context, row).length > 0) return [];
        const input = nested(path, valueAt(encode(model, row, 'json') as Row, path));
        const about = { constraint: facetOf(context, path, 'type'), reason, before: context.before, existing: base };
        return [{ ...about, wire: 'json', does: 'patch', input }];
      });
    });
}

/** A value of another stored record, which an update may not take. */
function takenValues(context: Context): readonly Draft[] {
  const { model, base, other } = context;
  const before = distinct([...context.before, ...context.otherBefore, { ruleset: model.ruleset, row: other }]);
  return model.constraints.flatMap(({ id, predicate }): readonly Draft[] => {
    if (predicate.op !== 'unique' || predicate.of.some((path) => listsOf(path).length > 0)) return [];
    const row = applied(base, Object.fromEntries(predicate.of.map((path) => [path, valueAt(other, path)])));
    if (brokenRules(context, row).length > 0 || predicate.of.some((path) => valueAt(other, path) === null)) return [];
    const about = { constraint: id, before, existing: base };
    const sent = predicate.of.reduce<Row>(
      (input, path) => merged(input, nested(path, rawOf(context, path, valueAt(other, path)))),
      {},
    );
    return [
      {
        ...about,
        does: 'replace',
        wire: 'json',
        input: carried(context, row, 'json'),
        reason: "another record's values",
      },
      { ...about, does: 'patch', wire: 'json', input: sent, reason: "another record's values, in a partial update" },
    ];
  });
}

/** One field of a rule is sent, the others are stored: the rule is judged on both together. */
function throughStored(context: Context): readonly Draft[] {
  const { model } = context;
  return model.constraints.flatMap((rule) => {
    const tops = [...new Set(rule.subjects.map((path) => path.split(/[.[]/)[0] ?? ''))];
    if (rule.facet || isLookup(rule.predicate) || tops.length < 2) return [];
    const values = isAboutEntries(rule)
      ? outcomeRows(context, rule).map((one) => one.values)
      : combinations(context, rule);
    const rows = spread(values, MOST_TRIED).map((one) => applied(context.base, one));
    return tops.flatMap((name) =>
      halves(context, rule, name, rows).map(({ existing, row, broken }): Draft => {
        const reason = broken ? 'breaks the rule with what is stored' : 'keeps the rule with what is stored';
        const input = { [name]: carried(context, row, 'json')[name] ?? null };
        const before = withTargets(context, [existing, row]);
        return { constraint: rule.id, reason, wire: 'json', input, before, does: 'patch', existing };
      }),
    );
  });
}

/** So many of the combinations of a rule are tried in halves. */
const MOST_TRIED = 500;

/** A stored record that keeps every rule, and another that breaks this one by one field more; and one that keeps it. */
function halves(context: Context, rule: Constraint, name: string, rows: readonly Row[]) {
  const found: { existing: Row; row: Row; broken: boolean }[] = [];
  const others = [context.base[name] ?? null, ...(context.choices.get(name) ?? [])];
  for (const row of rows) {
    const rules = brokenRules(context, row);
    const broken = rules.length > 0;
    if (rules.some((id) => id !== rule.id) || found.some((one) => one.broken === broken)) continue;
    const existing = others
      .map((value) => ({ ...row, [name]: value }))
      .find((stored) => JSON.stringify(stored) !== JSON.stringify(row) && brokenRules(context, stored).length === 0);
    if (existing !== undefined) found.push({ existing, row, broken });
    if (found.length === 2) break;
  }
  return found;
}

function nested(path: Path, value: unknown): Row {
  const [first = '', ...rest] = path.split('.');
  return { [first]: (rest.length === 0 ? value : nested(rest.join('.'), value)) as Value };
}

/** Two parts of one update. */
function merged(a: Row, b: Row): Row {
  const both = { ...a };
  for (const [name, value] of Object.entries(b)) {
    const before = both[name];
    const isInner = typeof before === 'object' && before !== null && typeof value === 'object' && value !== null;
    both[name] = isInner ? merged(before as Row, value as Row) : value;
  }
  return both;
}

/** A value as JSON carries it. */
function rawOf(context: Context, path: Path, value: Value): unknown {
  const input = carried(context, withValue(context.base, path, value), 'json');
  return path.split('.').reduce<unknown>((inner, step) => (inner as { [name: string]: unknown })?.[step], input);
}

function carriedValue(context: Context, path: Path): unknown {
  return rawOf(context, path, valueAt(context.base, path));
}
