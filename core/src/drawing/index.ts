export * from './items.js';
export { readSvg, type RawDrawing } from './svg.js';
export { measureDrawing, facesOf, facesOfRuns } from './measure.js';
export { NO_DECISIONS, type CleanUpKind, type DrawingDecisions } from './cleanUp.js';
export { normalColour } from './colour.js';
