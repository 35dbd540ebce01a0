import {
  findPart,
  LENGTH_PLACES,
  type Bound,
  type LengthPlace,
  type Part,
  type RuleChange,
  type RuleName,
  type Step,
  type Structure,
} from '@tinfold/core/model';
import { released } from '@tinfold/core/tokens';
import type { WorkbenchState } from './store';

/** The narrowest breakpoint above this width whose override says one of these rules: what is seen is what is changed. */
export const saidBelow = (part: Part, names: readonly string[], width: number): number | undefined =>
  part.below?.findLast((o) => width < o.width && names.some((n) => n in o.rules))?.width;

/** The places at which a token can say a rule. */
const placesOfRule = (name: string): LengthPlace[] =>
  LENGTH_PLACES.filter((place) => place === name || place.startsWith(`${name}.`));

/** The tokens that say some rules of a part, in words; nothing where none does. */
export const tokensAt = ({ bound }: Part, names: readonly RuleName[]): string =>
  bound ? [...new Set(names.flatMap(placesOfRule).flatMap((p) => bound[p] ?? []))].join(', ') : '';

/** The step after which a token says a rule of some parts; undefined where none is called so or it can say no such rule. */
export function bindingOf(
  { doc }: Pick<WorkbenchState, 'doc'>,
  parts: readonly string[],
  names: readonly RuleName[],
  typed: string,
): Step | undefined {
  const token = doc.tokens?.find((t) => t.kind === 'length' && t.name === typed.trim());
  const places = names.length === 1 ? names.flatMap(placesOfRule) : [];
  if (!token || places.length === 0) return undefined;
  const bound = Object.fromEntries(places.map((p) => [p, token.name])) as Bound;
  return {
    kind: 'bind',
    parts: parts.map((id) => ({ id, bound: { ...findPart(doc.root, id)?.bound, ...bound } })),
  };
}

/** The steps after which no token says some rules of parts any more: what is typed holds. */
function withoutTokens(doc: Structure, parts: readonly string[], names: readonly string[]): Step[] {
  const places = names.flatMap(placesOfRule);
  return parts.flatMap((id) => {
    const part = findPart(doc.root, id);
    const steps = part ? released(doc, part, places) : [];
    return 'reason' in steps ? [] : steps;
  });
}

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
  const own: Step = {
    kind: 'setRules',
    ...(below !== undefined && { below }),
    parts: parts.map((p) => ({ id: p, set })),
  };
  const before = withoutTokens(doc, parts, Object.keys(set));
  return before.length === 0 ? own : { kind: 'several', steps: [...before, own] };
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
