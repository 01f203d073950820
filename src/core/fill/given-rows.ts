import { Taken } from '../cases/taken.js';
import { decider } from '../decider/index.js';
import type { Schema } from '../declare/index.js';
import { read } from '../meaning/index.js';
import type { Place, Row, Violation, Wire } from '../model/index.js';
import { keyOf } from './record-maker.js';

/** A row that somebody wrote, as it was read, and where it stands. */
export interface GivenRow {
  readonly place: Place;
  readonly input: unknown;
  readonly wire: Wire;
}

/** Rows in canonical form, and what is wrong with others. */
export interface CheckedRows {
  readonly rows: readonly Row[];
  readonly refused: readonly { readonly place: Place; readonly violations: readonly Violation[] }[];
}

/**
 * Holds rows against the rules of their ruleset, and against each other where they must differ.
 *
 * @param stored the rows of the rulesets that it refers to
 */
export function checkRows(
  given: readonly GivenRow[],
  model: Schema[number],
  schema: Schema,
  stored: (ruleset: string) => readonly Row[],
): CheckedRows {
  const decide = decider(model);
  const taken = new Taken(model);
  const rows: Row[] = [];
  const refused: CheckedRows['refused'][number][] = [];
  const keys = new Map(schema.map((one) => [one.ruleset, new Set(stored(one.ruleset).map((row) => keyOf(one, row)))]));
  for (const { place, input, wire } of given) {
    const verdict = decide(input, wire, { clock: { instant: '2026-03-02T12:00:00Z' } });
    if ('refused' in verdict) {
      refused.push({ place, violations: verdict.refused });
      continue;
    }
    const row = verdict.accepted;
    const violations = [
      ...taken.brokenBy(row).map((rule) => ({ pointer: `/${rule.blame}`, rule: rule.id, message: rule.message })),
      ...model.constraints.flatMap(({ id, predicate, blame, message }) => {
        if (predicate.op !== 'refersTo' || predicate.of.includes('[]')) return [];
        const key = row[predicate.of] ?? null;
        const own = predicate.to === model.ruleset && rows.some((other) => keyOf(model, other) === key);
        const isThere = key === null || own || keys.get(predicate.to)?.has(key) === true;
        return isThere ? [] : [{ pointer: `/${blame}`, rule: id, message }];
      }),
    ];
    if (violations.length > 0) refused.push({ place, violations });
    else {
      taken.take(row);
      rows.push(row);
    }
  }
  return { rows, refused };
}

/** Rows as they are, checked or not: what nothing may repeat, and references may name. */
export function readRows(given: readonly Pick<GivenRow, 'input' | 'wire'>[], model: Schema[number]): readonly Row[] {
  return given.flatMap(({ input, wire }) => {
    const isRecord = typeof input === 'object' && input !== null && !Array.isArray(input);
    return isRecord ? [read(model, input as Row, wire)] : [];
  });
}
