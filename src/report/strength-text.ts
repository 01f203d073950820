import type { LayerStrength, MutantOutcome, Strength } from '../agreement/strength/index.js';
import { counted, plural } from './counts.js';
import { columns, type Look, type Paint, paintFor } from './table.js';

/** Longer lines of a layer's text are cut. */
const MOST_SHOWN = 200;

/** How strong the cases are, as a person reads it: a line a layer, every survivor with its mistake, and the figure. */
export function strengthText(strength: Strength, look: Look): string {
  const paint = paintFor(look);
  const { layers, mutants, leftOut, unsound } = strength;
  const head = ['layer', 'mistakes', 'caught', 'no difference', 'undecided', 'missed'].map((word) => paint.dim(word));
  const rows = layers.map((one) => rowOf(one, paint));
  const listed = mutants.filter(({ outcome }) => outcome === 'survived' || outcome === 'undecided');
  const parts = [
    columns([head, ...rows], look),
    ...listed.map((one) => blockOf(one, look, paint)),
    ...leftOut.map(({ layer, why }) => `${paint.yellow('left out')}  ${layer}: ${why}`),
    ...unsound.map((id) => `${paint.red('unsound')}  ${id}: the layer, or the meaning, disagrees without any mistake`),
    figureOf(strength, paint),
  ];
  return `${parts.join('\n\n')}\n`;
}

function rowOf(
  { layer, mutants, killed, equivalent, undecided, survived }: LayerStrength,
  paint: Paint,
): readonly string[] {
  const missed = survived > 0 ? paint.red(String(survived)) : paint.green('0');
  return [layer, String(mutants), String(killed), String(equivalent), String(undecided), missed];
}

function blockOf({ id, outcome, words, why, shown }: MutantOutcome, look: Look, paint: Paint): string {
  const head = outcome === 'survived' ? paint.red('missed') : paint.yellow('undecided');
  const lines = [
    ['  mistake', words],
    ['  because', why],
    ...(shown.was === '' ? [] : [['  -', cut(shown.was)]]),
    ...(shown.is === '' ? [] : [['  +', cut(shown.is)]]),
  ];
  return `${paint.bold(head)} ${id}\n${columns(lines, look, 1)}`;
}

function cut(text: string): string {
  return text.length > MOST_SHOWN ? `${text.slice(0, MOST_SHOWN)}…` : text;
}

function figureOf({ mutants, layers, cases, mistakes }: Strength, paint: Paint): string {
  const sum = (of: (one: LayerStrength) => number) => layers.reduce((total, one) => total + of(one), 0);
  const [killed, survived] = [sum((one) => one.killed), sum((one) => one.survived)];
  const real = mutants.length - sum((one) => one.equivalent);
  const undecided = sum((one) => one.undecided);
  const open = undecided === 0 ? '' : paint.yellow(`${counted(undecided)} undecided`);
  const missed =
    survived === 0 ? (undecided === 0 ? paint.green('none missed') : '') : paint.red(`${counted(survived)} missed`);
  const verdict = [missed, open].filter((one) => one !== '').join(', ');
  const share = real === 0 ? 100 : Math.floor((1000 * killed) / real) / 10;
  const planted = `${plural(mutants.length, 'mistake')} of ${mistakes} kinds planted in ${plural(layers.length, 'layer')}`;
  return `${planted}: ${counted(cases)} cases catch ${counted(killed)} of the ${counted(real)} that make a difference (${share} %), ${verdict}.`;
}
