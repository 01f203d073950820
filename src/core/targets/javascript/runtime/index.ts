import { forms } from './forms.js';
import { matching } from './matching.js';
import { moments } from './moments.js';
import { numbers } from './numbers.js';
import { partial } from './partial.js';
import type { Helpers } from './piece.js';
import { reading } from './reading.js';
import { telling } from './telling.js';

/** The helpers that modules are printed with, each only where it is used. Plain text: no module imports another. */
export const runtime: Helpers = { ...telling, ...reading, ...moments, ...numbers, ...forms, ...partial, ...matching };

/** The names that code uses: neither what is said in messages, nor keys and properties. */
export function namesIn(code: string): ReadonlySet<string> {
  const bare = code.replace(/\/\*[\s\S]*?\*\/|^ *\/\/.*$/gm, '').replace(/'(?:[^'\\\n]|\\.)*'/g, "''");
  return new Set(bare.match(/(?<![.\w$])[A-Za-z_$][\w$]*(?![\w$]*:)/g) ?? []);
}

/** The texts of the helpers that some code uses, and of those that they use, each once, in the table's order. */
export function helpersFor(code: string): readonly string[] {
  const wanted = new Set<string>();
  const want = (name: string) => {
    if (wanted.has(name)) return;
    wanted.add(name);
    for (const inner of runtime[name]?.uses ?? []) want(inner);
  };
  const used = namesIn(code);
  for (const name of Object.keys(runtime)) if (used.has(name)) want(name);
  return Object.entries(runtime).flatMap(([name, { text }]) => (wanted.has(name) ? [text] : []));
}
