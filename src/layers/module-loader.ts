import { createJiti } from 'jiti';
import { ProblemError, problems, problemsOf } from '../core/messages/index.js';
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
