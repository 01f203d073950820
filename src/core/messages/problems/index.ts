import { ofDeclarations } from './declarations.js';
import { ofProjects } from './projects.js';

/** One entry a problem; the code is the name in snake case and the anchor in docs/problems.md. */
export const problems = { ...ofDeclarations, ...ofProjects } as const;
