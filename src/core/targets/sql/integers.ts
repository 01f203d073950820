import type { KnownField } from '../../kinds/index.js';
import { column, type Sql } from './tree.js';

/** The range of an integer field; where a limit is not declared, that of the safe integers. */
export function rangeOf({ facets }: KnownField): { readonly least: number; readonly most: number } {
  const least = typeof facets.min === 'number' ? facets.min : Number.MIN_SAFE_INTEGER;
  const most = typeof facets.max === 'number' ? facets.max : Number.MAX_SAFE_INTEGER;
  return { least, most };
}

/** That a value is a safe integer; null where the declared limits say more already. */
export function safeInteger(field: KnownField): Sql | null {
  if (typeof field.facets.min === 'number' && typeof field.facets.max === 'number') return null;
  const [low, high] = [{ number: Number.MIN_SAFE_INTEGER }, { number: Number.MAX_SAFE_INTEGER }];
  return { between: column(field.column), low, high };
}

/** The first of an engine's integer types, each with its bits, that holds the range of a field; `largest` if none does. */
export function smallestType(
  field: KnownField,
  types: readonly (readonly [type: string, bits: number])[],
  largest: string,
): string {
  const { least, most } = rangeOf(field);
  return types.find(([, bits]) => least >= -(2 ** (bits - 1)) && most < 2 ** (bits - 1))?.[0] ?? largest;
}
