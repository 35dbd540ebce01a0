export * from './reflow.js';
export { Engine } from './engine.js';
export { inFlow } from './sizing.js';
