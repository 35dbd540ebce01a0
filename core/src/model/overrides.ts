import type { Part } from './part.js';
import type { RuleChange, RuleName } from './rules.js';

/** What a part says in frames narrower than a breakpoint, beside what it says for all. */
export const overridesAt = (part: Part, width: number): RuleChange =>
  part.below?.find((o) => o.width === width)?.rules ?? {};

/**
 * The part with its override below a breakpoint changed: rules set there, and rules that are left to what holds in wider
 * frames. One that says nothing any more is taken away.
 */
export function withOverride(
  part: Part,
  width: number,
  set: RuleChange,
  leave: readonly RuleName[] = [],
): Part {
  const { below: before = [], ...rest } = part;
  const merged = { ...overridesAt(part, width), ...set };
  const rules = Object.fromEntries(
    Object.entries(merged).filter(([name]) => !leave.includes(name as RuleName)),
  );
  const overrides = [
    ...before.filter((o) => o.width !== width),
    ...(Object.keys(rules).length > 0 ? [{ width, rules }] : []),
  ].sort((a, b) => b.width - a.width);
  return overrides.length > 0 ? { ...rest, below: overrides } : rest;
}
