export { movedBy, standingOf, type Bench, type Moved, type Standing } from './stands.js';
export { isRefusal, type Answer, type Change, type Refusal } from './least.js';
export { onEach } from './each.js';
export { gather } from './gather.js';
export { dissolve } from './dissolve.js';
export {
  addSpacer,
  duplicate,
  erase,
  join,
  moveInto,
  moveInward,
  shift,
  splitBefore,
  takeOut,
} from './tree.js';
export { asBackground } from './background.js';
export { breakpointSteps, dropBreakpoint, moveBreakpoint } from './breakpoints.js';
export {
  intoCell,
  spanOf,
  standingColumns,
  withColumns,
  withLineMoved,
  type StandingColumn,
} from './tracks.js';
export { cellsOf, cellsUnder, mergeCells, type Cells } from './areas.js';
export { standIn } from './standIn.js';
export { pinOut, putBack } from './pinning.js';
export { inShares, lockRatio, scaleSpaces, type Spaces } from './measures.js';
export { breakAway, copyAround, declarePattern, oneLess, oneMore } from './patterns.js';
