import { readFileSync } from 'node:fs';
import { createJiti } from 'jiti';
import { nearest, type Problem, ProblemError, problems, problemsOf } from '../core/messages/index.js';
import type { Place } from '../core/model/index.js';

/**
 * Loads a module of the project, TypeScript or JavaScript, as it is on the disk now. What it imports from `echo-rule`
 * is this very copy, installed or not.
 *
 * @throws ProblemError where the file does not parse or throws, with the place
 */
export async function loadModule(file: string): Promise<{ readonly [name: string]: unknown }> {
  try {
    return await evaluated(file);
  } catch (error) {
    if (problemsOf(error) !== null) throw error;
    const { place, reason } = whereItBroke(error, file);
    const unknown = await unknownImport(reason, file);
    if (unknown !== null) throw new ProblemError([unknown]);
    throw new ProblemError([problems.fileBroken(place, file, reason)]);
  }
}

async function evaluated(file: string): Promise<{ readonly [name: string]: unknown }> {
  // Imported here, not above: the layers import this file.
  const [face, config, layers] = await Promise.all([
    import('../index.js'),
    import('../config.js'),
    import('./index.js'),
  ]);
  const jiti = createJiti(import.meta.url, {
    moduleCache: false,
    fsCache: false,
    virtualModules: { 'echo-rule': face, 'echo-rule/config': config, 'echo-rule/layers': layers },
  });
  return jiti.import(file);
}

/** What a file imports from `echo-rule` and calls, though nothing there is called so; null where that is not the reason. */
async function unknownImport(reason: string, file: string): Promise<Problem | null> {
  const [, name] = /(\w+)\)? is not a function$/.exec(reason) ?? [];
  if (name === undefined) return null;
  const lines = readFileSync(file, 'utf8').split('\n');
  const from = new RegExp(`import\\s*\\{[^}]*\\b${name}\\b[^}]*\\}\\s*from\\s*['"]echo-rule['"]`);
  const face = Object.keys(await import('../index.js'));
  if (face.includes(name) || !from.test(lines.join('\n'))) return null;
  const line = lines.findIndex((text) => text.split(/\W+/).includes(name)) + 1;
  return problems.importUnknown({ file, line }, name, 'echo-rule', nearest(name, face));
}

/** A parser names the place in its message; an exception has it in its stack. */
function whereItBroke(error: unknown, file: string): { readonly place: Place; readonly reason: string } {
  const message = error instanceof Error ? error.message : String(error);
  const stack = error instanceof Error ? (error.stack ?? '') : '';
  const [, line] =
    [message, stack]
      .flatMap((text) => [new RegExp(`${escaped(file)}:(\\d+)`).exec(text) ?? []])
      .find((match) => match.length > 0) ?? [];
  const [reason = message] = message.split('\n');
  return { place: { file, line: Number(line ?? 1) }, reason: reason.replace(/^ParseError: /, '').trim() };
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
}
