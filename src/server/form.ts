import type { AnyRuleset } from '../core/declare/index.js';
import { type FormState, formText } from '../core/targets/index.js';

/**
 * The form of a ruleset as HTML: empty, with a stored record, or with what was sent and what is wrong with it. Every text
 * is escaped; it needs no script and no style of its own.
 */
export function formHtml({ model }: AnyRuleset, state: FormState = {}): string {
  return formText(model, state);
}
