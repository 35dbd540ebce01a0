import type { Step } from '../../model/index.js';
import priors from '../priors.json' with { type: 'json' };

/** A rule that holds in all frames, bits: which of the few words that could stand there. */
const RULE = 0.7;
/** To put what hangs over others among them, where these have a flow already, bits: its room moves all the rest. */
const LOOSE = 12;
/** Below a breakpoint that the screen has by now, bits: which of the few. */
export const KNOWN = 1;
/** Another step than rules, bits: as much as a few rules. */
const OTHER = 4;

/**
 * What has to be said for a step, bits. A breakpoint stands at the edge of the fault that it is against, which explains its
 * number; it costs the more, the seldomer rows turn so far below the width that they were drawn at. One of the `known` ones of the
 * screen costs no more than saying which. `drawn` are the widths of the drawings, px.
 */
export function bitsOf(step: Step, drawn: readonly number[], known: readonly number[]): number {
  if (step.kind === 'several') return step.steps.reduce((sum, s) => sum + bitsOf(s, drawn, known), 0);
  if (step.kind !== 'setRules') return OTHER;
  const givesFlow = step.parts.some(({ set }) => set.flow !== undefined);
  const loosened = givesFlow ? 0 : step.parts.filter(({ set }) => set.pin === null).length;
  const rules = step.parts.reduce((sum, p) => sum + Object.keys(p.set).length, 0) * RULE + loosened * LOOSE;
  const { below } = step;
  if (below === undefined) return rules;
  if (known.includes(below)) return rules + KNOWN;
  return rules + turnBits(below / Math.min(...drawn.filter((w) => w >= below)));
}

/** The bits of a turn at a share of the drawn width, by how many of the rows that still stood there were seen to turn. */
function turnBits(share: number): number {
  const { turns } = priors;
  const seen = turns.find((t) => share <= t.upTo) ?? turns.at(-1);
  return seen ? -Math.log2((seen.turned + 1) / (seen.rows + 2)) : 0;
}
