import { dangerOf } from '../src/core/reason/index.js';
import { matcherJs } from '../src/core/targets/javascript/matchers.js';
import { printJs } from '../src/core/targets/javascript/print.js';
import { helpersFor } from '../src/core/targets/javascript/runtime/index.js';
import { slowPatterns } from '../tests/fixtures/slow-patterns.js';
import { fastest, figure } from './measure.js';

const SHORT = 50_000;

/** What twice the text costs, for patterns that a backtracking matcher does not get done with, on the text against them. */
export function benchMatching(): void {
  const ratios = slowPatterns.map((source) => {
    const code = printJs(matcherJs({ source, flags: 'u' }));
    const { test } = new Function(`${helpersFor(code).join('\n')}\nreturn ${code};`)() as {
      test(text: string): boolean;
    };
    const danger = dangerOf({ source, flags: 'u' });
    if (danger.is !== 'growing') throw new Error(`${source} is no slow pattern`);
    const { prefix, repeated, suffix } = danger.attack;
    const text = (length: number) => prefix + repeated.repeat(Math.ceil(length / repeated.length)) + suffix;
    const [short, long] = [text(SHORT), text(2 * SHORT)];
    const [once = 0, twice = 0] = fastest(source.includes('300}') ? 1 : 25, [() => test(short), () => test(long)]);
    return { source, ratio: twice / once };
  });
  const [worst] = [...ratios].sort((a, b) => b.ratio - a.ratio);
  const typical = [...ratios].sort((a, b) => a.ratio - b.ratio)[Math.floor(ratios.length / 2)];
  figure(`100,000 characters beside 50,000, ${ratios.length} slow patterns: typical`, typical?.ratio ?? 0, 'about 2');
  figure(`  the worst, ${worst?.source}`.slice(0, 64), worst?.ratio ?? 0, 'at most 3');
}
