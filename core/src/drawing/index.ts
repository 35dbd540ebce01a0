export * from './items.js';
export { readSvg, type RawDrawing } from './svg.js';
export { measureDrawing, facesOf, facesOfRuns } from './measure.js';
export { CLEAN_UP_KINDS, NO_DECISIONS, type CleanUpKind, type DrawingDecisions } from './cleanUp.js';
export { factsOf, gridOf, type DrawingFacts, type DrawingGrid } from './facts.js';
export { normalColour } from './colour.js';
