import { add, compareExact, type Exact, exactOf, multiply, subtract, type Term } from '../../model/index.js';
import { FINEST, type OrderedDomain, stepOf } from '../order/units.js';
import { all, type Formula, type Key, present } from './formula.js';
import type { Lowering } from './lower.js';
import type { Space } from './space.js';
import { namedTerm } from './terms.js';

/** A sum of values, each times a factor, and a constant, in units of numbers; exactly. */
export interface Sum {
  readonly factors: ReadonlyMap<Key, Exact>;
  readonly constant: Exact;
  /** What must be there for the sum to be worth something. */
  readonly needs: Formula;
}

const ONE: Exact = { digits: 1n, scale: 0 };
const ZERO: Exact = { digits: 0n, scale: 0 };
/** A time counts in so many seconds. */
const SECONDS: Exact = { digits: 1n, scale: FINEST };

/** A term that is compared as a number or a moment, as a sum. */
export function sumOf(term: Term, domain: OrderedDomain, lowering: Lowering): Sum {
  const { space } = lowering;
  const alone = (key: Key, factor = ONE): Sum => ({
    factors: new Map([[key, factor]]),
    constant: ZERO,
    needs: present(key),
  });
  // Numbers count in their last digit; what counts in other units is told in ones.
  const unit: Exact = { digits: 1n, scale: domain === 'number' ? space.scale : 0 };
  switch (term.term) {
    case 'field': {
      const { derivation } = space.field(term.path);
      return derivation === null ? alone(term.path, unit) : sumOf(derivation, domain, lowering);
    }
    case 'literal': {
      const count = domain === 'number' ? exactOf(term.value) : wholeOf(space.count(term.value, domain));
      return { factors: new Map(), constant: count ?? ZERO, needs: count !== null };
    }
    case 'clock':
      return { ...alone(clockKey(space, term.reads), ONE), needs: true };
    case 'count':
      if (term.where !== null) return alone(namedTerm(term, 'number', lowering), unit);
      return { ...alone(countKey(space, term.over), unit), needs: true };
    case 'sum':
    case 'difference': {
      const [left, right] = term.of.map((one) => sumOf(one, 'number', lowering)) as [Sum, Sum];
      return added(left, right, term.term === 'sum' ? add : subtract);
    }
    case 'product': {
      const [left, right] = term.of.map((one) => sumOf(one, 'number', lowering)) as [Sum, Sum];
      const [number, other] = left.factors.size === 0 ? [left, right] : [right, left];
      if (number.factors.size > 0) return alone(namedTerm(term, 'number', lowering), unit);
      return { ...scaled(other, number.constant), needs: all(left.needs, right.needs) };
    }
    case 'days': {
      const [from, to] = term.of.map((one) => sumOf(one, 'date', lowering)) as [Sum, Sum];
      return added(to, from, subtract);
    }
    case 'seconds': {
      const [from, to] = term.of.map((one) => sumOf(one, 'time', lowering)) as [Sum, Sum];
      const difference = added(to, from, subtract);
      return { ...scaled(difference, SECONDS), constant: multiply(difference.constant, SECONDS) };
    }
    default:
      return alone(namedTerm(term, domain, lowering), unit);
  }
}

/** The key of how many items a list has. */
export function countKey(space: Space, list: string): Key {
  return space.make(`count ${list}`, 'number', { low: 0n, step: 10n ** BigInt(space.scale) }, 1);
}

/** A moment that the clock may stand at, where it makes no difference. */
const usualDay = '2026-03-02';

/** The key of what the clock says: it is the same wherever a rule asks, and may be any. */
function clockKey(space: Space, reads: 'today' | 'now'): Key {
  if (reads === 'today') return space.make('today()', 'date', {}, usualDay);
  return space.make('now()', 'instant', { step: stepOf(0) }, `${usualDay}T12:00:00Z`);
}

function wholeOf(count: bigint | null): Exact | null {
  return count === null ? null : { digits: count, scale: 0 };
}

function added(left: Sum, right: Sum, by: (a: Exact, b: Exact) => Exact): Sum {
  const factors = new Map(left.factors);
  for (const [key, factor] of right.factors) factors.set(key, by(factors.get(key) ?? ZERO, factor));
  return { factors, constant: by(left.constant, right.constant), needs: all(left.needs, right.needs) };
}

function scaled(sum: Sum, by: Exact): Sum {
  const factors = new Map([...sum.factors].map(([key, factor]) => [key, multiply(factor, by)]));
  return { ...sum, factors, constant: multiply(sum.constant, by) };
}

/** That one sum is at most another; strictly less where `strict`. Both sides are brought to whole numbers first. */
function atMost(left: Sum, right: Sum, strict: boolean): Formula {
  const { factors, constant } = added(left, right, subtract);
  const used = [...factors].filter(([, { digits }]) => digits !== 0n);
  const scale = Math.max(constant.scale, ...used.map(([, factor]) => factor.scale));
  const whole = ({ digits, scale: own }: Exact) => digits * 10n ** BigInt(scale - own);
  const most = -whole(constant) - (strict ? 1n : 0n);
  if (used.length === 0) return strict ? compareExact(constant, ZERO) < 0 : compareExact(constant, ZERO) <= 0;
  return { is: 'linear', sum: used.map(([key, factor]) => [key, whole(factor)]), most };
}

/** When a comparison of two sums holds, as far as both are worth something. */
export function compared(left: Sum, by: '=' | '<' | '<=' | '>' | '>=', right: Sum): Formula {
  if (by === '<' || by === '<=') return atMost(left, right, by === '<');
  if (by === '>' || by === '>=') return atMost(right, left, by === '>');
  return all(atMost(left, right, false), atMost(right, left, false));
}

/** That a sum is a whole multiple of a step; null where it is not of a single value. */
export function multipleOf(sum: Sum, step: Exact): Formula | null {
  const [only, ...more] = [...sum.factors];
  if (only === undefined || more.length > 0 || sum.constant.digits !== 0n) return null;
  const [key, factor] = only;
  // The factor of a plain field, or of a time in seconds, is one unit of what it counts in.
  if (factor.digits !== 1n || step.scale > factor.scale) return null;
  return { is: 'multiple', of: key, step: step.digits * 10n ** BigInt(factor.scale - step.scale), yes: true };
}
