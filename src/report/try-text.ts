import type { LookedUp, OneRecord } from '../agreement/index.js';
import { columns, type Look, type Paint, paintFor } from './table.js';
import { shownAnswer, shownValue } from './values.js';

/** What every layer says of one record, as a person reads it. */
export function tryText({ ruleset, expected, before, layers, lookUps }: OneRecord, look: Look): string {
  const paint = paintFor(look);
  const parts: string[] = [];
  if ('accepted' in expected) {
    const fields = Object.entries(expected.accepted).map(([path, value]) => [`  ${path}`, shownValue(value)]);
    parts.push(`${paint.bold(paint.green('accepted'))} as this ${ruleset}:\n${columns(fields, look)}`);
  } else {
    const told = [...expected.refused, ...expected.possibly];
    const rows = told.map(({ pointer, rule, message }) => [
      `  ${paint.bold(pointer || '(record)')}`,
      message,
      paint.dim(rule),
    ]);
    parts.push(`${paint.bold(paint.red('refused'))}:\n${columns(rows, look)}`);
  }
  const marks = {
    agrees: paint.green('✓'),
    known: paint.yellow('~'),
    tolerated: paint.yellow('≈'),
    disagrees: paint.red('✗'),
    'not applicable': paint.dim('–'),
  };
  const rows = layers.map(({ name, answer, status, why }) => [
    `  ${marks[status]} ${name}`,
    shownAnswer(answer),
    why === null ? '' : paint.dim(why),
  ]);
  parts.push(columns(rows, look));
  if (lookUps.length > 0)
    parts.push(
      columns(
        lookUps.map((one) => lookedUpRow(one, ruleset, paint)),
        look,
      ),
    );
  if (before.length > 0) {
    const names = before.map(({ ruleset: of, key }) => `${of} ${key}`).join(', ');
    parts.push(paint.dim(`Taken to be stored: ${names}.`));
  }
  return `${parts.join('\n\n')}\n`;
}

/** The result of a rule whose function the server calls; where it was not called, the reason. */
function lookedUpRow({ rule, outcome, message }: LookedUp, ruleset: string, paint: Paint): readonly string[] {
  const name = rule.slice(ruleset.length + 1);
  const words = {
    holds: [paint.green('✓'), 'called: it holds'],
    broken: [paint.red('✗'), `called: ${message}`],
    'not given': [paint.dim('–'), `not called: the settings give no function lookUps.${ruleset}.${name}`],
    'not called': [paint.dim('–'), 'not called: its fields are absent or have other faults'],
  };
  const [mark = '', text = ''] = words[outcome];
  return [`  ${mark} ${name}`, text];
}
