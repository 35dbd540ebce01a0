export { readStructure, deviations, EXACT, type Progress, type ReadOptions } from './read.js';
