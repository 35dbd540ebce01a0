import type { Check } from '../plan.js';
import { cutOff, outside, sideScroll } from './frame.js';
import { readingOrder, strips, unevenGaps, unlikeEnds } from './order.js';
import { overlaps } from './overlap.js';
import { blownUp, distorted, enlarged } from './pictures.js';
import { emptyAreas, hiddenParts, lonelyCards, smallTargets, squashed } from './room.js';
import { cutTexts, longLines, slivers, smallType, wordsOutOfBox } from './words.js';

/** What finds errors. */
export const GRAVE_CHECKS: readonly Check[] = [
  sideScroll,
  outside,
  cutOff,
  overlaps,
  wordsOutOfBox,
  slivers,
  distorted,
  blownUp,
  hiddenParts,
];

/** Everything that is looked for on each stretch of widths. */
export const CHECKS: readonly Check[] = [
  ...GRAVE_CHECKS,
  cutTexts,
  longLines,
  smallType,
  enlarged,
  unlikeEnds,
  strips,
  unevenGaps,
  readingOrder,
  lonelyCards,
  squashed,
  smallTargets,
  emptyAreas,
];
