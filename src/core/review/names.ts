import type { Schema } from '../declare/index.js';
import type { Place } from '../model/index.js';
import { constraintName, tablesOf } from '../targets/index.js';
import type { Finding } from './finding.js';

interface Named {
  readonly name: string;
  readonly what: string;
  readonly ruleset: string;
  readonly place: Place;
}

/**
 * Names that are one to some engine, beyond what stops a declaration from loading. MariaDB folds each character of a
 * column's or an index's name by itself; PostgreSQL and SQLite keep tables and indexes under one list of names.
 */
export function collidingNames(schema: Schema): readonly Finding[] {
  const tables = schema.flatMap((model) => tablesOf(model).map((table) => ({ model, table })));
  const relations: Named[] = [
    ...tables.map(({ model, table }) => ({
      name: table.name,
      what: `the table ${table.name}`,
      ruleset: model.ruleset,
      place: model.place,
    })),
    ...schema.flatMap((model) => [
      ...model.constraints
        .filter(({ predicate }) => predicate.op === 'unique')
        .map(({ id, place }) => ({
          name: constraintName(id),
          what: `the index of ${id}`,
          ruleset: model.ruleset,
          place,
        })),
      ...Object.keys(model.indexes).map((index) => ({
        name: constraintName(`${model.ruleset}.${index}`),
        what: `the index ${index} of ${model.ruleset}`,
        ruleset: model.ruleset,
        place: model.place,
      })),
    ]),
  ];
  const columns = tables.map(({ model, table }) =>
    table.fields.map(({ column, path, place }) => ({
      name: column,
      what: `the column ${column} of ${path}`,
      ruleset: model.ruleset,
      place,
    })),
  );
  return [relations, ...columns].flatMap(collisions);
}

function collisions(names: readonly Named[]): readonly Finding[] {
  const known = new Map<string, Named>();
  return names.flatMap((one) => {
    const key = folded(one.name);
    const other = known.get(key);
    known.set(key, other ?? one);
    return other === undefined ? [] : [collision(other, one)];
  });
}

function collision(first: Named, second: Named): Finding {
  return {
    code: 'names_collide',
    severity: 'error',
    ruleset: second.ruleset,
    field: '',
    place: second.place,
    message: `${capital(first.what)} and ${second.what} are one name to some database.`,
    rules: [],
    proof:
      first.name === second.name
        ? `Both are ${JSON.stringify(first.name)}, and PostgreSQL and SQLite keep tables and indexes under one list of names.`
        : `MariaDB reads ${JSON.stringify(first.name)} and ${JSON.stringify(second.name)} as the same name.`,
    examples: [],
    mend: 'Rename one of them: with column for a field, with table for a ruleset, otherwise the rule or index itself.',
  };
}

/** Each character made small by itself, and what a small letter would need besides left out. */
function folded(name: string): string {
  return [...name].map((character) => [...character.toLowerCase()][0] ?? '').join('');
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
