import type { Pattern } from '../../model/index.js';
import type { SchemaNode } from '../json-schema/index.js';
import { quoteText } from '../postgresql/names.js';
import { expressionsOf } from '../postgresql/patterns.js';
import { cutName, fingerprint, quoteName } from '../sql/index.js';

/** What a value of the type jsonb is called, that is there; a limit; and the schema that it stands in. */
type Said = (value: string, limit: never, schema: SchemaNode) => string;

/**
 * The keywords of JSON Schema, as far as they are made from rules, as SQL over a value of the type jsonb. Nothing but true
 * and false comes out: what is asked of texts alone holds of everything else. A CHECK can't look into a list: what must
 * hold of entries is a function.
 */
export class Checks {
  readonly #table: string;
  readonly #functions = new Map<string, string>();
  readonly #keywords: { readonly [keyword: string]: Said };

  constructor(table: string) {
    this.#table = table;
    const all = (nodes: readonly SchemaNode[], value: string, by: 'AND' | 'OR') =>
      nodes.length === 0 ? String(by === 'AND') : `(${nodes.map((node) => this.term(node, value)).join(` ${by} `)})`;
    const given = (distinct: string) => `count(${distinct}entry) FILTER (WHERE jsonb_typeof(entry) <> 'null')`;
    const entries = (list: string, select: string) => this.#called(list, select);
    this.#keywords = {
      type: (value, type: string) =>
        type === 'integer'
          ? only('number', value, `${numberOf(value)} = trunc(${numberOf(value)})`, 'false')
          : `jsonb_typeof(${alone(value)}) = ${quoteText(type)}`,
      enum: (value, among: readonly unknown[]) => `${value} IN (${among.map(json).join(', ')})`,
      const: (value, one: unknown) => `${value} = ${json(one)}`,
      properties: (value, properties: { readonly [name: string]: SchemaNode }) =>
        conjunction(
          Object.entries(properties).flatMap(([name, node]) => {
            const inner = member(value, name);
            const said = this.term(node, inner);
            if (said === 'true') return [];
            // What is not there is of no type, so that most keywords let it be by themselves.
            return [isOnly(said, inner) ? said : `(${inner} IS NULL OR ${said})`];
          }),
        ),
      required: (value, names: readonly string[]) =>
        only('object', value, `${value} ?& ARRAY[${names.map(quoteText).join(', ')}]`),
      additionalProperties: (value, _: false, { properties = {} }) => {
        const names = Object.keys(properties as object).map(quoteText);
        return only('object', value, `${value} - ARRAY[${names.join(', ')}]::text[] = '{}'::jsonb`);
      },
      items: (value, node: SchemaNode) => {
        const said = this.term(node, 'entry');
        return said === 'true' ? said : only('array', value, entries(value, `coalesce(bool_and(${said}), true)`));
      },
      contains: (value, node: SchemaNode) =>
        only('array', value, entries(value, `coalesce(bool_or(${this.term(node, 'entry')}), false)`)),
      minItems: (value, least: number) => only('array', value, `jsonb_array_length(${alone(value)}) >= ${least}`),
      maxItems: (value, most: number) => only('array', value, `jsonb_array_length(${alone(value)}) <= ${most}`),
      // Entries that are nothing are missing, and no repeats.
      uniqueItems: (value) => only('array', value, entries(value, `${given('')} = ${given('DISTINCT ')}`)),
      pattern: (value, pattern: string) => only('string', value, matching(textOf(value), pattern)),
      minLength: (value, least: number) => only('string', value, `char_length(${alone(textOf(value))}) >= ${least}`),
      maxLength: (value, most: number) => only('string', value, `char_length(${alone(textOf(value))}) <= ${most}`),
      minimum: (value, least: number) => only('number', value, `${numberOf(value)} >= ${least}`),
      maximum: (value, most: number) => only('number', value, `${numberOf(value)} <= ${most}`),
      exclusiveMinimum: (value, least: number) => only('number', value, `${numberOf(value)} > ${least}`),
      exclusiveMaximum: (value, most: number) => only('number', value, `${numberOf(value)} < ${most}`),
      multipleOf: (value, step: number) => only('number', value, `mod(${numberOf(value)}, ${step}) = 0`),
      allOf: (value, nodes: readonly SchemaNode[]) => all(nodes, value, 'AND'),
      anyOf: (value, nodes: readonly SchemaNode[]) => all(nodes, value, 'OR'),
      not: (value, node: SchemaNode) => `NOT ${this.term(node, value)}`,
      title: () => 'true',
    };
  }

  /** The statements that make the functions which are called, each before those that call it. */
  get functions(): readonly string[] {
    return [...this.#functions.values()];
  }

  /** The names of the functions, in the same order. */
  get functionNames(): readonly string[] {
    return [...this.#functions.keys()];
  }

  /**
   * What a schema says of a value, as the condition of a CHECK.
   *
   * @throws NotRegular for a pattern that the engine can't hold
   */
  condition(node: SchemaNode, value: string): string {
    const parts = this.#parts(node, value);
    return parts.length === 0 ? 'true' : parts.join(' AND ');
  }

  /** The same as one term among others. @throws NotRegular for a pattern that the engine can't hold */
  term(node: SchemaNode, value: string): string {
    return conjunction(this.#parts(node, value));
  }

  #parts(node: SchemaNode, value: string): readonly string[] {
    const parts = Object.entries(node).map(([keyword, limit]) => {
      const said = this.#keywords[keyword];
      if (said === undefined) throw new Error(`no SQL for the keyword ${keyword}`);
      return said(value, limit as never, node);
    });
    return parts.filter((part) => part !== 'true');
  }

  /** A call of the function that says something of all entries of a list: the same one for the same words. */
  #called(list: string, select: string): string {
    const called = cutName(`${this.#table}_entries_${fingerprint(select)}`);
    const name = quoteName(called);
    this.#functions.set(
      name,
      `CREATE OR REPLACE FUNCTION ${name}(list jsonb) RETURNS boolean LANGUAGE sql IMMUTABLE AS $entries$
  SELECT ${select} FROM jsonb_array_elements(list) AS each (entry)
$entries$;`,
    );
    return `${name}(${alone(list)})`;
  }
}

