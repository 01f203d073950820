import { canonicalValue } from '../kinds/index.js';
import { fieldAt, type Model, type Path, type Value, type Wire } from '../model/index.js';

/** Values in canonical form. On the row wire nothing is changed; what is not canonical there is told. */
export interface Canonical {
  readonly values: ReadonlyMap<Path, Value>;
  readonly notCanonical: ReadonlySet<Path>;
}

/** Step two: puts each value into its canonical form. Doing it twice gives the same as once. */
export function canonicalise(model: Model, values: ReadonlyMap<Path, Value>, wire: Wire): Canonical {
  const canonical = new Map<Path, Value>();
  const notCanonical = new Set<Path>();
  for (const [path, value] of values) {
    const form = canonicalValue(fieldAt(model, path), value);
    if (wire === 'row' && form !== value) notCanonical.add(path);
    canonical.set(path, wire === 'row' ? value : form);
  }
  return { values: canonical, notCanonical };
}
