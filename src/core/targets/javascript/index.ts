import type { Target } from '../target.js';
import { emitModules } from './emit.js';
import { ledgerOf } from './fidelity.js';
import { unsafePatterns } from './matchers.js';

/** Standalone ES modules for client and server alike. */
export const javascript: Target = { ledger: ledgerOf, problems: unsafePatterns, emit: emitModules, standsAlone: true };
