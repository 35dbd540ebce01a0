export * from './reflow.js';
export { Engine } from './engine.js';
export { GIVES_FIRST } from './column.js';
export { desugar } from './rewrite.js';
export { inFlow, isScroller, strokeRoom } from './sizing.js';
