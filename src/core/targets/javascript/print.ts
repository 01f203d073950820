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
  const indent = '  '.repeat(level);
  const print = (statement: Statement, chained = false): string => {
    if ('constant' in statement) return `${indent}const ${statement.constant} = ${printJs(statement.is)};`;
    if ('variable' in statement)
      return `${indent}let ${statement.variable}${statement.is === null ? '' : ` = ${printJs(statement.is)}`};`;
    if ('set' in statement) return `${indent}${statement.set} = ${printJs(statement.is)};`;
    if ('index' in statement) {
      const { index, below, does } = statement;
      const head = `${indent}for (let ${index} = 0; ${index} < ${printJs(below)}; ${index} += 1) {`;
      return `${head}\n${printStatements(does, level + 1)}\n${indent}}`;
    }
    if ('key' in statement) {
      const head = `${indent}for (const ${statement.key} of ${printJs(statement.of)}) {`;
      return `${head}\n${printStatements(statement.does, level + 1)}\n${indent}}`;
    }
    if ('returns' in statement) return `${indent}return ${printJs(statement.returns)};`;
    if ('run' in statement) return `${indent}${printJs(statement.run)};`;
    if ('text' in statement) return statement.text.replace(/^(?=.)/gm, indent);
    const { when, does, otherwise } = statement;
    const [only] = does;
    if (
      !chained &&
      does.length === 1 &&
      otherwise === undefined &&
      only !== undefined &&
      !('when' in only || 'index' in only || 'key' in only || 'text' in only)
    ) {
      return `${indent}if (${printJs(when)}) ${printStatements([only], 0)}`;
    }
    const head = `${indent}if (${printJs(when)}) {\n${printStatements(does, level + 1)}\n${indent}}`;
    if (otherwise === undefined) return head;
    const [next] = otherwise;
    if (otherwise.length === 1 && next !== undefined && 'when' in next) {
      return `${head} else ${print(next, true).trimStart()}`;
    }
    return `${head} else {\n${printStatements(otherwise, level + 1)}\n${indent}}`;
  };
  return statements.map((statement) => print(statement)).join('\n');
}
