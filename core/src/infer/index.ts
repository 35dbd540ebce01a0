export { readStructure, deviations, EXACT, type Progress, type ReadOptions } from './read.js';
export { alignDrawings, type Aligned } from './align.js';
export { readSeveral } from './several.js';
export { carryOver, type Carried } from './carry.js';
