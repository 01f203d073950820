import type { Js, Statement } from './tree.js';

/** A value as a JavaScript literal: JSON, with what would end a line in older readers escaped. */
export function printLiteral(value: unknown): string {
  if (typeof value === 'string') {
    const escaped = JSON.stringify(value).slice(1, -1).replaceAll("'", "\\'").replaceAll('\\"', '"');
    return `'${escaped.replaceAll('\u2028', '\\u2028').replaceAll('\u2029', '\\u2029')}'`;
  }
  if (Array.isArray(value)) return `[${value.map(printLiteral).join(', ')}]`;
  if (typeof value === 'object' && value !== null) {
    const entries = Object.entries(value).map(([key, inner]) => `${printKey(key)}: ${printLiteral(inner)}`);
    return entries.length === 0 ? '{}' : `{ ${entries.join(', ')} }`;
  }
  return String(value);
}

export function printKey(key: string): string {
  // A quoted __proto__ would set the prototype; a computed one is an ordinary key.
  if (key === '__proto__') return "['__proto__']";
  return /^[A-Za-z_$][A-Za-z0-9_$]*$/.test(key) ? key : printLiteral(key);
}

export function printJs(js: Js): string {
  if ('name' in js) return js.name;
  if ('literal' in js) return printLiteral(js.literal);
  if ('regex' in js) return `/${js.regex.source}/${js.regex.flags}`;
  if ('call' in js) return `${js.call}(${js.of.map(printJs).join(', ')})`;
  if ('member' in js) return `${inside(js.member)}.${js.property}`;
  if ('by' in js) return `${inside(js.left)} ${js.by} ${inside(js.right)}`;
  if ('sum' in js) return js.sum.map(inside).join(' + ');
  if ('not' in js) return `!${inside(js.not)}`;
  if ('takes' in js) return `(${js.takes}) => ${'object' in js.gives ? `(${printJs(js.gives)})` : printJs(js.gives)}`;
  if ('when' in js) return `${inside(js.when)} ? ${inside(js.yes)} : ${inside(js.no)}`;
  if ('element' in js) return `${inside(js.element)}[${printJs(js.at)}]`;
  if ('list' in js) return `[${js.list.map(printJs).join(', ')}]`;
  if ('object' in js) return printObject(js.object);
  if ('parts' in js)
    return `\`${js.parts.map((part) => (typeof part === 'string' ? part : `\${${printJs(part)}}`)).join('')}\``;
  return 'all' in js ? js.all.map(among).join(' && ') : js.any.map(among).join(' || ');
}

function printObject(entries: readonly (readonly [key: string, value: Js])[]): string {
  const printed = entries.map(([key, value]) => {
    const text = printJs(value);
    return text === key ? key : `${printKey(key)}: ${text}`;
  });
  return printed.length === 0 ? '{}' : `{ ${printed.join(', ')} }`;
}

function inside(js: Js): string {
  const isBound = 'left' in js || 'all' in js || 'any' in js || 'takes' in js || 'when' in js || 'sum' in js;
  return isBound ? `(${printJs(js)})` : printJs(js);
}

/** Comparisons bind closer than && and ||; those two never stand bare inside each other. */
function among(js: Js): string {
  return 'all' in js || 'any' in js || 'when' in js || 'takes' in js ? `(${printJs(js)})` : printJs(js);
}

/** Prints statements, two spaces a level. */
export function printStatements(statements: readonly Statement[], level = 0): string {
  return statements.map((statement) => printStatement(statement, level)).join('\n');
}

function printStatement(statement: Statement, level: number): string {
  const indent = '  '.repeat(level);
  if ('constant' in statement) return `${indent}const ${statement.constant} = ${printJs(statement.is)};`;
  if ('variable' in statement)
    return `${indent}let ${statement.variable}${statement.is === null ? '' : ` = ${printJs(statement.is)}`};`;
  if ('set' in statement) return `${indent}${statement.set} = ${printJs(statement.is)};`;
  if ('index' in statement) {
    const { index, below, does } = statement;
    return `${indent}${printBlock(`for (let ${index} = 0; ${index} < ${printJs(below)}; ${index} += 1)`, does, level)}`;
  }
  if ('key' in statement)
    return `${indent}${printBlock(`for (const ${statement.key} of ${printJs(statement.of)})`, statement.does, level)}`;
  if ('returns' in statement) return `${indent}return ${printJs(statement.returns)};`;
  if ('run' in statement) return `${indent}${printJs(statement.run)};`;
  if ('text' in statement) return statement.text.replace(/^(?=.)/gm, indent);
  const [only] = statement.does;
  const isShort = statement.does.length === 1 && statement.otherwise === undefined && only !== undefined;
  if (isShort && isOneLine(only)) return `${indent}if (${printJs(statement.when)}) ${printStatement(only, 0)}`;
  return `${indent}${printIf(statement, level)}`;
}

type If = Extract<Statement, { readonly when: unknown }>;

/** A condition with all that is otherwise, one behind the other. */
function printIf({ when, does, otherwise }: If, level: number): string {
  const head = printBlock(`if (${printJs(when)})`, does, level);
  if (otherwise === undefined) return head;
  const [next] = otherwise;
  const isChain = otherwise.length === 1 && next !== undefined && 'when' in next;
  return `${head} else ${isChain ? printIf(next, level) : printBlock('', otherwise, level).trimStart()}`;
}

function printBlock(head: string, does: readonly Statement[], level: number): string {
  return `${head} {\n${printStatements(does, level + 1)}\n${'  '.repeat(level)}}`;
}

function isOneLine(statement: Statement): boolean {
  return !('when' in statement || 'index' in statement || 'key' in statement || 'text' in statement);
}
