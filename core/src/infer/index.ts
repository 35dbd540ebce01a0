export { readStructure, deviations, EXACT, type Progress, type ReadOptions } from './read.js';
export { readSeveral, type Several } from './several.js';
export { carryOver, type Carried } from './carry.js';
