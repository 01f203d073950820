import type { Handle } from '../server/connections/index.js';
import type { TableOptions } from './tables.js';

/** A connection, and what closes it. */
export interface Opened {
  readonly handle: Handle;
  readonly close: () => Promise<void>;
}

/** The connection that the options give, which is not ours to close; null where they give none. */
export async function given({ handle }: Pick<TableOptions, 'handle'>): Promise<Opened | null> {
  if (handle === undefined) return null;
  return { handle: typeof handle === 'function' ? await handle() : handle, close: async () => {} };
}
