import type { Example } from '../core/review/finding.js';
import type { Explanation, LayerExplained, RuleExplained } from '../core/review/index.js';
import { columns, type Look, type Paint, paintFor } from './table.js';
import { shownValue } from './values.js';

/** A field's whole rule as a person reads it: what is asked, what each layer has of it, and values at its edges. */
export function explainText(explained: Explanation, look: Look): string {
  const paint = paintFor(look);
  const { ruleset, field, label, kind, optional, rules, layers } = explained;
  const isRequired = rules.some(({ id }) => id === `${ruleset}.${field}.required`);
  // A list is neither: it is never absent, but perhaps empty.
  const presence = isRequired ? [', required'] : optional ? [', optional'] : [];
  const head = [paint.bold(`${ruleset}.${field}`), '  ', label, ', ', kind, ...presence].join('');
  const asked = columns(
    rules.map(({ id, says, message }) => [`  ${paint.bold(says)}`, message, paint.dim(id)]),
    look,
    1,
  );
  const has = layers.flatMap((layer) => layerLines(layer, paint)).join('\n');
  const values = rules.flatMap((rule) => valueRows(rule, paint));
  const parts = [
    head,
    `${paint.bold('What is asked')}\n${asked}`,
    `${paint.bold('What each layer has')}\n${has}`,
    values.length === 0
      ? paint.yellow('No values are shown: no valid record was found to show them in. echo-rule review tells why.')
      : `${paint.bold('Just inside and just outside')}\n${columns(values, look, 3)}`,
  ];
  return `${parts.join('\n\n')}\n`;
}

const NAME_WIDTH = 12;

/** Nothing is cut here, however long a line gets: what a layer has is what it has. */
function layerLines({ target, has, differs }: LayerExplained, paint: Paint): readonly string[] {
  const own = has.length === 0 ? [paint.dim('nothing')] : has;
  const told = differs.map(({ rule, is, why, shown }) => {
    const as = shown === undefined ? '' : `, as with ${shownValue(shown)}`;
    return paint.yellow(`~ ${rule.slice(rule.lastIndexOf('.') + 1)} ${is}: ${why}${as}`);
  });
  return [...own, ...told].map((text, at) => `  ${paint.bold((at === 0 ? target : '').padEnd(NAME_WIDTH))}${text}`);
}

function valueRows({ says, inside, outside }: RuleExplained, paint: Paint): readonly (readonly string[])[] {
  const row =
    (mark: string) =>
    ({ words, value }: Example, at: number) => [
      at === 0 && mark === '✓' ? `  ${paint.bold(says)}` : '',
      mark === '✓' ? paint.green(mark) : paint.red(mark),
      shown(value),
      paint.dim(words),
    ];
  const rows = [...inside.map(row('✓')), ...outside.map(row('✗'))];
  const [first, ...rest] = rows;
  return first === undefined ? [] : [[`  ${paint.bold(says)}`, ...first.slice(1)], ...rest];
}

function shown(value: unknown): string {
  if (value === null) return 'absent';
  if (typeof value !== 'object' || Array.isArray(value)) return shownValue(value);
  const parts = Object.entries(value).map(([name, inner]) => `${name} ${shown(inner)}`);
  return parts.length === 0 ? '{}' : parts.join(', ');
}
