import { useCallback, useRef, useState } from 'react';
import { type BindOptions, type Bound, bind } from './bind.js';
import type { Checked, Rules, Violation } from './types.js';

/** What a component needs of its form. */
export interface BoundForm<T> {
  /** The form's `ref`: `<form ref={form}>`. Its controls are left to the browser: give them `defaultValue`s. */
  readonly form: (element: HTMLFormElement | null) => void;
  /** What the form is now; null before it is there. */
  readonly checked: Checked<T> | null;
  /** Shows violations from elsewhere, such as a server's. */
  readonly show: (violations: readonly Violation[]) => void;
}

/**
 * Binds a component's form to its rules, as `bind` does. The newest `live` and `send` are the ones that are called.
 *
 * @param rules the compiled module of the form's ruleset; the same object each time
 */
export function useBoundForm<T>(rules: Rules<T>, options: BindOptions<T> = {}): BoundForm<T> {
  const latest = useRef(options);
  latest.current = options;
  const bound = useRef<Bound<T> | null>(null);
  const [checked, setChecked] = useState<Checked<T> | null>(null);
  const form = useCallback(
    (element: HTMLFormElement | null) => {
      bound.current?.unbind();
      bound.current = null;
      if (element === null) return;
      const { live: _, send, ...others } = latest.current;
      bound.current = bind(element, rules, {
        ...others,
        live(now) {
          setChecked(now);
          latest.current.live?.(now);
        },
        ...(send === undefined ? {} : { send: async (value, sent) => latest.current.send?.(value, sent) }),
      });
    },
    [rules],
  );
  const show = useCallback((violations: readonly Violation[]) => bound.current?.show(violations), []);
  return { form, checked, show };
}
