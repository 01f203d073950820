import { html } from './html/index.js';
import { javascript } from './javascript/index.js';
import { postgresql } from './postgresql/index.js';
import { sqlite } from './sqlite/index.js';
import type { Target } from './target.js';

/** What constraints are compiled for: a new target is a folder beside these, and a name here. */
export const targets = { javascript, html, postgresql, sqlite } satisfies { readonly [name: string]: Target };
export type TargetName = keyof typeof targets;
export const targetNames = Object.keys(targets) as readonly TargetName[];

export { constraintName, quoteName } from './sql/index.js';
export type { MadeFile, Target } from './target.js';
