import type { Target } from '../target.js';
import { emitForms } from './emit.js';
import { ledgerOf, nativeControl } from './fidelity.js';

export { formText } from './form.js';
export type { FormState, Options } from './state.js';

/** Native form controls and their attributes, read as the HTML standard says. */
export const html: Target = {
  ledger: ledgerOf,
  problems: () => [],
  emit: emitForms,
  standsAlone: false,
  whole: nativeControl,
};
