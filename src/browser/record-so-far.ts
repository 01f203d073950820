import { concealedIn } from './concealed.js';
import { controlAt, entriesOf } from './controls.js';
import type { Rules } from './types.js';

/**
 * The canonical record as far as the form is right: what is blank, wrong or secret is left out. For a live view while a form is
 * filled in.
 */
export function recordSoFar<T>(form: HTMLFormElement, rules: Rules<T>): Partial<T> {
  const entries = entriesOf(form);
  const concealed = concealedIn(rules);
  for (const [name, value] of Object.entries(entries)) {
    if (typeof value === 'string' && value.trim() === '') delete entries[name];
    if (concealed.includes(name)) delete entries[name];
  }
  for (;;) {
    const checked = rules.check(entries, { wire: 'form', on: 'client', partial: true });
    if (checked.ok) return checked.value;
    const wrong = checked.violations.flatMap(({ pointer }) => controlAt(form, pointer)?.name ?? []);
    const named = Object.keys(entries).filter((name) =>
      wrong.some((one) => name === one || name.startsWith(`${one}[`)),
    );
    // What no control of the form explains can't be left out.
    if (named.length === 0) return {};
    for (const name of named) delete entries[name];
  }
}
