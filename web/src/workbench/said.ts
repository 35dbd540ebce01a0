import { findPart, type Part, type RuleChange, type RuleName, type Step } from '@tinfold/core/model';
import type { WorkbenchState } from './store';

/** The narrowest breakpoint above this width whose override says one of these rules: what is seen is what is changed. */
export const saidBelow = (part: Part, names: readonly string[], width: number): number | undefined =>
  part.below?.findLast((o) => width < o.width && names.some((n) => n in o.rules))?.width;

/**
 * The step that sets rules of parts that are alike to one: from here down where the designer said so, else where those rules are
 * said that hold at the frame's width.
 */
export function settingOf(
  { doc, frameWidth, holds }: Pick<WorkbenchState, 'doc' | 'frameWidth' | 'holds'>,
  id: string,
  parts: readonly string[],
  set: RuleChange,
): Step {
  const part = findPart(doc.root, id);
  const below = holds ?? (part && saidBelow(part, Object.keys(set), frameWidth));
  return {
    kind: 'setRules',
    ...(below !== undefined && { below }),
    parts: parts.map((p) => ({ id: p, set })),
  };
}

/** The step after which some rules of parts are as in wider frames again; undefined where they are so. */
export function leavingBelow(
  part: Part,
  parts: readonly string[],
  names: readonly RuleName[],
  width: number,
): Step | undefined {
  const below = saidBelow(part, names, width);
  if (below === undefined) return undefined;
  return { kind: 'setRules', below, parts: parts.map((id) => ({ id, set: {}, leave: names })) };
}

/** The steps after which what a part says at a frame width holds in all frames. */
export function holdingEverywhere(part: Part, width: number): Step | undefined {
  const said = (part.below ?? []).filter((o) => width < o.width);
  if (said.length === 0) return undefined;
  const set = said.reduce<RuleChange>((all, o) => ({ ...all, ...o.rules }), {});
  const names = Object.keys(set) as RuleName[];
  return {
    kind: 'several',
    steps: [
      { kind: 'setRules', parts: [{ id: part.id, set }] },
      ...(part.below ?? []).map((o): Step => ({
        kind: 'setRules',
        below: o.width,
        parts: [{ id: part.id, set: {}, leave: names }],
      })),
    ],
  };
}
