export { readStructure, type Progress, type ReadOptions } from './read.js';
export { PRINCIPLES, type Principle } from './node.js';
export { alignDrawings, type Aligned } from './align.js';
export { readSeveral } from './several.js';
export { readPart, type PartReading } from './readPart.js';
export { decisionsAt, placesOf, type Decision, type RunnerUp } from './decisions.js';
export { questionsAbout, type Question } from './questions.js';
export { carryOver, type Carried } from './carry.js';
export { namedAsScreen } from './names/screenName.js';
