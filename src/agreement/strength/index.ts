export { type Measuring, measureStrength } from './measure.js';
export { byLayer, type LayerStrength, type MutantOutcome, type Strength } from './outcome.js';
export {
  mariadbScratch,
  openScratches,
  postgresqlScratch,
  type Scratch,
  scratchServers,
  sqliteScratch,
} from './scratch.js';
