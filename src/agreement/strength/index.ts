export { type Measuring, measureStrength } from './measure.js';
export type { LayerStrength, MutantOutcome, Strength } from './outcome.js';
export { mariadbScratch, openScratches, postgresqlScratch, type Scratch, sqliteScratch } from './scratch.js';
