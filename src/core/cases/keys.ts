import { type Criterion, carried } from './context.js';

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
  ];
  return (['form', 'json'] as const).flatMap((wire) =>
    strange.map(([key, reason]) => {
      // fromEntries makes __proto__ an ordinary key.
      const input = Object.fromEntries([...Object.entries(carried(context, base, wire)), [key, 'x']]);
      return { constraint: `${model.ruleset}.keys`, reason, wire, input };
    }),
  );
};