function conjunction(parts: readonly string[]): string {
  const [first = 'true'] = parts;
  return parts.length < 2 ? first : `(${parts.join(' AND ')})`;
}

/** What is said of values of one type; of others something else. CASE, as nothing else keeps to an order. */
function only(type: string, value: string, said: string, otherwise = 'true'): string {
  return `CASE WHEN jsonb_typeof(${alone(value)}) = '${type}' THEN ${said} ELSE ${otherwise} END`;
}

function isOnly(said: string, value: string): boolean {
  const ends = ' ELSE true END';
  const isOne = said.indexOf(ends) === said.length - ends.length && said.lastIndexOf('CASE') === 0;
  return isOne && said.startsWith(`CASE WHEN jsonb_typeof(${alone(value)}) = `);
}

/** Without the parentheses that keep it together among others. */
function alone(value: string): string {
  return value.startsWith('(') ? value.slice(1, -1) : value;
}

function member(value: string, name: string): string {
  return `(${value} -> ${quoteText(name)})`;
}

function textOf(value: string): string {
  return `(${value} #>> '{}')`;
}

function numberOf(value: string): string {
  return `${value}::numeric`;
}

function json(value: unknown): string {
  return `${quoteText(JSON.stringify(value))}::jsonb`;
}

/** A pattern of the vocabulary is looked for anywhere, and read as Unicode. */
function matching(text: string, pattern: string): string {
  const parts = expressionsOf(wholePattern(pattern)).map(
    ({ fits, text: expression }) => `${text} ${fits ? '~' : '!~'} ${quoteText(expression)}`,
  );
  return conjunction(parts);
}

function wholePattern(pattern: string): Pattern {
  const opens = pattern.startsWith('^');
  // A backslash before it makes a character of the sign for the end; two are a backslash.
  const closes = /(?:^|[^\\])(?:\\\\)*\$$/.test(pattern);
  const inner = pattern.slice(opens ? 1 : 0, closes ? -1 : undefined);
  if (opens && closes) return { source: inner, flags: 'u' };
  const anything = '[\\s\\S]*';
  return { source: `${opens ? '' : anything}(?:${inner})${closes ? '' : anything}`, flags: 'u' };
}
