import { casesOf } from 'echo-rule/compile';
import { createJiti } from 'jiti';

const RUNS = 40;
const jiti = createJiti(import.meta.url);
const ruleset = async (name) => (await jiti.import(`../examples/kiln-bookings/rules/${name}.rules.ts`))[name];
const studio = [await ruleset('kiln'), await ruleset('potter'), await ruleset('firing')];

/** The fastest time of all the demo's cases by the package as it is installed, in milliseconds, and how many there are. */
let milliseconds = Number.POSITIVE_INFINITY;
let count = 0;
for (let run = 0; run < RUNS; run += 1) {
  const start = performance.now();
  count = casesOf(studio).length;
  milliseconds = Math.min(milliseconds, performance.now() - start);
}
console.log(JSON.stringify({ milliseconds, count }));
