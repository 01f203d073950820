import { requiredCircle, type Schema } from '../declare/index.js';
import { targetOf } from '../kinds/index.js';
import { allFields } from '../model/index.js';
import type { Finding } from './finding.js';

/** Rulesets of which no first record can be stored, as they require each other: each circle once. */
export function requiredCircles(schema: Schema): readonly Finding[] {
  const reported = new Set<string>();
  return schema.flatMap((model): readonly Finding[] => {
    const circle = requiredCircle(model, schema);
    if (circle === null || circle.some((ruleset) => reported.has(ruleset))) return [];
    for (const ruleset of circle) reported.add(ruleset);
    const [first = '', ...others] = circle;
    const own = schema.find(({ ruleset }) => ruleset === first) ?? model;
    const next = others[0] ?? first;
    const field = allFields(own).find((one) => targetOf(one)?.to === next);
    const way = [...circle, first].join(' requires ');
    return [
      {
        code: 'no_first_row',
        severity: 'error',
        ruleset: own.ruleset,
        field: field?.path ?? '',
        place: field?.place ?? own.place,
        message: `No first record of ${circle.join(', ')} can be stored.`,
        rules: [],
        proof: `${way}: whichever comes first refers to a record that is not there yet.`,
        examples: [],
        mend: 'Make one of the references on the way optional, so that its record can be stored first and changed later.',
      },
    ];
  });
}
