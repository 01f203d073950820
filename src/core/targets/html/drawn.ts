import type { KnownField } from '../../kinds/index.js';
import { type TextPattern, textPattern } from './predicates.js';
import { type Control, controlOf, inEnglish, type Say } from './types.js';

/** What fields are drawn as, each once: a pattern takes time to be put into an attribute. */
export class Drawn {
  readonly #say: Say;
  readonly #controls = new Map<KnownField, Control>();
  /** The same within an optional record, where all may stay blank. */
  readonly #optional = new Map<KnownField, Control>();
  readonly #patterns = new Map<KnownField, TextPattern>();

  /** @param say the words of the controls; English unless told */
  constructor(say: Say = inEnglish) {
    this.#say = say;
  }

  /** The control of a field that is no reference to be chosen from a list. */
  control(field: KnownField, inOptional = false): Control {
    const drawn = inOptional ? this.#optional : this.#controls;
    const known = drawn.get(field) ?? (inOptional ? this.#optionalOf(field) : controlOf(field, this.#say));
    drawn.set(field, known);
    return known;
  }

  pattern(field: KnownField): TextPattern {
    const known = this.#patterns.get(field) ?? textPattern(field);
    this.#patterns.set(field, known);
    return known;
  }

  #optionalOf(field: KnownField): Control {
    const control = this.control(field);
    if (control.element !== 'checkbox')
      return field.optional ? control : controlOf({ ...field, optional: true }, this.#say);
    // A box that is not ticked says nothing, and is left as it is.
    const { required, ...others } = control.attributes;
    return { ...control, attributes: others };
  }
}
