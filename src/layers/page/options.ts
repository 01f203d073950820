import type { ExistingKeys } from '../existing-keys.js';
import type { FieldNames } from '../field-names.js';
import type { JudgedOptions } from '../layer.js';

export interface PageOptions extends JudgedOptions {
  /** Where the form of each ruleset is: an address, or an HTML file relative to the configuration. */
  readonly pages: { readonly [ruleset: string]: string };
  /** What it calls controls otherwise than declared. Where it sends JSON, the keys are called the same. */
  readonly names?: FieldNames;
  /** By ruleset, keys of records that the page offers: cases refer to them instead of records of their own. */
  readonly existing?: ExistingKeys;
  /** The form on those pages, as a CSS selector; the first form unless told. */
  readonly form?: string;
  /** The path of Chromium; what the variable CHROMIUM names, or an installed one, unless told. */
  readonly browser?: string;
  /**
   * Where the page shows the fault of a control, as a CSS selector in which `{name}` is the control's name. Unless told,
   * what `aria-describedby` and `aria-errormessage` lead to, and the control's own validity.
   */
  readonly message?: string;
  /** Off for what native attributes say by themselves; on unless told. */
  readonly script?: boolean;
  /** How many tabs are typed into at once: 2 unless told. */
  readonly atOnce?: number;
  /** How long the page may take to send or to show a fault, in milliseconds: 2,000 unless told. */
  readonly timeout?: number;
}
