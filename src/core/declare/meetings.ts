import { isScalar } from '../kinds/index.js';
import { type Problem, problems } from '../messages/index.js';
import { allFields, type Constraint, type Field, type Place, utf8Length } from '../model/index.js';
import { homeOf, isTable } from './homes.js';
import { snakeCase } from './names.js';

/** Names that would meet in the database, or that some database refuses. */
export function meetings(
  declaredTable: string | undefined,
  fields: { readonly [name: string]: Field },
  constraints: readonly Constraint[],
  key: string | null,
  place: Place,
): readonly Problem[] {
  const found: Problem[] = [];
  if (declaredTable !== undefined && !isColumn(declaredTable))
    found.push(problems.columnInvalid(place, 'table', declaredTable));
  // Each list has a table, with columns of its own.
  const columns = new Map<string, string>(key === null ? [[' id', 'the counting key of a ruleset without key']] : []);
  const stored = allFields({ fields }).filter(
    (field) => (isScalar(field) || (field.item !== null && !isTable(field))) && field.enforcedIn.includes('database'),
  );
  for (const { column, path, place: at } of stored) {
    const home = homeOf(fields, path);
    if (home === null) continue;
    const columnIn = `${home} ${column.toLowerCase()}`;
    const other = columns.get(columnIn);
    if (!isColumn(column)) found.push(problems.columnInvalid(at, 'column', column));
    if (other !== undefined) found.push(problems.namesMeet(at, column, `"${path}"`, other));
    columns.set(columnIn, `"${path}"`);
  }
  const ids = new Map<string, string>();
  for (const { id, place: at } of constraints) {
    const other = ids.get(snakeCase(id));
    if (other !== undefined) found.push(problems.namesMeet(at, snakeCase(id), id, other));
    ids.set(snakeCase(id), id);
  }
  return found;
}

/** PostgreSQL cuts names over 63 bytes without an error; no engine takes a null character or an empty name. */
function isColumn(name: string): boolean {
  const bytes = utf8Length(name);
  return bytes > 0 && bytes <= 63 && !/[\u0000\ufffd\p{Surrogate}]/u.test(name);
}
