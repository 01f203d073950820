import { mostKeys } from '../meaning/index.js';
import { type Criterion, carried } from './context.js';

/** More keys than are read of most records, made once, as that takes longer than all the rest. */
const plenty = keysBeyond(mostKeys({}));

/** Keys that are not declared are refused, at their own pointer. */
export const keys: Criterion = (context) => {
  const { model, base } = context;
  const first = Object.keys(model.fields)[0] ?? '';
  const strange: readonly (readonly [key: string, words: string])[] = [
    ['surprise', 'a key that is not declared'],
    ['__proto__', 'a key that could reach the prototype'],
    ['constructor', 'a key that every object inherits'],
    [first.toUpperCase(), 'a declared name in capitals'],
    ['a/b~c', 'a key that a JSON Pointer must escape'],
    ['', 'a key without a name'],
    [`${first} `, 'a declared name with a space behind it'],
    ['hasOwnProperty', 'a key that hides a question asked of objects'],
  ];
  const isStrange = ([key]: readonly [string, string]) => !Object.hasOwn(model.fields, key);
  const most = mostKeys(model.fields);
  const many = most === mostKeys({}) ? plenty : keysBeyond(most);
  const tooMany = { constraint: `${model.ruleset}.limits`, reason: 'more keys than anybody reads' };
  const limits = { ...tooMany, wire: 'json' as const, input: many };
  const told = (['form', 'json'] as const).flatMap((wire) =>
    strange.filter(isStrange).map(([key, reason]) => {
      // fromEntries makes __proto__ an ordinary key.
      const input = Object.fromEntries([...Object.entries(carried(context, base, wire)), [key, 'x']]);
      return { constraint: `${model.ruleset}.keys`, reason, wire, input };
    }),
  );
  return [...told, limits];
};

function keysBeyond(most: number): { readonly [key: string]: number } {
  return Object.freeze(Object.fromEntries(Array.from({ length: most + 1 }, (_, at) => [`k${at}`, 0])));
}
