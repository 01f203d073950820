import type { ProbeResult } from '../agreement/index.js';
import { tolerances } from '../core/model/index.js';
import { counted, plural } from './counts.js';
import { columns, type Look, paintFor } from './table.js';

/** The tolerances that a person may declare, by what they would explain; null where there are none. */
export function suggestedText({ suggested }: ProbeResult, look: Look): string | null {
  if (suggested.length === 0) return null;
  const paint = paintFor(look);
  const head = ['layer', 'tolerates', 'would explain', 'where this is right'].map((name) => paint.dim(name));
  const rows = suggested.map(({ layer, tolerance, disagreements, answers }) => [
    layer,
    paint.bold(tolerance),
    `${plural(disagreements, 'disagreement')}, ${plural(answers, 'answer')}`,
    tolerances[tolerance],
  ]);
  return `${paint.bold('Tolerances that would explain disagreements')}\n${columns([head, ...rows], look, 3)}`;
}

/** How many answers differ as tolerances allow; null where none does. */
export function toleratedText({ tolerated }: ProbeResult, look: Look): string | null {
  if (tolerated.length === 0) return null;
  const paint = paintFor(look);
  const head = ['layer', 'answers', 'what it tolerates'].map((name) => paint.dim(name));
  const rows = tolerated.map(({ layer, tolerance, answers }) => [
    layer,
    counted(answers),
    `${paint.bold(tolerance)}: ${tolerances[tolerance]}`,
  ]);
  return `${paint.bold('Tolerated differences')}\n${columns([head, ...rows], look, 2)}`;
}
