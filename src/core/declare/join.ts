import { ProblemError, problems } from '../messages/index.js';
import { placeOfCaller } from './place.js';

type Names = { readonly [name: string]: unknown };
/** Names that both have: a call with any does not compile. */
type Repeated<A, B> = keyof A & keyof B;
type Apart<A, B> = [Repeated<A, B>] extends [never]
  ? B
  : B & { readonly [K in Repeated<A, B> & string]: `${K} is named twice` };
type Joined<A, B> = { readonly [K in keyof A | keyof B]: K extends keyof A ? A[K] : K extends keyof B ? B[K] : never };

/**
 * Puts two bundles together: of fields, or of rules. A name that both have does not compile.
 *
 * @throws ProblemError `name_repeated` for such a name where the types were passed by
 */
export function join<const A extends Names, const B extends Names>(a: A, b: Apart<A, B>): Joined<A, B> {
  const twice = Object.keys(a).filter((name) => Object.hasOwn(b, name));
  const place = placeOfCaller(1);
  if (twice.length > 0) throw new ProblemError(twice.map((name) => problems.nameRepeated(place, name)));
  return { ...a, ...b } as unknown as Joined<A, B>;
}
