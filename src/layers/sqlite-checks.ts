import type { Connection } from '../server/connections/index.js';
import { type ForeignConstraints, placeOf } from '../server/database-errors/index.js';

/** A CHECK with a name, up to the parenthesis that its expression begins with. */
const NAMED_CHECK = /\bCONSTRAINT\s+("(?:[^"]|"")+"|`(?:[^`]|``)+`|\[[^\]]+\]|[\p{L}_][\p{L}\p{N}_$]*)\s+CHECK\s*\(/giu;
/** What holds parentheses that are none: texts, quoted names and comments. */
const OPAQUE = /'(?:[^']|'')*'|"(?:[^"]|"")*"|`(?:[^`]|``)*`|\[[^\]]*\]|--[^\n]*|\/\*[\s\S]*?\*\//g;

/** Every CHECK that has a name, as the engine keeps it: the text that made the table. */
export async function namedChecks(connection: Connection): Promise<ForeignConstraints> {
  const tables = await connection.rows("SELECT name, sql FROM sqlite_master WHERE type = 'table' AND sql IS NOT NULL");
  const found: [string, { readonly columns: readonly string[]; readonly expression: string }][] = [];
  for (const { name, sql } of tables) {
    const columns = await connection.rows('SELECT name FROM pragma_table_xinfo(?)', [name]);
    for (const [expression, quoted] of checksIn(String(sql))) {
      const words = new Set((expression.match(/[\p{L}_][\p{L}\p{N}_$]*/gu) ?? []).map((word) => word.toLowerCase()));
      const own = columns.map((column) => String(column.name)).filter((column) => words.has(column.toLowerCase()));
      found.push([placeOf(String(name), unquoted(quoted)), { columns: own, expression }]);
    }
  }
  return new Map(found);
}

/** The expression and the name of each CHECK in the text of a table. */
function checksIn(sql: string): readonly (readonly [expression: string, name: string])[] {
  return [...sql.matchAll(NAMED_CHECK)].map((match) => {
    const start = match.index + match[0].length;
    return [sql.slice(start, endOf(sql, start)), match[1] ?? ''];
  });
}

/** The place of the parenthesis that closes what begins at `start`. */
function endOf(sql: string, start: number): number {
  const plain = sql.replace(OPAQUE, (text) => ' '.repeat(text.length));
  let depth = 1;
  for (let at = start; at < plain.length; at += 1) {
    if (plain[at] === '(') depth += 1;
    else if (plain[at] === ')') depth -= 1;
    if (depth === 0) return at;
  }
  return sql.length;
}

function unquoted(name: string): string {
  const quote = name[0] ?? '';
  if (!['"', '`', '['].includes(quote)) return name;
  const inner = name.slice(1, -1);
  return quote === '[' ? inner : inner.replaceAll(quote + quote, quote);
}
