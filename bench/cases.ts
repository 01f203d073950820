import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { firing } from '../examples/kiln-bookings/rules/firing.rules.js';
import { kiln } from '../examples/kiln-bookings/rules/kiln.rules.js';
import { potter } from '../examples/kiln-bookings/rules/potter.rules.js';
import { Bases } from '../src/core/cases/base.js';
import { caseSetFor } from '../src/core/cases/index.js';
import { schemaOf } from '../src/core/declare/index.js';
import { fill } from '../src/fill.js';
import { ruleset, text } from '../src/index.js';
import { fastest, figure } from './measure.js';

/** All the demo's cases with their verdicts, by the compiled package in a process of its own. */
function ofPackage(): { readonly milliseconds: number; readonly count: number } {
  return JSON.parse(
    execFileSync(process.execPath, [fileURLToPath(new URL('cases-compiled.js', import.meta.url))], {
      encoding: 'utf8',
    }),
  );
}

/** All the demo's cases with their verdicts; those of a pattern of a thousand states; a thousand records. */
export function benchCases(): void {
  const long = schemaOf([ruleset('long', { fields: { code: text({ pattern: /(?:ab|cd){250}x{0,500}/ }) } })]);
  const casesOf = (schema: typeof long) => {
    const bases = new Bases(schema);
    return schema.flatMap((model) => caseSetFor(model, schema, bases).cases);
  };
  const [states = 0, records = 0] = fastest(5, [
    () => casesOf(long),
    () => fill([kiln, potter, firing], { count: 1_000, seed: 7 }),
  ]);
  const { milliseconds, count } = ofPackage();
  figure(`all ${count} cases of the demo with their verdicts, ms`, milliseconds, 'under 200');
  figure(`cases of a pattern of 1,251 states (${casesOf(long).length}), ms`, states, '');
  figure('1,000 firings with their kilns and potters made up, ms', records, '');
}
