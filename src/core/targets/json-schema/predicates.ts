import type { Schema } from '../../declare/index.js';
import { isNumeric, type KnownField, valueDomain, valueField } from '../../kinds/index.js';
import { type Comparator, fieldAt, type Path, type Predicate, type Term, type Value } from '../../model/index.js';
import { atPath, both, escaped, type SchemaNode, stepsOf, thereAt } from './node.js';

type Model = Schema[number];

/** Where a predicate is asked: of a whole document, or of an entry of a list. */
interface Place {
  readonly model: Model;
  /** What a path must begin with, and is left without: `helpers[]`. */
  readonly within: string;
}

/** The documents in which a rule is not broken; null where no keywords say it. */
export function keeping(predicate: Predicate, model: Model): SchemaNode | null {
  const broken = whereIs(predicate, false, { model, within: '' });
  return broken === null ? null : { not: broken };
}

/** What holds of one value where a predicate over nothing else is true; null where it is over more, or no keywords say it. */
export function keepingOf(predicate: Predicate, owner: Path, model: Model): SchemaNode | null {
  const node = whereIs(predicate, true, { model, within: owner });
  const { allOf, ...others } = node ?? {};
  const parts = Array.isArray(allOf) ? (allOf as readonly SchemaNode[]) : [];
  return node === null ? null : parts.reduce(both, others);
}

/** What holds of a list, if it is there: how many entries it has. Null for other predicates, and where none are too few. */
export function keepingCount(predicate: Predicate, owner: Path): SchemaNode | null {
  if (predicate.op !== 'compare' || predicate.left.term !== 'count' || predicate.right.term !== 'literal') return null;
  const { left, by, right } = predicate;
  const limit = Number(right.value);
  if (left.where !== null || left.over !== owner || !isSo(0, by, limit)) return null;
  return counted(by, limit, 'minItems', 'maxItems');
}

/** The documents in which a predicate is true, or in which it is false: in those with an absent value it is neither. */
function whereIs(predicate: Predicate, truth: boolean, place: Place): SchemaNode | null {
  const all = (parts: readonly Predicate[], is: boolean, keyword: 'allOf' | 'anyOf') => {
    const nodes = parts.map((part) => whereIs(part, is, place));
    return nodes.includes(null) ? null : { [keyword]: nodes };
  };
  switch (predicate.op) {
    case 'not':
      return whereIs(predicate.holds, !truth, place);
    case 'and':
      return all(predicate.all, truth, truth ? 'allOf' : 'anyOf');
    case 'or':
      return all(predicate.any, truth, truth ? 'anyOf' : 'allOf');
    case 'given': {
      const there = valueAt(predicate.of, {}, place);
      return there === null || truth ? there : { not: there };
    }
    case 'each':
      return overEntries(predicate.over, predicate.holds, truth, truth, place);
    case 'some':
      return overEntries(predicate.over, predicate.holds, truth, !truth, place);
    case 'member':
      return ofField(predicate.of, place, () => choice({ enum: predicate.among }, truth));
    case 'matches':
      // The vocabulary has patterns without flags, read as Unicode.
      if (predicate.pattern.flags !== 'u') return null;
      return ofField(predicate.of, place, () => choice({ pattern: `^(?:${predicate.pattern.source})$` }, truth));
    case 'includes': {
      const { text, where } = predicate;
      if (text.term !== 'literal') return null;
      const literal = escaped(String(text.value));
      const pattern = { anywhere: literal, start: `^${literal}`, end: `${literal}$` }[where];
      return ofField(predicate.of, place, () => choice({ pattern }, truth));
    }
    case 'multiple':
      return ofField(predicate.of, place, (field) =>
        isNumber(field) ? choice({ multipleOf: Number(predicate.step) }, truth) : null,
      );
    case 'compare':
      return compared(predicate.left, predicate.by, predicate.right, truth, place);
    default:
      return null;
  }
}

function choice(node: SchemaNode, truth: boolean): SchemaNode {
  return truth ? node : { not: node };
}

