import type { Engine } from '../layout/index.js';
import type { Part, Structure } from '../model/index.js';
import type { Fault } from './faults.js';
import type { Severity } from './kinds.js';
import { prove, type Range } from './prove.js';

/**
 * What one fault over the whole range costs, bits. Of the widths of finished pages one in a hundred has an error, counted over
 * generated ones, so that an error at one of the sixteen widths that are looked at says 6.6 bits, and 106 at all of them. A
 * warning costs a quarter of it, a note a quarter of that.
 */
const BITS: Readonly<Record<Severity, number>> = { error: 106, warning: 26, note: 7 };

/** The share of a range that runs of widths take, by the logarithm: a phone’s widths count as much as a desk’s. */
function shareOf(runs: readonly Range[], range: Range): number {
  const whole = Math.log((range.to + 1) / range.from);
  return runs.reduce((sum, { from, to }) => sum + Math.log((to + 1) / from), 0) / whole;
}

/**
 * Faults as one price, bits: it grows with how grave they are, over how many widths they are, and slowly with the number of
 * places. No fault costs nothing.
 */
export const priceOf = (faults: readonly Fault[], range: Range): number =>
  faults.reduce((sum, f) => sum + BITS[f.severity] * Math.log2(1 + f.count) * shareOf(f.runs, range), 0);

/** What a fault costs where only some widths were looked at, evenly spread by the logarithm, bits. */
export const priceAt = (fault: Fault, looks: number): number =>
  (BITS[fault.severity] * Math.log2(1 + fault.count) * fault.runs.length) / looks;

/** What a part costs by what it breaks. */
export interface Judgement {
  readonly faults: readonly Fault[];
  /** Bits. */
  readonly price: number;
}

/**
 * Judges one part alone over a range of its own widths, as if it were a frame that was drawn `drawn` px wide. What the engine
 * has laid out before of what is in it is not laid out again, so that trying another rule on it is cheap.
 */
export function judge(
  part: Part,
  engine: Engine,
  {
    range,
    drawn,
    tokens,
  }: { readonly range: Range; readonly drawn: Structure['drawn'] } & Pick<Structure, 'tokens'>,
): Judgement {
  const alone: Structure = {
    version: 1,
    name: part.name,
    drawn,
    snap: 0,
    ...(tokens && { tokens }),
    root: part,
  };
  const { faults } = prove(alone, engine, { range });
  return { faults, price: priceOf(faults, range) };
}
