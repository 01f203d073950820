import type { Schema } from '../../core/declare/index.js';
import { canonicalValue, isTextual, type KnownField, kinds, valueDomain, valueField } from '../../core/kinds/index.js';
import { decide } from '../../core/meaning/index.js';
import {
  type Case,
  compareExact,
  exactOf,
  type Row,
  type Tolerance,
  type Value,
  type Violation,
} from '../../core/model/index.js';

type Fields = { readonly [name: string]: KnownField };
type Given = { readonly [key: string]: unknown };

/**
 * True where a column made a valid value of one that is none, as its tolerances allow: what is broken is about values that
 * were converted, and nothing else became another.
 */
export function isConversion(
  one: Case,
  refused: readonly Violation[],
  stored: Row,
  model: Schema[number],
  lenient: ReadonlySet<Tolerance>,
): boolean {
  if (!lenient.has('typeConversion') && !lenient.has('roundedFractions')) return false;
  if (one.wire !== 'row' || typeof one.input !== 'object' || one.input === null) return false;
  const changes = changesIn(one.input as Given, stored, model.fields);
  const isAllowed = changes.every((change) => isConverted(change, lenient));
  const owners = new Set(changes.map(({ field }) => field.path));
  const isAbout = refused.every(({ rule }) => {
    const broken = model.constraints.find(({ id }) => id === rule);
    return broken !== undefined && owners.has(broken.owner);
  });
  return changes.length > 0 && isAllowed && isAbout && 'accepted' in decide(model, stored, 'row', { clock: one.clock });
}

interface Change {
  readonly field: KnownField;
  readonly given: unknown;
  readonly stored: Value;
}

/** The values that were stored otherwise than they were given. */
function changesIn(given: Given, stored: Row, fields: Fields): readonly Change[] {
  return Object.entries(fields).flatMap(([name, field]) => {
    if (!Object.hasOwn(given, name)) return [];
    return changesOf(field, given[name], Object.hasOwn(stored, name) ? (stored[name] ?? null) : null);
  });
}

function changesOf(field: KnownField, given: unknown, stored: Value): readonly Change[] {
  if (JSON.stringify(given ?? null) === JSON.stringify(stored)) return [];
  const { fields, item } = field;
  const isRecord = (value: unknown) => typeof value === 'object' && value !== null && !Array.isArray(value);
  if (fields !== null && isRecord(given) && isRecord(stored)) return changesIn(given as Given, stored as Row, fields);
  if (item !== null && Array.isArray(given) && Array.isArray(stored) && given.length === stored.length)
    return given.flatMap((entry, at) => changesOf(item, entry, stored[at] ?? null));
  return [{ field, given, stored }];
}

function isConverted({ field, given, stored }: Change, lenient: ReadonlySet<Tolerance>): boolean {
  if (stored === null || given === null || given === undefined || typeof given === 'object') return false;
  const inner = valueField(field);
  const domain = valueDomain(field);
  if (isTextual(inner) && typeof given === 'string') {
    // Of text whose spelling facets say, another spelling is another text.
    const isOtherSpelling = !('trim' in kinds[inner.kind].facets) && canonicalValue(inner, given) === stored;
    return isOtherSpelling && lenient.has('typeConversion');
  }
  if (domain === 'code' && String(given) !== String(stored)) return false;
  const isOtherType = typeof given !== typeof stored;
  if (isOtherType && !lenient.has('typeConversion')) return false;
  if (domain === 'number') return isSameNumber(given, stored, lenient);
  if (domain === 'time' || domain === 'instant' || domain === 'local') {
    const isCut = /\.[0-9]+/.test(String(given));
    return lenient.has(isCut ? 'roundedFractions' : 'typeConversion');
  }
  return lenient.has('typeConversion');
}

/** The number that was given, or the next one that the column can hold. */
function isSameNumber(given: unknown, stored: Value, lenient: ReadonlySet<Tolerance>): boolean {
  const [one, other] = [exactOf(given) ?? exactOf(Number(given)), exactOf(stored)];
  if (one === null || other === null) return typeof given === 'boolean' && lenient.has('typeConversion');
  if (compareExact(one, other) === 0) return lenient.has('typeConversion');
  return lenient.has('roundedFractions') && Math.abs(Number(given) - Number(stored)) < 1;
}
