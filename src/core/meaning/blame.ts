import { type Constraint, pointerToKey, pointerToPath, type Violation } from '../model/index.js';

/** Step four: a broken constraint as violations, at the field it blames; each strange key is told at its own pointer. */
export function blame({ id, blame: path, message, predicate }: Constraint, strangeKeys: readonly string[]) {
  const pointers = predicate.op === 'closed' ? strangeKeys.map(pointerToKey) : [pointerToPath(path)];
  return pointers.map((pointer): Violation => ({ pointer, rule: id, message }));
}
