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
  const reached = (thing: Thing): readonly Thing[] => {
    const isTable = tables.includes(thing);
    const isOf = ({ schema, name }: Pick<Thing, 'schema' | 'name'>) =>
      isTable && schema === thing.schema && name === thing.name;
    const targets = references
      .filter(({ of, name }) => isOf({ schema: String(of), name: String(name) }))
      .flatMap(({ there, target }) => tables.filter(({ schema, name }) => schema === there && name === target));
    const mentioned = [thing, ...triggers.filter(isOf)].flatMap(({ schema, text }) =>
      mentionedIn(text ?? '', schema, things),
    );
    return [...mentioned, ...targets];
  };
  return {
    refuses(table) {
      const own = things.find(({ schema, name }) => schema === here && name === table);
      return own === undefined ? null : refusalFrom(own, reached, here);
    },
    unsafe: unsafe.map(({ schema, name }) => `${quoted(schema)}.${quoted(name)}`),
  };
}

/** Follows each thing once, the nearest first, up to one that can't be undone or can't be read. */
function refusalFrom(start: Thing, reached: (thing: Thing) => readonly Thing[], here: string): string | null {
  const ways = new Map<Thing, readonly Thing[]>([[start, [start]]]);
  for (const [thing, way] of ways) {
    if (thing.engine !== null) return wordsOf(way, here);
    if (thing.text === null) return unreadable(thing, here);
    for (const next of reached(thing)) if (!ways.has(next)) ways.set(next, [...way, next]);
  }
  return null;
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
