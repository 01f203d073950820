import { type Node, parse } from 'acorn';
import { analyze } from 'periscopic';

/** Names of ECMAScript that every page and server has. Not `globalThis`: what it holds differs between them. */
const EVERYWHERE = new Set(
  `undefined NaN Infinity parseInt parseFloat isNaN isFinite encodeURI encodeURIComponent decodeURI
  decodeURIComponent Array BigInt Boolean Date Error Intl JSON Map Math Number Object RangeError RegExp Set String Symbol
  TypeError WeakMap WeakSet arguments`.split(/\s+/),
);

/** A name that a function uses and does not declare, and the line of the function's text that it is in, from 1. */
export interface FreeName {
  readonly name: string;
  readonly line: number;
}

/**
 * The names that the text of a function takes from outside of itself, those of the language apart.
 *
 * @param text what `String(function)` gives
 * @throws SyntaxError where the text is no expression: a method in short form, a bound or a native function
 */
export function freeNames(text: string): readonly FreeName[] {
  const parsed = parse(`(${text})`, { ecmaVersion: 'latest', sourceType: 'module', locations: true });
  const { globals } = analyze(parsed as unknown as Parameters<typeof analyze>[0]);
  const found = [...globals].map(([name, node]): FreeName => {
    const { loc } = node as unknown as Node;
    return { name, line: loc?.start.line ?? 1 };
  });
  const outside = [...found, ...importsIn(parsed)];
  return outside.filter(({ name }) => !EVERYWHERE.has(name)).sort((a, b) => a.line - b.line);
}

/** What a function imports or takes from around it without a name. */
function importsIn(node: unknown): readonly FreeName[] {
  if (Array.isArray(node)) return node.flatMap(importsIn);
  if (typeof node !== 'object' || node === null) return [];
  const { type, loc } = node as Partial<Node>;
  const own = type === 'ImportExpression' ? [{ name: 'import()', line: loc?.start.line ?? 1 }] : [];
  return [...own, ...Object.values(node).flatMap(importsIn)];
}
