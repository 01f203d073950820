import { ProblemError, problemsOf } from '../core/messages/index.js';
import type { Layer, OpenLayer, Surroundings } from '../layers/layer.js';

/**
 * Opens a layer. Problems name it as the settings do.
 *
 * @throws ProblemError where it can't be reached, or is not what it should be
 */
export async function openLayer(name: string, layer: Layer, surroundings: Surroundings): Promise<OpenLayer> {
  try {
    return await layer.open(surroundings);
  } catch (error) {
    const found = problemsOf(error);
    if (found === null) throw error;
    const called = (message: string) => message.replace(/^The layer "[^"]*"/, () => `The layer "${name}"`);
    throw new ProblemError(found.map((one) => ({ ...one, message: called(one.message) })));
  }
}
