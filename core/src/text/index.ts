export * from './measurer.js';
export * from './catalogue.js';
export { UNICODE_RANGES, type Subset } from './ranges.js';
export * from './lines.js';
export * from './own.js';
export * from './paragraph.js';
export * from './shaper.js';
export * from './sfnt.js';
