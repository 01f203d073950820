import type { Answer, Case } from '../core/model/index.js';
import type { Layer, Surroundings } from '../layers/layer.js';

export interface Answered {
  readonly case: Case;
  readonly layer: string;
  readonly answer: Answer;
}

/** Told after each answer: how many of how many a layer has given. */
export type Progress = (layer: string, done: number, of: number) => void;

/**
 * Gives every case to every layer, one layer after the other. A layer is closed whatever happens.
 *
 * @throws what a layer's `open` throws: ProblemError where it can't be reached
 */
export async function askAll(
  cases: readonly Case[],
  layers: { readonly [name: string]: Layer },
  surroundings: Surroundings,
  progress: Progress = () => {},
): Promise<readonly Answered[]> {
  const answers: Answered[] = [];
  for (const [name, layer] of Object.entries(layers)) {
    const opened = await layer.open(surroundings);
    try {
      const wanted = cases.filter((one) => isFor(layer, one) === null);
      for (const one of cases) {
        const why = isFor(layer, one);
        if (why !== null) answers.push({ case: one, layer: name, answer: { notApplicable: why } });
      }
      let done = 0;
      for await (const [one, answer] of opened.answer(wanted)) {
        answers.push({ case: one, layer: name, answer });
        done += 1;
        progress(name, done, wanted.length);
      }
    } finally {
      await opened.close();
    }
  }
  return answers;
}

/** Why a case is not for a layer, or null where it is. Table layers take the other wires' cases as rows. */
function isFor({ can }: Layer, one: Case): string | null {
  const takesRows = can.wires.includes('row');
  if (!can.wires.includes(one.wire) && !takesRows) return `it takes no ${one.wire} records`;
  return !can.store && one.criterion === 'uniqueness' ? 'it does not know the stored records' : null;
}
