import Table from 'cli-table3';
import pc from 'picocolors';

/** How a report is drawn: colour only on a terminal, and never wider than it. */
export interface Look {
  readonly colour: boolean;
  readonly width: number;
}

export type Paint = ReturnType<typeof pc.createColors>;

export function paintFor({ colour }: Look): Paint {
  return pc.createColors(colour);
}

const bare = {
  top: '',
  'top-mid': '',
  'top-left': '',
  'top-right': '',
  bottom: '',
  'bottom-mid': '',
  'bottom-left': '',
  'bottom-right': '',
  left: '',
  'left-mid': '',
  mid: '',
  'mid-mid': '',
  right: '',
  'right-mid': '',
  middle: '  ',
};

/**
 * Aligned columns without lines. The column with the number `elastic` takes what the others leave of the width; its
 * text is wrapped.
 */
export function columns(rows: readonly (readonly string[])[], look: Look, elastic?: number): string {
  const widths: (number | null)[] = [];
  if (elastic !== undefined) {
    const count = Math.max(...rows.map((row) => row.length));
    const longest = Array.from({ length: count }, (_, at) => Math.max(...rows.map((row) => widthOf(row[at] ?? ''))));
    const others = longest.reduce((sum, width, at) => (at === elastic ? sum : sum + width), 0) + 2 * (count - 1);
    const left = Math.max(look.width - others, 36);
    widths.push(...longest.map((width, at) => (at === elastic ? Math.min(width, left) : null)));
  }
  const table = new Table({
    chars: bare,
    style: { 'padding-left': 0, 'padding-right': 0, head: [], border: [] },
    ...(elastic === undefined ? {} : { colWidths: widths, wordWrap: true, wrapOnWordBoundary: true }),
  });
  table.push(...rows.map((row) => [...row]));
  return table
    .toString()
    .split('\n')
    .map((line) => line.trimEnd())
    .join('\n');
}

/** The columns that a text takes, escapes of colour left out. */
function widthOf(text: string): number {
  return Math.max(
    ...text
      .replace(/\u001b\[[0-9;]*m/g, '')
      .split('\n')
      .map((line) => [...line].length),
  );
}
