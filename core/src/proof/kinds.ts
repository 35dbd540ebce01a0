/** How bad a fault is: what breaks the screen, what a careful designer would not leave, and what is worth knowing. */
export const SEVERITIES = ['error', 'warning', 'note'] as const;
export type Severity = (typeof SEVERITIES)[number];

interface KindFacts {
  /** As it stands in a list of kinds. */
  readonly label: string;
  readonly severity: Severity;
  /**
   * Whether it has a measure that may be worse at some widths than in the drawing; the others are there or not, and
   * what the drawing does itself is never a fault.
   */
  readonly grows: boolean;
}

const kind = (label: string, severity: Severity, grows = true): KindFacts => ({ label, severity, grows });

/** Everything that is looked for, in the order in which it is told. */
export const KINDS = {
  'side-scroll': kind('Side scroll', 'error'),
  overlap: kind('Things over each other', 'error', false),
  outside: kind('Outside its parent', 'error'),
  'cut-off': kind('Cut off', 'error'),
  'text-over': kind('Text over its box', 'error'),
  'long-word': kind('Word wider than its place', 'error'),
  sliver: kind('Words squeezed to a sliver', 'error', false),
  'blown-up': kind('Blown up', 'error', false),
  distorted: kind('Picture out of its ratio', 'error'),
  lost: kind('Most of it hidden', 'error', false),
  hidden: kind('Hidden without a stand-in', 'warning', false),
  'text-cut': kind('Text cut', 'warning', false),
  'out-of-line': kind('No longer in line', 'warning'),
  'uneven-gaps': kind('Uneven gaps', 'warning'),
  'lonely-card': kind('Lonely last card', 'warning', false),
  squashed: kind('Under its content’s least', 'warning'),
  'long-lines': kind('Lines too long to read', 'warning', false),
  order: kind('Reading order turned', 'warning', false),
  enlarged: kind('Picture beyond its pixels', 'warning'),
  'small-target': kind('Target too small', 'warning'),
  'empty-area': kind('Large empty area', 'note', false),
  'small-type': kind('Type too small', 'note', false),
} as const satisfies Record<string, KindFacts>;

export type FaultKind = keyof typeof KINDS;
export const FAULT_KINDS = Object.keys(KINDS) as readonly FaultKind[];
