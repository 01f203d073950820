import { relative } from 'node:path';
import type { Progress } from '../agreement/index.js';
import type { Look } from '../report/index.js';

/** What a command writes to and where it stands; the process's own unless a test gives another. */
export interface Terminal {
  out(text: string): void;
  note(text: string): void;
  readonly look: Look;
  /** True where notes reach a person who waits. */
  readonly live: boolean;
  readonly folder: string;
  /**
   * From here on a signal of the system asks the command to stop, and no longer ends it: for what must be undone first.
   */
  readonly stopping?: () => AbortSignal;
}

const DEFAULT_WIDTH = 120;
/** The exit code of what was stopped by a signal, as shells have it. */
export const STOPPED = 130;

export function processTerminal(): Terminal {
  const { env, stdout, stderr } = process;
  const colour = env.NO_COLOR === undefined && (env.FORCE_COLOR !== undefined || stdout.isTTY === true);
  return {
    out: (text) => void stdout.write(text),
    note: (text) => void stderr.write(text),
    look: { colour, width: stdout.columns ?? (Number(env.COLUMNS) || DEFAULT_WIDTH) },
    live: stderr.isTTY === true,
    folder: process.cwd(),
    stopping,
  };
}

function stopping(): AbortSignal {
  const controller = new AbortController();
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      // Whoever asks twice does not want to wait.
      if (controller.signal.aborted) process.exit(STOPPED);
      controller.abort();
      process.stderr.write('\nStopping: what is under way is undone first. Once more to stop at once.\n');
    });
  }
  return controller.signal;
}

/** Paths below the folder are shown relative to it. */
export function shortener({ folder }: Terminal): (text: string) => string {
  return (text) => text.replaceAll(`${folder}/`, '');
}

export function shortPath({ folder }: Terminal, file: string): string {
  return relative(folder, file) || '.';
}

/** One line on the terminal that is written over, while work goes on; nothing where nobody watches. */
export function progressLine(terminal: Terminal): { readonly progress: Progress; readonly done: () => void } {
  const clear = '\r\u001b[K';
  let shown = 0;
  return {
    progress(layer, done, of) {
      const now = Date.now();
      if (!terminal.live || (now - shown < 100 && done < of)) return;
      shown = now;
      terminal.note(`${clear}${layer}: ${done} of ${of}`);
    },
    done: () => terminal.live && terminal.note(clear),
  };
}
