import type { Schema } from '../core/declare/index.js';
import type { Entry } from '../core/model/index.js';
import { plural } from './counts.js';
import { columns, type Look, paintFor } from './table.js';

/** What a compilation found and made. */
export interface CompileResult {
  readonly rulesets: readonly {
    readonly name: string;
    readonly file: string;
    readonly fields: number;
    readonly rules: number;
  }[];
  readonly passedOver: readonly { readonly file: string; readonly what: string; readonly why: string }[];
  readonly written: readonly string[];
  readonly unchanged: readonly string[];
  /** Made files of earlier compilations that nothing makes any more; they are left where they are. */
  readonly stale: readonly string[];
}

/** A compilation as a person reads it. */
export function compileText(result: CompileResult, schema: Schema, ledger: readonly Entry[], look: Look): string {
  const paint = paintFor(look);
  const { rulesets, passedOver, written, unchanged, stale } = result;
  const found = rulesets.map(({ name, file, fields, rules }) => [
    `  ${paint.bold(name)}`,
    paint.dim(file),
    plural(fields, 'field'),
    plural(rules, 'rule'),
  ]);
  const parts = [`${paint.bold('Rulesets')}\n${columns(found, look)}`];
  if (passedOver.length > 0) {
    const rows = passedOver.map(({ file, what, why }) => [`  ${what}`, paint.dim(file), why]);
    parts.push(`${paint.bold('Passed over')}\n${columns(rows, look)}`);
  }
  parts.push(`${paint.bold('Rules by target')}\n${columns(fidelityRows(schema, ledger), look)}`);
  const rows = [
    ...written.map((file) => [`  ${paint.green('written')}`, file]),
    ...unchanged.map((file) => [`  ${paint.dim('unchanged')}`, file]),
    ...stale.map((file) => [`  ${paint.yellow('no longer made')}`, `${file} (delete it)`]),
  ];
  parts.push(`${paint.bold('Files')}\n${columns(rows, look)}`);
  return `${parts.join('\n\n')}\n`;
}

const words = ['exact', 'looser', 'stricter', 'other', 'altering', 'absent'] as const;

function fidelityRows(schema: Schema, ledger: readonly Entry[]): readonly (readonly string[])[] {
  const targets = [...new Set(ledger.map(({ target }) => target))];
  const used = words.filter((word) => ledger.some(({ fidelity }) => fidelity.is === word));
  const total = schema.flatMap(({ constraints }) => constraints).length;
  const rows = targets.map((target) => [
    `  ${target}`,
    ...used.map((word) => {
      const count = ledger.filter((entry) => entry.target === target && entry.fidelity.is === word).length;
      return count === 0 ? '–' : `${count} ${word}`;
    }),
    `of ${total}`,
  ]);
  return rows;
}
