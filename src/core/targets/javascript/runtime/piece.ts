/** A piece of text that modules are printed with where they use it, and the other pieces that it uses. */
export interface Helper {
  readonly uses: readonly string[];
  readonly text: string;
}
export type Helpers = { readonly [name: string]: Helper };

/** A helper that uses others, and one that uses none. */
export function helper(text: string, ...uses: readonly string[]): Helper {
  return { uses, text };
}
