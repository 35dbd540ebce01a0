import type { Step } from '../../model/index.js';
import priors from '../priors.json' with { type: 'json' };

/** A rule that holds in all frames, bits: which of the few words that could stand there. */
const RULE = 0.7;
/** A number that nothing else explains, bits: one of the eight round ones that lie near. */
const NUMBER = 3;
/** Another step than rules, bits: as much as a few rules. */
const OTHER = 4;

/** What a structure says already. */
export interface Said {
  readonly breakpoints: readonly number[];
  /** The widths of its drawings, px. */
  readonly drawn: readonly number[];
}

/**
 * What has to be said for a step, bits. A breakpoint that the structure has already takes no number, and each costs the more,
 * the seldomer rows turn at such a width.
 */
export function bitsOf(step: Step, said: Said): number {
  if (step.kind === 'several') return step.steps.reduce((sum, s) => sum + bitsOf(s, said), 0);
  if (step.kind !== 'setRules') return OTHER;
  const rules = step.parts.reduce((sum, p) => sum + Object.keys(p.set).length, 0) * RULE;
  if (step.below === undefined) return rules;
  const { below } = step;
  const drawn = Math.min(...said.drawn.filter((w) => w >= below));
  return rules + (said.breakpoints.includes(below) ? 0 : NUMBER) + turnBits(below / drawn);
}

/** The bits of a turn at a share of the drawn width, by how many of the rows that still stood there were seen to turn. */
function turnBits(share: number): number {
  const { turns } = priors;
  const seen = turns.find((t) => share <= t.upTo) ?? turns.at(-1);
  return seen ? -Math.log2((seen.turned + 1) / (seen.rows + 2)) : 0;
}
