import type { Sql } from './tree.js';

/** How an engine spells names and literals. */
export interface Spelling {
  name(name: string): string;
  text(text: string): string;
  truth(value: boolean): string;
}

/**
 * Prints an expression. NOT binds closer than AND, AND closer than OR, and comparisons closer than all three; an AND
 * inside an OR stands in parentheses all the same, for whoever reads it.
 */
export function printSql(sql: Sql, spelling: Spelling): string {
  const print = (inner: Sql) => printSql(inner, spelling);
  const inside = (inner: Sql) => (isSimple(inner) ? print(inner) : `(${print(inner)})`);
  const among = (inner: Sql) => ('all' in inner || 'any' in inner ? `(${print(inner)})` : print(inner));
  if ('column' in sql) return spelling.name(sql.column);
  if ('text' in sql) return spelling.text(sql.text);
  if ('number' in sql) return String(sql.number);
  if ('truth' in sql) return spelling.truth(sql.truth);
  if ('call' in sql) return `${sql.call}(${sql.of.map(print).join(', ')})`;
  if ('by' in sql) return `${inside(sql.left)} ${sql.by} ${inside(sql.right)}`;
  if ('between' in sql) return `${inside(sql.between)} BETWEEN ${inside(sql.low)} AND ${inside(sql.high)}`;
  if ('extract' in sql) return `extract(${sql.extract} FROM ${print(sql.from)})`;
  if ('cast' in sql) return `CAST(${print(sql.cast)} AS ${sql.to})`;
  if ('cases' in sql)
    return `CASE ${sql.cases.map(([when, then]) => `WHEN ${print(when)} THEN ${print(then)}`).join(' ')} END`;
  if ('joined' in sql) return sql.joined.map(inside).join(' || ');
  if ('not' in sql && 'isGiven' in sql.not) return `${inside(sql.not.isGiven)} IS NULL`;
  if ('not' in sql) return `NOT ${inside(sql.not)}`;
  if ('all' in sql) return sql.all.map(among).join(' AND ');
  if ('any' in sql) return sql.any.map(among).join(' OR ');
  if ('isGiven' in sql) return `${inside(sql.isGiven)} IS NOT NULL`;
  return `${inside(sql.member)} IN (${sql.among.map(print).join(', ')})`;
}

function isSimple(sql: Sql): boolean {
  return (
    'column' in sql ||
    'text' in sql ||
    'number' in sql ||
    'truth' in sql ||
    'call' in sql ||
    'cast' in sql ||
    'extract' in sql
  );
}
