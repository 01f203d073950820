import type { Path, Place, Row } from './value.js';

/**
 * What expressions can say of a value. Handles belong to domains, so that a new kind of a known domain needs no new
 * handle.
 */
export type Domain = 'text' | 'number' | 'date' | 'boolean' | 'code' | 'reference';

/** One field, lowered to data. `item` is the key's field where this one refers to another ruleset. */
export interface Field<K extends string = string> {
  readonly kind: K;
  readonly path: Path;
  readonly place: Place;
  readonly label: string;
  readonly optional: boolean;
  readonly column: string;
  readonly facets: Row;
  readonly item: Field<K> | null;
}
