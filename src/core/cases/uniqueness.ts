import { isTrimmed } from '../kinds/index.js';
import { type Constraint, fieldAt, type Path, type Row, valueAt, withValue } from '../model/index.js';
import { distinct } from './base.js';
import { applied, type Context, type Criterion, carried, type Draft } from './context.js';
import { putRaw } from './places.js';

/** A repeat is refused; with one part of a composite changed, or absent, it is none. */
export const uniqueness: Criterion = (context) =>
  context.model.constraints.flatMap((constraint) =>
    constraint.predicate.op === 'unique' ? repeats(context, constraint, constraint.predicate.of) : [],
  );

function repeats(context: Context, { id: constraint }: Constraint, of: readonly Path[]): readonly Draft[] {
  const { model, base, other } = context;
  const twin = applied(other, Object.fromEntries(of.map((path) => [path, valueAt(base, path)])));
  const targets = distinct([...context.before, ...context.otherBefore]);
  const beside = (row: Row) => [...targets, { ruleset: model.ruleset, row }];
  const draft = (wire: 'json' | 'row', reason: string, stored: Row, sent: Row = base): Draft => ({
    constraint,
    reason,
    wire,
    input: carried(context, sent, wire),
    before: beside(stored),
  });
  const optional = of.filter((path) => fieldAt(model, path).optional);
  const trimmed = of.filter((path) => isTrimmed(fieldAt(model, path)) && valueAt(base, path) !== null);
  const differing = of.length < 2 ? [] : of.filter((path) => valueAt(other, path) !== valueAt(base, path));
  return [
    ...(['json', 'row'] as const).flatMap((wire) => [
      draft(wire, 'the same values as a stored record', twin),
      ...differing.map((path) => draft(wire, `the same but for ${path}`, withValue(twin, path, valueAt(other, path)))),
      ...optional.map((path) =>
        draft(wire, `${path} absent in both`, withValue(twin, path, null), withValue(base, path, null)),
      ),
    ]),
    ...trimmed.map((path) => {
      const same = draft('json', 'the same once white space is taken off', twin);
      const input = carried(context, base, 'json');
      putRaw(input, path, ` ${valueAt(base, path)} `, 'json');
      return { ...same, input };
    }),
  ];
}
