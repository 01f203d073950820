import { edgesOf, type KnownField, valueDomain } from '../kinds/index.js';
import type { Value } from '../model/index.js';
import { tableTargets } from '../targets/index.js';
import { type Criterion, changed, facetOf } from './context.js';
import { singleFields } from './places.js';

/** The bits of each integer type of the engines; SQL's names, and those that engines add. */
const BITS: { readonly [type: string]: number } = {
  tinyint: 8,
  smallint: 16,
  mediumint: 24,
  int: 32,
  integer: 32,
  bigint: 64,
};

/** The edges of the type of each engine's column: the last number that it holds, and the next, on both ends. */
export const columns: Criterion = (context) =>
  singleFields(context.model)
    .filter((field) => valueDomain(field) === 'number')
    .flatMap((field) => {
      const known = new Set(edgesOf(field).map(({ value }) => value));
      const constraint = facetOf(context, field.path, 'type');
      return widthsOf(field, context)
        .flatMap((bits): readonly (readonly [value: Value, words: string])[] => [
          [2 ** (bits - 1) - 1, `the greatest number of ${bits} bits`],
          [2 ** (bits - 1), `one more than the greatest number of ${bits} bits`],
          [-(2 ** (bits - 1)), `the least number of ${bits} bits`],
          [-(2 ** (bits - 1)) - 1, `one less than the least number of ${bits} bits`],
        ])
        .filter(([value]) => Number.isSafeInteger(value) && !known.has(value))
        .flatMap(([value, reason]) =>
          changed(context, { [field.path]: value }, { constraint: rightFor(value), reason }),
        );

      /** The limit that such a number breaks, where it breaks one. */
      function rightFor(value: Value): string {
        return context.brokenWith(field.path, value)[0] ?? constraint;
      }
    });

function widthsOf(field: KnownField, { model, schema }: Parameters<Criterion>[0]): readonly number[] {
  const types = Object.values(tableTargets).map((target) => target.columnType(field, model, schema));
  const bits = types.flatMap((type) => {
    const name = /^[a-z]+(?![a-z(])/.exec(type?.toLowerCase() ?? '')?.[0];
    return name !== undefined && Object.hasOwn(BITS, name) ? [BITS[name] ?? 0] : [];
  });
  return [...new Set(bits)].sort((a, b) => a - b);
}
