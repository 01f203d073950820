import { snakeCase } from '../../declare/index.js';
import { utf8Length } from '../../model/index.js';

/** PostgreSQL's limit, in bytes; MariaDB's is 64 characters. */
const MOST_BYTES = 63;

/**
 * Words that PostgreSQL 18 (`pg_get_keywords`, reserved) or SQLite (its keyword list) read as their own. Quoting one
 * too many does no harm.
 */
const RESERVED = new Set(
  `abort action add after all alter always analyse analyze and any array as asc asymmetric attach authorization
  autoincrement before begin between binary both by cascade case cast check collate collation column commit
  concurrently conflict constraint create cross current current_catalog current_date current_role current_schema
  current_time current_timestamp current_user database default deferrable deferred delete desc detach distinct do drop
  each else end escape except exclude exclusive exists explain fail false fetch filter first following for foreign
  freeze from full generated glob grant group groups having if ignore ilike immediate in index indexed initially inner
  insert instead intersect into is isnull join key last lateral leading left like limit localtime localtimestamp match
  materialized natural no not nothing notnull null nulls of offset on only or order others outer over overlaps
  partition placing plan pragma preceding primary query raise range recursive references regexp reindex release rename
  replace restrict returning right rollback row rows savepoint select session_user set similar some symmetric
  system_user table tablesample temp temporary then ties to trailing transaction trigger true unbounded union unique
  update user using vacuum values variadic verbose view virtual when where window with without`.split(/\s+/),
);

/** A name as SQL-92 writes it: bare where every engine reads it back the same, otherwise in double quotes. */
export function quoteName(name: string): string {
  return /^[a-z_][a-z0-9_]*$/.test(name) && !RESERVED.has(name) ? name : `"${name.replaceAll('"', '""')}"`;
}

/**
 * The name of a constraint in a database: its id in snake case, and with a suffix for what belongs to it. PostgreSQL
 * cuts names at 63 bytes without an error, so longer ones are cut here, with a hash of the whole.
 */
export function constraintName(id: string, suffix = ''): string {
  return cutName(`${snakeCase(id)}${suffix}`);
}

/** A name that every engine takes whole: no more than 63 bytes in UTF-8, the end of a longer one a hash of it all. */
export function cutName(name: string): string {
  if (utf8Length(name) <= MOST_BYTES) return name;
  let kept = '';
  for (const character of name) {
    if (utf8Length(kept + character) > MOST_BYTES - 9) break;
    kept += character;
  }
  return `${kept}_${fingerprint(name)}`;
}

/** FNV-1a, 32 bits, in hexadecimal: no more than a stable mark to tell texts apart. */
export function fingerprint(text: string): string {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193) >>> 0;
  return hash.toString(16).padStart(8, '0');
}
