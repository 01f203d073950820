import type { LayerName } from '../../core/mistakes/index.js';

/** What became of one mutant. */
export interface MutantOutcome {
  readonly id: string;
  readonly layer: LayerName;
  readonly mistake: string;
  readonly words: string;
  readonly ruleset: string;
  readonly constraint: string;
  /** Told apart by a case; the same by proof; not decided; or not told apart, though it differs. */
  readonly outcome: 'killed' | 'equivalent' | 'undecided' | 'survived';
  /** The case that tells it apart first, or null. */
  readonly by: string | null;
  /** What the case shows, why it is equivalent, or why that is not decided. */
  readonly why: string;
  /** The first lines of the layer's text that differ. */
  readonly shown: { readonly was: string; readonly is: string };
}

export interface LayerStrength {
  readonly layer: LayerName;
  readonly mutants: number;
  readonly killed: number;
  readonly equivalent: number;
  readonly undecided: number;
  readonly survived: number;
}

/** How strong the cases are: mistakes planted in every compiled layer, and what became of them. */
export interface Strength {
  readonly rulesets: readonly string[];
  readonly cases: number;
  /** How many kinds of mistakes were planted somewhere. */
  readonly mistakes: number;
  readonly layers: readonly LayerStrength[];
  readonly mutants: readonly MutantOutcome[];
  /** Layers in which nothing was planted, and why. */
  readonly leftOut: readonly { readonly layer: string; readonly why: string }[];
  /** Cases that the layers disagree on without any mistake: they tell nothing. */
  readonly unsound: readonly string[];
}

/** The figures of each layer. */
export function byLayer(mutants: readonly MutantOutcome[]): readonly LayerStrength[] {
  const layers = [...new Set(mutants.map(({ layer }) => layer))];
  return layers.map((layer) => {
    const own = mutants.filter((one) => one.layer === layer);
    const count = (outcome: MutantOutcome['outcome']) => own.filter((one) => one.outcome === outcome).length;
    return {
      layer,
      mutants: own.length,
      killed: count('killed'),
      equivalent: count('equivalent'),
      undecided: count('undecided'),
      survived: count('survived'),
    };
  });
}

/** The first lines that differ between two texts, without what stands around them. */
export function firstDifference(before: string, after: string): MutantOutcome['shown'] {
  const [was, is] = [withoutMarks(before).split('\n'), withoutMarks(after).split('\n')];
  let start = 0;
  while (start < was.length && was[start] === is[start]) start += 1;
  let end = 0;
  while (end < was.length - start && end < is.length - start && was.at(-1 - end) === is.at(-1 - end)) end += 1;
  const part = (lines: readonly string[]) =>
    lines
      .slice(start, Math.min(lines.length - end, start + 3))
      .map((line) => line.trim())
      .join(' ');
  return { was: part(was), is: part(is) };
}

/** A text without the digests of what it was made from. */
export function withoutMarks(text: string): string {
  return text.replace(/echo-rule [0-9a-f]{16}/g, 'echo-rule');
}
