export * from './geometry.js';
export { BoxIndex } from './boxIndex.js';
export * from './paint.js';
export * from './rules.js';
export * from './part.js';
export * from './check.js';
export * from './steps.js';
export * from './language.js';
export * from './json.js';
