import { counted } from './counts.js';

/** What was made of each ruleset. */
export interface FillLine {
  readonly ruleset: string;
  readonly rows: number;
  readonly fixed: number;
  readonly short: string | null;
}

/** A line a ruleset on how many records were made, and why there are not more. */
export function fillText(lines: readonly FillLine[]): string {
  return lines
    .map(({ ruleset, rows, fixed, short }) => {
      const made = `${counted(rows - fixed)} made up`;
      const parts = [...(fixed > 0 ? [`${counted(fixed)} given`] : []), ...(rows > fixed || fixed === 0 ? [made] : [])];
      return `${ruleset}: ${parts.join(', ')}${short === null ? '' : `; ${short}`}\n`;
    })
    .join('');
}
