import { isScalar } from '../kinds/index.js';
import { encode } from '../meaning/index.js';
import { type Constraint, listsOf, type Path, type Row, type Value, valueAt, withValue } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { distinct } from './base.js';
import { applied, brokenRules, type Context, type Criterion, carried, type Draft, facetOf } from './context.js';
import { singleFields } from './places.js';
import { combinations } from './rules.js';

/**
 * A stored record that is changed: sent back as it is, which changes nothing and repeats nothing; partial updates of one
 * field, which say nothing of the others; and those that break a rule over several fields through the stored half.
 */
export const updates: Criterion = (context) => {
  // What a secret is stored as, nobody can send back.
  const isReadable = Object.values(context.model.fields).every(({ storedAs }) => storedAs === null);
  return isReadable
    ? [...sentBack(context), ...singleChanges(context), ...takenValues(context), ...throughStored(context)]
    : [];
};

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
    ];
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
  const isOfSeveral = ({ facet, predicate, over, subjects }: Constraint) => {
    const isPlain = subjects.every((path) => listsOf(path).length === 0 && !path.includes('[]'));
    return !facet && !isLookup(predicate) && over === null && isPlain && new Set(subjects).size > 1;
  };
  return model.constraints.filter(isOfSeveral).flatMap((rule) => {
    const subjects = [...new Set(rule.subjects)];
    if (!subjects.every((path) => singleFields(model).some((field) => field.path === path && isScalar(field))))
      return [];
    const rows = combinations(context, rule).map((values) => applied(context.base, values));
    return subjects.flatMap((path) => {
      const found = halves(context, rule, path, rows);
      return found.map(({ existing, value, broken }): Draft => {
        const reason = broken ? 'breaks the rule with what is stored' : 'keeps the rule with what is stored';
        const input = nested(path, rawOf(context, path, value));
        return { constraint: rule.id, reason, wire: 'json', input, does: 'patch', existing };
      });
    });
  });
}

/** A stored record that keeps every rule, and a value of one field that breaks the rule with it; and one that keeps it. */
function halves(context: Context, rule: Constraint, path: Path, rows: readonly Row[]) {
  const found: { existing: Row; value: Value; broken: boolean }[] = [];
  for (const row of rows) {
    const rules = brokenRules(context, row);
    const broken = rules.length > 0;
    if (rules.some((id) => id !== rule.id) || found.some((one) => one.broken === broken)) continue;
    const existing = [valueAt(context.base, path), ...(context.choices.get(path) ?? [])]
      .map((value) => withValue(row, path, value))
      .find((stored) => valueAt(stored, path) !== valueAt(row, path) && brokenRules(context, stored).length === 0);
    if (existing !== undefined) found.push({ existing, value: valueAt(row, path), broken });
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
