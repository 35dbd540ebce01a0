import type { Part } from './part.js';
import type { RuleChange, RuleName } from './rules.js';

/** The frames in which an override holds: those narrower than a width in px, or those that are wider than high. */
export type Range = number | 'wide';

/** How a step says its range; nothing where it holds in all frames. */
export interface InRange {
  readonly below?: number;
  readonly wide?: true;
}

export const rangeOf = ({ below, wide }: InRange): Range | undefined => (wide ? 'wide' : below);

export const inRange = (range: Range | undefined): InRange =>
  range === undefined ? {} : range === 'wide' ? { wide: true } : { below: range };

/** A range as it is said of an edit: “below 600”. */
export const rangeWords = (range: Range): string => (range === 'wide' ? 'wider than high' : `below ${range}`);

/** What a part says in a range of frames, beside what it says for all. */
export const overridesAt = (part: Part, range: Range): RuleChange =>
  (range === 'wide' ? part.wide : part.below?.find((o) => o.width === range)?.rules) ?? {};

/**
 * The part with its override in a range changed: rules set there, and rules that are left to what holds in other frames. One that
 * says nothing any more is taken away.
 */
export function withOverride(
  part: Part,
  range: Range,
  set: RuleChange,
  leave: readonly RuleName[] = [],
): Part {
  const merged = { ...overridesAt(part, range), ...set };
  const rules: RuleChange = Object.fromEntries(
    Object.entries(merged).filter(([name]) => !leave.includes(name as RuleName)),
  );
  const says = Object.keys(rules).length > 0;
  if (range === 'wide') {
    const { wide: _before, ...rest } = part;
    return says ? { ...rest, wide: rules } : rest;
  }
  const { below: before = [], ...rest } = part;
  const overrides = [
    ...before.filter((o) => o.width !== range),
    ...(says ? [{ width: range, rules }] : []),
  ].sort((a, b) => b.width - a.width);
  return overrides.length > 0 ? { ...rest, below: overrides } : rest;
}
