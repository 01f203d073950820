import { type Finding, type Severity, severities } from '../core/review/index.js';
import { plural } from './counts.js';
import { columns, type Look, type Paint, paintFor } from './table.js';
import { shownValue } from './values.js';

/** More rules than this are counted, not listed. */
const MOST_RULES = 8;

/** A review as a person reads it: a block a finding, the weightiest first, and a line that counts them. */
export function reviewText(
  findings: readonly Finding[],
  rulesets: number,
  look: Look,
  shorten: (text: string) => string,
): string {
  const paint = paintFor(look);
  const blocks = findings.map((one) => block(one, look, paint, shorten));
  return `${[...blocks, countLine(findings, rulesets, paint)].join('\n\n')}\n`;
}

function painted(severity: Severity, paint: Paint): string {
  const by = { error: paint.red, warning: paint.yellow, note: paint.cyan }[severity];
  return paint.bold(by(severity));
}

function block(finding: Finding, look: Look, paint: Paint, shorten: (text: string) => string): string {
  const { severity, code, message, rules, proof, examples, mend } = finding;
  const at = (place: Finding['place']) => (place.line === 0 ? '' : `${shorten(place.file)}:${place.line}`);
  const where = rules.length === 0 ? at(finding.place) : '';
  const head = `${painted(severity, paint)} ${paint.dim(`[${code}]`)}${where === '' ? '' : ` ${where}`}`;
  const listed = rules
    .slice(0, MOST_RULES)
    .map(({ id, says, place }) => [`  ${paint.bold(id)}`, says, paint.dim(at(place))]);
  const more = rules.length > MOST_RULES ? [`  and ${rules.length - MOST_RULES} more`] : [];
  const told = [
    ['  proof', proof],
    ...examples.map(({ words, value }, index) => [index === 0 ? '  example' : '', `${words}: ${shownExample(value)}`]),
    [`  ${paint.cyan('→')}`, mend],
  ];
  return [
    `${head}\n  ${message}`,
    ...(listed.length === 0 ? [] : [columns(listed, look)]),
    ...more,
    columns(told, look, 1),
  ].join('\n');
}

/** A record is shown field by field. */
function shownExample(value: unknown): string {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return shownValue(value);
  return Object.entries(value)
    .map(([name, inner]) => `${name} ${inner === null ? 'absent' : shownValue(inner)}`)
    .join(', ');
}

function countLine(findings: readonly Finding[], rulesets: number, paint: Paint): string {
  const counts = severities.flatMap((severity) => {
    const count = findings.filter((one) => one.severity === severity).length;
    return count === 0 ? [] : [plural(count, severity)];
  });
  const isSound = findings.every(({ severity }) => severity === 'note');
  const of = ` in ${plural(rulesets, 'ruleset')}`;
  if (counts.length === 0)
    return paint.green(`✓ Nothing was found${of}: some record can be given of each, and every rule says something.`);
  const line = `${counts.join(', ')}${of}.`;
  return isSound ? `${paint.green('✓')} ${line} No rule is in the way of another.` : `${paint.red('✗')} ${line}`;
}
