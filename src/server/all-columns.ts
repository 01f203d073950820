import { type Table, tableTargets } from '../core/targets/index.js';
import type { Connection } from './connections/index.js';

/** The list behind SELECT or RETURNING that reads all columns of a table alike, whatever the session's settings are. */
export function allColumns({ key, fields }: Table, { engine }: Connection): string {
  const ofKey = key.flatMap(({ name, holds }) => (typeof holds === 'object' ? [{ ...holds, column: name }] : []));
  const names = new Set(ofKey.map(({ column }) => column));
  const others = fields.filter(({ column }) => !names.has(column));
  return `*${tableTargets[engine].wire.respelled([...ofKey, ...others])}`;
}

/** The order of a table's keys. Names are the table's own, as what is read in place of a column has its name as well. */
export function orderOf({ key, name }: Table, { engine }: Connection): string {
  const { spelling } = tableTargets[engine];
  return ` ORDER BY ${key.map((one) => `${spelling.name(name)}.${spelling.name(one.name)}`).join(', ')}`;
}
