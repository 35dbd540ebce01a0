export { readStructure, deviations, EXACT, MAX_SNAP, type Progress, type ReadOptions } from './read.js';
