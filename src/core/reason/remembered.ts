/**
 * What is worked out once and asked for again and again, by every facet and target. The one module that keeps state: it
 * holds nothing but what follows from its key.
 */
const byObject = new WeakMap<object, Map<string, unknown>>();
const byText = new Map<string, unknown>();

/** So many texts are remembered. */
const MOST_TEXTS = 1_000;

/** What is worked out from an object that never changes, for as long as the object lives. */
export function rememberedOf<V>(key: object, what: string, make: () => V): V {
  const known = byObject.get(key) ?? new Map<string, unknown>();
  byObject.set(key, known);
  if (!known.has(what)) known.set(what, make());
  return known.get(what) as V;
}

/** What was remembered of an object; undefined where nothing was. */
export function recalled<V>(key: object, what: string): V | undefined {
  return byObject.get(key)?.get(what) as V | undefined;
}

/** What is worked out from a text; the oldest are forgotten. */
export function rememberedText<V>(key: string, make: () => V): V {
  if (!byText.has(key)) {
    const made = make();
    const [oldest] = byText.keys();
    if (byText.size >= MOST_TEXTS && oldest !== undefined) byText.delete(oldest);
    byText.set(key, made);
  }
  return byText.get(key) as V;
}
