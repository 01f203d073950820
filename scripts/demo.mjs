// The whole on embedded engines: compiles the pottery studio, probes its compiled layers, then the layers by hand.
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const bin = fileURLToPath(new URL('../dist/cli/bin.js', import.meta.url));

function echo(example, ...words) {
  console.log(`\n$ cd examples/${example} && echo-rule ${words.join(' ')}\n`);
  const cwd = fileURLToPath(new URL(`../examples/${example}`, import.meta.url));
  return spawnSync(process.execPath, [bin, ...words], { cwd, stdio: 'inherit' }).status;
}

const compiled = echo('kiln-bookings', 'compile');
const agreeing = compiled === 0 ? echo('kiln-bookings', 'probe') : compiled;
const disagreeing = echo('layers-by-hand', 'probe');
console.log('\nThe compiled layers agree; the layers by hand are wrong where examples/layers-by-hand/README.md says.');
// The layers by hand have findings: exit code 1 is what the demo is to show.
process.exitCode = agreeing === 0 && disagreeing === 1 ? 0 : 1;
