import { type Refusal, type RefusalKind, unnamed } from './refusal.js';

/** The fields of an error that PostgreSQL reports (its protocol's error response), as drivers hand them on. */
interface EngineError {
  readonly code: string;
  readonly message: string;
  readonly table?: string;
  readonly column?: string;
  readonly constraint?: string;
}

/** Conditions of class 23, integrity constraint violation. */
const conditions: { readonly [code: string]: RefusalKind } = {
  '23502': 'required',
  '23505': 'unique',
  '23P01': 'unique',
  '23514': 'check',
  '23503': 'foreignKey',
  '23001': 'foreignKey',
};

/**
 * What PostgreSQL refused, or null where the error is another one. Of a value that its type can't read (class 22, data
 * exception) it names neither constraint nor column.
 */
export function postgresqlRefusal(error: object): Refusal | null {
  if (!isEngineError(error)) return null;
  const { code, message, table, column, constraint } = error;
  const condition = conditions[code];
  const named = { table: table ?? null, columns: column === undefined ? [] : [column], message };
  if (condition !== undefined) return { kind: condition, constraint: constraint ?? null, ...named };
  if (code === '22001' || code === '22003') return { kind: 'length', constraint: constraint ?? null, ...named };
  if (/^22/.test(code)) return { kind: 'type', constraint: constraint ?? null, ...named };
  // Raised by a trigger.
  return code === 'P0001' ? { kind: 'unknown', ...unnamed, message } : null;
}

function isEngineError(error: object): error is EngineError {
  return 'code' in error && typeof error.code === 'string' && /^(?:22|23|P0)[0-9A-Z]{3}$/.test(error.code);
}
