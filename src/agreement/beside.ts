import type { Beside } from '../core/cases/index.js';
import type { Row } from '../core/model/index.js';
import type { Layer, Surroundings } from '../layers/layer.js';
import { openLayer } from './open-layer.js';

/** So many rows of a table are read: beyond them, a case that repeats one is not applicable there. */
const MOST_READ = 10_000;

/**
 * The rows that live layers hold, by ruleset: cases are made that do not repeat them.
 *
 * @throws what a layer's `open` throws: ProblemError where it can't be reached
 */
export async function rowsBeside(
  layers: { readonly [name: string]: Layer },
  surroundings: Surroundings,
): Promise<Beside> {
  const beside = new Map<string, readonly Row[]>();
  const all = surroundings.schema.map(({ ruleset }) => ruleset);
  for (const [name, layer] of Object.entries(layers)) {
    if (layer.holdsRows !== true) continue;
    const opened = await openLayer(name, layer, surroundings);
    try {
      for (const ruleset of layer.rulesets ?? all) {
        const rows = (await opened.stored?.(ruleset, MOST_READ)) ?? [];
        beside.set(ruleset, [...(beside.get(ruleset) ?? []), ...rows]);
      }
    } finally {
      await opened.close();
    }
  }
  return beside;
}
