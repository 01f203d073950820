import { type AnyRuleset, ruleset, schemaOf } from '../src/core/declare/index.js';
import { targets } from '../src/core/targets/index.js';
import { integer, text } from '../src/index.js';
import { fastest, figure } from './measure.js';

/** Twenty fields, half of them text with a pattern, and three rules. */
function rulesetOf(at: number): AnyRuleset {
  const fields = Object.fromEntries(
    Array.from({ length: 10 }, (_, field) => [
      [`name${field}`, text({ minLength: 1, maxLength: 40, pattern: /[a-z]{1,9}(?:-[a-z]{1,9}){0,3}/ })] as const,
      [`count${field}`, integer({ min: 0, max: 99, optional: field % 2 === 0 })] as const,
    ]).flat(),
  );
  return ruleset(`set${at}`, {
    fields,
    rules: (it) => {
      const counts = it as unknown as { readonly [name: string]: CountHandle };
      const count = (field: number) => counts[`count${field}`] as CountHandle;
      return { a: count(1).isAtLeast(count(3)), b: count(5).isAtLeast(count(7)), c: count(9).isAtLeast(count(1)) };
    },
  }) as unknown as AnyRuleset;
}

type CountHandle = import('../src/index.js').NumberHandle<number>;

/** Compiling 10, 100 and 1,000 rulesets of 20 fields for every target: time a ruleset, beside that of ten. */
export function benchCompileTime(): void {
  const time = (count: number) => {
    const schema = schemaOf(Array.from({ length: count }, (_, at) => rulesetOf(at)));
    return fastest(count > 100 ? 1 : 3, [() => Object.values(targets).map((target) => target.emit(schema))])[0] ?? 0;
  };
  time(10);
  const ten = time(10) / 10;
  for (const count of [10, 100, 1_000]) {
    const each = count === 10 ? ten : time(count) / count;
    figure(`compiling ${count} rulesets of 20 fields: ms a ruleset`, each, '');
    if (count > 10) figure(`  beside a ruleset of ten`, each / ten, 'about 1: linear');
  }
}
