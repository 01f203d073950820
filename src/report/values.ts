import { visible } from '../agreement/index.js';
import type { Answer, Case, DeletedRow, Verdict } from '../core/model/index.js';

const MOST_SHOWN = 48;

/** A text of at most so many characters. */
function cut(text: string): string {
  const characters = [...text];
  return characters.length <= MOST_SHOWN ? text : `${characters.slice(0, MOST_SHOWN - 1).join('')}…`;
}

/** A value in one line; a long one is cut in the middle, with its length behind it. */
export function shownValue(value: unknown): string {
  const text = visible(value);
  const characters = [...text];
  if (characters.length <= MOST_SHOWN) return text;
  if (typeof value !== 'string') return cut(text);
  return `${characters.slice(0, 8).join('')}…${characters.slice(-4).join('')} (${[...value].length} characters)`;
}

/** What a case sends, where its rule looks; of a deletion, the deleted row. */
export function shownCase({ does, input }: Pick<Case, 'does' | 'input'>, fields: readonly string[]): string {
  if (does !== 'delete') return shownInput(input, fields);
  const { ruleset, key } = input as DeletedRow;
  return `${ruleset} ${shownValue(key)} is deleted`;
}

/** Of an input, the fields that a rule is about: `glaze "lustre", vented false`. */
function shownInput(input: unknown, fields: readonly string[]): string {
  if (typeof input !== 'object' || input === null || fields.length === 0) return shownValue(input);
  const record = input as { readonly [name: string]: unknown };
  return fields.map((path) => shownField(record, path)).join(', ');
}

/** What is in a record or a list is shown with all of it, or by the names that a form gives its parts. */
function shownField(record: { readonly [name: string]: unknown }, path: string): string {
  const [top = ''] = path.split(/[.[]/);
  if (Object.hasOwn(record, top)) return `${top} ${shownValue(record[top])}`;
  const parts = Object.keys(record).filter((name) => name.startsWith(`${top}[`) || name.startsWith(`${top}.`));
  const shown = parts.map((name) => `${name} ${shownValue(record[name])}`).join(', ');
  return parts.length === 0 ? `${path} missing` : cut(shown);
}

/** What a verdict or an answer says, in a few words. */
export function shownAnswer(answer: Verdict | Answer): string {
  if ('accepted' in answer) return 'accepted';
  if ('notApplicable' in answer) return `not applicable: ${answer.notApplicable}`;
  if ('breakdown' in answer) return `breaks down: ${answer.breakdown}`;
  const rules = answer.refused.map(({ rule, pointer }) => rule ?? pointer ?? 'without a name');
  return rules.length === 0 ? 'refused' : `refused: ${rules.join(', ')}`;
}
