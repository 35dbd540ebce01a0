export { FAULT_KINDS, KINDS, SEVERITIES, type FaultKind, type Severity } from './kinds.js';
export type { Fault } from './faults.js';
export { prove, proving, USUAL_RANGE, type Proof, type ProveOptions, type Range } from './prove.js';
export { deviations, distance, EXACT, type Deviation } from './faithful.js';
