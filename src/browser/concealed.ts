import type { Checked, Rules } from './types.js';

/** The fields whose values are never shown: secrets, and what repeats them. */
export function concealedIn<T>({ fields = {} }: Rules<T>): readonly string[] {
  return Object.keys(fields).filter((path) => fields[path]?.concealed === true);
}

/** What was checked, without what is secret in it. */
export function withoutSecrets<T>(checked: Checked<T>, rules: Rules<T>): Checked<T> {
  const secrets = concealedIn(rules);
  if (!checked.ok || secrets.length === 0) return checked;
  const shown = Object.entries(checked.value as object).filter(([name]) => !secrets.includes(name));
  return { ok: true, value: Object.fromEntries(shown) as T };
}
