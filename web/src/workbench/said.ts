import type { Part, RuleChange, Step } from '@tinfold/core/model';

/** The narrowest breakpoint above this width whose override says one of these rules: what is seen is what is changed. */
export const saidBelow = (part: Part, names: readonly string[], width: number): number | undefined =>
  part.below?.findLast((o) => width < o.width && names.some((n) => n in o.rules))?.width;

/** The step that sets rules of parts where they are said that hold at a frame width. */
export function settingAt(part: Part, width: number, parts: readonly string[], set: RuleChange): Step {
  const below = saidBelow(part, Object.keys(set), width);
  return {
    kind: 'setRules',
    ...(below !== undefined && { below }),
    parts: parts.map((id) => ({ id, set })),
  };
}
