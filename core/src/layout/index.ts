export * from './reflow.js';
export { scrolled, staying, type Seen } from './scrolled.js';
export { Engine } from './engine.js';
export { GIVES_FIRST } from './column.js';
export { desugar } from './rewrite.js';
export { placeInGrid } from './placement.js';
export { gapPx, gapUnder, inFlow } from './sizing.js';
export type { Placed } from './box.js';
export type { IntrinsicWidths } from './intrinsic.js';
