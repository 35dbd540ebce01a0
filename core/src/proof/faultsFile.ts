import * as v from 'valibot';
import { round } from '../model/index.js';
import { formatExpectation } from './expectationLanguage.js';
import type { Held } from './expectations.js';
import type { Fault } from './faults.js';
import { FAULT_KINDS, SEVERITIES } from './kinds.js';
import type { Range } from './prove.js';

const px = v.number();
const width = v.pipe(px, v.description('A frame width, CSS px.'));
const ids = v.array(v.string());

/** The schema of `faults.json`. */
export const FaultsFileSchema = v.strictObject({
  from: width,
  to: width,
  faults: v.array(
    v.strictObject({
      kind: v.picklist(FAULT_KINDS),
      severity: v.picklist(SEVERITIES),
      parts: v.pipe(ids, v.description('Ids of the parts that it shows at.')),
      count: v.pipe(v.number(), v.integer(), v.description('At how many places it shows.')),
      from: width,
      to: width,
      runs: v.pipe(
        v.array(v.strictObject({ from: width, to: width })),
        v.description('The runs of whole widths in between at which it is there.'),
      ),
      trial: v.pipe(v.nullable(v.string()), v.description('The trial that brings it about.')),
      by: v.pipe(px, v.description('How much it is at the worst width: px, or a count, or a ratio.')),
      answerable: v.pipe(v.string(), v.description('The id of the container whose rules are answerable.')),
      worst: v.pipe(width, v.description('The width to look at.')),
    }),
  ),
  expectations: v.array(
    v.strictObject({
      expectation: v.string(),
      holds: v.boolean(),
      broken: v.array(v.strictObject({ from: width, to: width })),
      by: px,
      parts: ids,
      reason: v.exactOptional(v.string()),
    }),
  ),
});

/** What a proof leaves as a file. */
export type FaultsFile = v.InferOutput<typeof FaultsFileSchema>;

/** The faults and expectations of a proof as they are written to `faults.json`. */
export const faultsFile = (range: Range, faults: readonly Fault[], held: readonly Held[]): FaultsFile => ({
  from: range.from,
  to: range.to,
  faults: faults.map(({ kind, severity, parts, count, from, to, runs, trial, by, answerable, place }) => ({
    kind,
    severity,
    parts: [...parts],
    count,
    from,
    to,
    runs: runs.map((r) => ({ from: r.from, to: r.to })),
    trial,
    by: round(by, 2),
    answerable,
    worst: place.width,
  })),
  expectations: held.map(({ expectation, holds, broken, by, parts, reason }) => ({
    expectation: formatExpectation(expectation),
    holds,
    broken: broken.map((r) => ({ from: r.from, to: r.to })),
    by,
    parts: [...parts],
    ...(reason !== undefined && { reason }),
  })),
});
