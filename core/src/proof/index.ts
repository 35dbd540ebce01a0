export { FAULT_KINDS, KINDS, SEVERITIES, type FaultKind, type Severity } from './kinds.js';
export { isAt, isSaidBy, type Fault } from './faults.js';
export { prove, proving, USUAL_RANGE, type Proof, type ProveOptions, type Range } from './prove.js';
export { deviations, distance, EXACT, standsAsBefore, type Deviation } from './faithful.js';
export {
  countsOf,
  mendingAll,
  mendsFor,
  runCounts,
  type Counts,
  type Mend,
  type Mended,
} from './mends/mends.js';
export { faultsIn, proofRun, structuresIn, type RunNews, type RunOptions } from './run.js';
export {
  TRIALS,
  TRIAL_NAMES,
  SCRIPTS,
  tryWith,
  type Trial,
  type TrialKind,
  type TrialName,
  type Tried,
} from './trials.js';
export {
  holdTo,
  proposeExpectations,
  type Comparison,
  type Expectation,
  type Held,
  type Proved,
} from './expectations.js';
export { formatExpectation, parseExpectation } from './expectationLanguage.js';
export type { View } from './scene.js';
export { amountOf, sentenceOf, wholeSentenceOf, widthsOf } from './sentences.js';
export { faultsFile, FaultsFileSchema, type FaultsFile } from './faultsFile.js';
export { deviceAt, sheetWidths, TEST_WIDTHS } from './devices.js';
export { pictureAt, proofReport, type Reported } from './report.js';
export { leave, leftOf, LeftSchema, type Left } from './left.js';
export { eventsIn, seriesOf, type PartSeries } from './events.js';
export { judge, priceAt, priceOf, type Judgement } from './judge.js';
export { waysAgainst, type Way } from './mends/ways.js';
export { GRAVE_CHECKS } from './checks/index.js';
