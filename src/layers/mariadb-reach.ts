import type { Connection } from '../server/connections/index.js';

/** A table, view or routine of any database that the role sees. */
interface Thing {
  readonly schema: string;
  readonly name: string;
  /** What is run where it is used; null where the role may not read it, '' where nothing is. */
  readonly text: string | null;
  /** The engine of a table without transactions. */
  readonly engine: string | null;
}

/** What keeps a rollback from undoing a write, in words; and the tables in which something would stay. */
export interface Reach {
  /** Why a table can't be written to and be as before; null where it can. */
  refuses(table: string): string | null;
  /** The tables without transactions, quoted, with their databases. */
  readonly unsafe: readonly string[];
}

const OWN = "('mysql', 'information_schema', 'performance_schema', 'sys')";

/** Reads what tables, views, triggers and routines there are, and follows what a write reaches through them. */
export async function reachOf(connection: Connection): Promise<Reach> {
  const tables = await thingsOf(
    connection,
    `SELECT table_schema AS of, table_name AS name, '' AS text, if(e.transactions = 'YES', NULL, t.engine) AS engine
     FROM information_schema.tables t JOIN information_schema.engines e ON e.engine = t.engine
     WHERE table_type = 'BASE TABLE' AND table_schema NOT IN ${OWN}`,
  );
  const unsafe = tables.filter(({ engine }) => engine !== null);
  // Most databases have none, and nothing needs to be followed there.
  if (unsafe.length === 0) return { refuses: () => null, unsafe: [] };
  const views = await thingsOf(
    connection,
    `SELECT table_schema AS of, table_name AS name, view_definition AS text, NULL AS engine
     FROM information_schema.views WHERE table_schema NOT IN ${OWN}`,
  );
  const routines = await thingsOf(
    connection,
    `SELECT routine_schema AS of, routine_name AS name, routine_definition AS text, NULL AS engine
     FROM information_schema.routines WHERE routine_schema NOT IN ${OWN}`,
  );
  const triggers = await thingsOf(
    connection,
    `SELECT event_object_schema AS of, event_object_table AS name, action_statement AS text, NULL AS engine
     FROM information_schema.triggers`,
  );
  const references = await connection.rows(
    `SELECT table_schema AS of, table_name AS name, referenced_table_schema AS there, referenced_table_name AS target
     FROM information_schema.key_column_usage WHERE referenced_table_name IS NOT NULL`,
  );
  const [current] = await connection.rows('SELECT database() AS here');
  const here = String(current?.here ?? '');
  const things = [...tables, ...views, ...routines];
  const follow = (thing: Thing, way: readonly Thing[]): string | null => {
    if (way.includes(thing)) return null;
    const whole = [...way, thing];
    if (thing.engine !== null) return wordsOf(whole, here);
    if (thing.text === null) return unreadable(thing, here);
    const isOf = (one: { readonly [column: string]: unknown }) =>
      one.of === thing.schema && one.name === thing.name && tables.includes(thing);
    const texts = [
      { schema: thing.schema, text: thing.text },
      ...triggers
        .filter((one) => isOf({ of: one.schema, name: one.name }))
        .map(({ schema, text }) => ({ schema, text: text ?? '' })),
    ];
    const next = [
      ...texts.flatMap(({ schema, text }) => mentionedIn(text, schema, things)),
      ...references
        .filter(isOf)
        .flatMap(({ there, target }) => things.filter((one) => one.schema === there && one.name === target)),
    ];
    for (const one of next) {
      const found = follow(one, whole);
      if (found !== null) return found;
    }
    return null;
  };
  return {
    refuses(table) {
      const own = things.find(({ schema, name }) => schema === here && name === table);
      return own === undefined ? null : follow(own, []);
    },
    unsafe: unsafe.map(({ schema, name }) => `${quoted(schema)}.${quoted(name)}`),
  };
}

async function thingsOf(connection: Connection, sql: string): Promise<readonly Thing[]> {
  return (await connection.rows(sql)).map(({ of, name, text, engine }) => ({
    schema: String(of),
    name: String(name),
    text: text === null || text === undefined ? null : String(text),
    engine: engine === null || engine === undefined ? null : String(engine),
  }));
}

/** The things whose names stand in a text of SQL, with the database before them or in the text's own. */
function mentionedIn(text: string, schema: string, things: readonly Thing[]): readonly Thing[] {
  const plain = text.replace(/--[^\n]*|#[^\n]*|\/\*[\s\S]*?\*\/|'(?:[^'\\]|''|\\[\s\S])*'/g, ' ');
  const names = [...plain.matchAll(/`((?:[^`]|``)+)`|([\p{L}\p{N}_$]+)|(\.)/gu)].map(
    ([, quotedName, name, dot]) => quotedName?.replaceAll('``', '`') ?? name ?? dot ?? '',
  );
  const same = (a: string | undefined, b: string) => a?.toLowerCase() === b.toLowerCase();
  return things.filter((thing) =>
    names.some((name, at) => {
      if (!same(name, thing.name)) return false;
      const isQualified = names[at - 1] === '.' && same(names[at - 2], thing.schema);
      return isQualified || thing.schema === schema;
    }),
  );
}

function wordsOf(way: readonly Thing[], here: string): string {
  const [first, ...others] = way.map(({ schema, name }) => `"${schema === here ? name : `${schema}.${name}`}"`);
  const engine = way.at(-1)?.engine ?? '';
  if (others.length === 0) return `the table ${first} is kept by ${engine}, which can't undo what probing writes`;
  return `writing to ${first} reaches ${others.join(', then ')}, which is kept by ${engine} and can't be undone`;
}

function unreadable({ schema, name }: Thing, here: string): string {
  const called = schema === here ? name : `${schema}.${name}`;
  return `writing reaches "${called}", whose text this role can't read, and there are tables without transactions that it may write`;
}

function quoted(name: string): string {
  return `\`${name.replaceAll('`', '``')}\``;
}
