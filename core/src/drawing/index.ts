export * from './items.js';
export { MAX_BYTES, readSvg } from './svg.js';
export type { RawDrawing } from './raw.js';
export { measureDrawing, facesOf, facesOfRuns } from './measure.js';
export { CLEAN_UP_KINDS, NO_DECISIONS, type CleanUpKind, type DrawingDecisions } from './cleanUp.js';
export { factsOf, gridOf, type DrawingFacts, type DrawingGrid } from './facts.js';
export { normalColour } from './colour.js';
