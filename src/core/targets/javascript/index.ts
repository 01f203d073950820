import type { Target } from '../target.js';
import { emitModules } from './emit.js';
import { ledgerOf } from './fidelity.js';

/** Standalone ES modules for client and server alike. */
export const javascript: Target = { ledger: ledgerOf, problems: () => [], emit: emitModules };
