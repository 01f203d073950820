import { type Refusal, unnamed } from './refusal.js';

/**
 * What SQLite refused, or null. It reports by message only: the name of a CHECK, the columns of a unique rule and never
 * its name, nothing at all of a foreign key. A trigger of ours raises the name of its rule.
 */
export function sqliteRefusal(error: object, isRule: (name: string) => boolean): Refusal | null {
  if (!('message' in error) || typeof error.message !== 'string') return null;
  const { message } = error;
  const [, table, column] =
    /^(?:NOT NULL constraint failed: |cannot store \S+ value in \S+ column )([^.]+)\.(.+)$/.exec(message) ?? [];
  if (table !== undefined && column !== undefined) {
    const kind = message.startsWith('NOT NULL') ? 'required' : 'type';
    return { kind, constraint: null, table, columns: [column], message };
  }
  const [, list] = /^UNIQUE constraint failed: (.+)$/.exec(message) ?? [];
  if (list !== undefined) return unique(list, message);
  if (message === 'FOREIGN KEY constraint failed') return { ...unnamed, kind: 'foreignKey', message };
  const [, check] = /^CHECK constraint failed: ([\s\S]+)$/.exec(message) ?? [];
  if (check !== undefined) return { ...unnamed, kind: 'check', constraint: check, message };
  if (message === 'datatype mismatch') return { ...unnamed, kind: 'type', message };
  return isRule(message) ? { ...unnamed, kind: 'check', constraint: message, message } : null;
}

/** ``t.a, t.b`` for columns, ``index 'name'`` for one over expressions. */
function unique(list: string, message: string): Refusal {
  const [, index] = /^index '(.+)'$/.exec(list) ?? [];
  if (index !== undefined) return { ...unnamed, kind: 'unique', constraint: index, message };
  const names = list.split(', ');
  const [table = ''] = names[0]?.split('.', 1) ?? [];
  const columns = names.map((name) => name.slice(name.indexOf('.') + 1));
  return { kind: 'unique', constraint: null, table, columns, message };
}
