import type { Problem } from '../core/messages/index.js';
import { type Look, paintFor } from './table.js';

/** Problems as a person reads them: the code, the place, what is wrong, and how to mend it. `shorten` shortens paths. */
export function problemsText(problems: readonly Problem[], look: Look, shorten: (text: string) => string): string {
  const paint = paintFor(look);
  return problems
    .map(({ code, place, message, mend }) => {
      const known = place !== null && place.file !== '' && place.line > 0;
      const where = known ? ` ${shorten(place.file)}:${place.line}` : '';
      return `${paint.red(paint.bold('error'))} ${paint.dim(`[${code}]`)}${where}\n  ${shorten(message)}\n  ${paint.cyan('→')} ${shorten(mend)}\n`;
    })
    .join('\n');
}