function overEntries(list: Path, holds: Predicate, truth: boolean, isEvery: boolean, place: Place): SchemaNode | null {
  const node = whereIs(holds, truth, { ...place, within: `${list}[]` });
  if (node === null || place.within !== '') return null;
  // No entries at all: each of them holds, and none does.
  const there = thereAt(list, { contains: node });
  return isEvery ? atPath(list, { items: node }) : there;
}

/** What holds of the value at a path, which must be there. */
function valueAt(path: Path, leaf: SchemaNode, { within }: Place): SchemaNode | null {
  if (within === '') return thereAt(path, leaf);
  if (path === within) return leaf;
  return path.startsWith(`${within}.`) ? thereAt(path.slice(within.length + 1), leaf) : null;
}

function ofField(term: Term, place: Place, leaf: (field: KnownField) => SchemaNode | null): SchemaNode | null {
  if (term.term !== 'field') return null;
  const field = fieldAt(place.model, term.path);
  const node = field.generated === null ? leaf(field) : null;
  return node === null ? null : valueAt(term.path, node, place);
}

const opposite: { readonly [C in Comparator]: Comparator } = { '=': '=', '<': '>', '<=': '>=', '>': '<', '>=': '<=' };

function compared(left: Term, by: Comparator, right: Term, truth: boolean, place: Place): SchemaNode | null {
  if (left.term === 'literal' && right.term !== 'literal') return compared(right, opposite[by], left, truth, place);
  if (right.term !== 'literal') return null;
  const { value } = right;
  if (left.term === 'length')
    return ofField(left.of, place, () => choice(counted(by, Number(value), 'minLength', 'maxLength'), truth));
  if (left.term === 'count') {
    if (left.where !== null || place.within !== '') return null;
    const node = counted(by, Number(value), 'minItems', 'maxItems');
    // A list that is not there has no entries.
    const isEmptyRight = isSo(0, by, Number(value)) === truth;
    const of = stepsOf(left.over).length === 1 ? { properties: { [left.over]: choice(node, truth) } } : null;
    return of === null ? null : isEmptyRight ? of : { ...of, required: [left.over] };
  }
  if (left.term === 'rank') {
    const among = left.among.filter((_, rank) => isSo(rank, by, Number(value)));
    return ofField(left.of, place, () => choice({ enum: among }, truth));
  }
  return ofField(left, place, (field) => {
    const limit = limited(field, by, value);
    return limit === null ? null : choice(limit, truth);
  });
}

function isSo(a: number, by: Comparator, b: number): boolean {
  return { '=': a === b, '<': a < b, '<=': a <= b, '>': a > b, '>=': a >= b }[by];
}

function counted(by: Comparator, limit: number, least: string, most: string): SchemaNode {
  const whole = {
    '=': [limit, limit],
    '<': [0, Math.ceil(limit) - 1],
    '<=': [0, Math.floor(limit)],
    '>': [Math.floor(limit) + 1, null],
    '>=': [Math.ceil(limit), null],
  }[by];
  const [from, to] = whole as [number, number | null];
  // Nothing has fewer than none.
  if (to !== null && to < 0) return { not: {} };
  return { ...(from > 0 ? { [least]: from } : {}), ...(to === null ? {} : { [most]: to }) };
}

/** A limit of a number; of other values no keyword says more than that they are the same. */
function limited(field: KnownField, by: Comparator, value: Value): SchemaNode | null {
  if (by === '=') return isNumber(field) ? { const: Number(value) } : { const: value };
  if (!isNumber(field)) return null;
  const keyword = { '<': 'exclusiveMaximum', '<=': 'maximum', '>': 'exclusiveMinimum', '>=': 'minimum' }[by];
  return { [keyword]: Number(value) };
}

/** A decimal of more digits than a number holds is a text. */
function isNumber(field: KnownField): boolean {
  const held = valueField(field);
  const isWhole = held.facets.precision === undefined;
  return valueDomain(held) === 'number' && (isWhole || isNumeric(held));
}
