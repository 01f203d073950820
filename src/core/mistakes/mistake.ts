import type { Schema } from '../declare/index.js';
import type { Path, Pattern } from '../model/index.js';
import type { TargetName } from '../targets/index.js';

type Model = Schema[number];

/** A declaration with one mistake in it, as if somebody had written that rule wrongly in one layer. */
export interface Rewrite {
  readonly model: Model;
  /** What is wrong, in words. */
  readonly words: string;
  /** The constraint that the mistake is about. */
  readonly constraint: string;
}

/** A kind of mistake in what is declared: every place of a ruleset where it can be made. */
export type Rewriting = (model: Model) => readonly Rewrite[];

/** A place of an emitted text where a mistake can be made: the text with it, and the constraint it is about, if about one. */
export interface CodeEdit {
  readonly text: string;
  readonly words: string;
  readonly constraint?: string;
}

/** A kind of mistake in the emitted code of one target. */
export interface CodeMistake {
  /** Every place of the text where it can be made. */
  edits(text: string, model: Model): readonly CodeEdit[];
  /** The texts that a layer with the mistake takes otherwise: where no field holds one, it makes no difference. */
  readonly matters: Pattern | null;
}

/** The kinds of mistakes in the emitted code of one target, by their names. */
export type CodeMistakes = { readonly [mistake: string]: CodeMistake };

/** What a mutant is made from, and what of it is another text than before. */
export interface Mutant {
  /** `<layer>/<mistake>/<constraint>`, and a number where a mistake can be made there in several ways. */
  readonly id: string;
  readonly layer: TargetName | 'store';
  readonly mistake: string;
  readonly words: string;
  readonly ruleset: string;
  /** The constraint, or the ruleset's own type where it is about none. */
  readonly constraint: string;
  readonly plant: Plant;
}

/** How a mistake is put into a layer. */
export type Plant =
  | { readonly model: Model }
  | { readonly text: string; readonly matters: Pattern | null }
  | { readonly handling: string; readonly path: Path | null };

/** Whether a mutant that no case tells apart does the same as what it was made from. */
export type Likeness =
  | { readonly is: 'equivalent'; readonly why: string }
  | { readonly is: 'different' }
  | { readonly is: 'undecided'; readonly why: string };
