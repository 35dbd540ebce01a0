import * as v from 'valibot';
import { MAX_ID } from '../model/index.js';
import { isSaidBy, type Fault } from './faults.js';
import { FAULT_KINDS, SEVERITIES } from './kinds.js';

const px = v.pipe(v.number(), v.finite());
const id = v.pipe(v.string(), v.maxLength(MAX_ID));
const run = v.strictObject({ from: px, to: px });

/** The schema of a fault that the designer leaves as it is. */
export const LeftSchema = v.strictObject({
  kind: v.picklist(FAULT_KINDS),
  severity: v.picklist(SEVERITIES),
  parts: v.pipe(v.array(id), v.maxLength(100)),
  answerable: id,
  trial: v.nullable(v.pipe(v.string(), v.maxLength(60))),
  from: px,
  to: px,
  runs: v.pipe(v.array(run), v.maxLength(2000)),
  by: px,
  reason: v.pipe(v.string(), v.trim(), v.minLength(1, 'say why it is left so'), v.maxLength(300)),
});

/** A fault that the designer leaves as it is, with the reason. It is not shown again unless it grows. */
export type Left = v.InferOutput<typeof LeftSchema>;

/** A fault that has become this much worse has grown, px or the unit of its kind. */
const GROWN = 1.5;

/** A fault as it is left, for a reason. */
export const leave = (fault: Fault, reason: string): Left => ({
  kind: fault.kind,
  severity: fault.severity,
  parts: [...fault.parts],
  answerable: fault.answerable,
  trial: fault.trial,
  from: fault.from,
  to: fault.to,
  runs: fault.runs.map((r) => ({ from: r.from, to: r.to })),
  by: fault.by,
  reason,
});

/** What is left of a fault as it is; undefined where it is not, or has grown since. */
export const leftOf = (fault: Fault, left: readonly Left[]): Left | undefined =>
  left.find(
    (l) =>
      l.trial === fault.trial &&
      fault.by <= l.by + GROWN &&
      isSaidBy(fault, [{ ...l, count: 1, place: { width: l.from, box: null } }]),
  );
