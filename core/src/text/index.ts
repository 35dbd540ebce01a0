export * from './measurer.js';
export * from './catalogue.js';
export * from './lines.js';
export * from './paragraph.js';
export * from './shaper.js';
export * from './sfnt.js';
