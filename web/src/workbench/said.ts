import {
  findPart,
  inRange,
  LENGTH_PLACES,
  type Bound,
  type Conditions,
  type LengthPlace,
  type Part,
  type Range,
  type RuleChange,
  type RuleName,
  type Step,
  type Structure,
} from '@tinfold/core/model';
import { released } from '@tinfold/core/tokens';
import type { WorkbenchState } from './store';

/** The frame as it is looked at. */
export const frameOf = ({
  frameWidth,
  frameHeight,
}: Pick<WorkbenchState, 'frameWidth' | 'frameHeight'>): Pick<Conditions, 'width' | 'height'> => ({
  width: frameWidth,
  ...(frameHeight !== undefined && { height: frameHeight }),
});

export const isWide = ({ width, height = Infinity }: Pick<Conditions, 'width' | 'height'>): boolean =>
  width > height;

/** The range whose override says one of these rules in a frame: what is seen is what is changed. */
export const saidIn = (
  part: Part,
  names: readonly string[],
  frame: Pick<Conditions, 'width' | 'height'>,
): Range | undefined =>
  isWide(frame) && part.wide && names.some((n) => n in (part.wide ?? {}))
    ? 'wide'
    : part.below?.findLast((o) => frame.width < o.width && names.some((n) => n in o.rules))?.width;

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
  { doc, holds, ...frame }: Pick<WorkbenchState, 'doc' | 'frameWidth' | 'frameHeight' | 'holds'>,
  id: string,
  parts: readonly string[],
  set: RuleChange,
): Step {
  const part = findPart(doc.root, id);
  const own: Step = {
    kind: 'setRules',
    ...inRange(holds ?? (part && saidIn(part, Object.keys(set), frameOf(frame)))),
    parts: parts.map((p) => ({ id: p, set })),
  };
  const before = withoutTokens(doc, parts, Object.keys(set));
  return before.length === 0 ? own : { kind: 'several', steps: [...before, own] };
}

/** The step after which some rules of parts are as in all frames again; undefined where they are so. */
export function leavingRange(
  part: Part,
  parts: readonly string[],
  names: readonly RuleName[],
  frame: Pick<Conditions, 'width' | 'height'>,
): Step | undefined {
  const range = saidIn(part, names, frame);
  if (range === undefined) return undefined;
  return { kind: 'setRules', ...inRange(range), parts: parts.map((id) => ({ id, set: {}, leave: names })) };
}

/** The steps after which what a part says in a frame holds in all frames. */
export function holdingEverywhere(part: Part, frame: Pick<Conditions, 'width' | 'height'>): Step | undefined {
  const said = [
    ...(part.below ?? []).filter((o) => frame.width < o.width).map((o) => o.rules),
    ...(isWide(frame) && part.wide ? [part.wide] : []),
  ];
  if (said.length === 0) return undefined;
  const set = Object.assign({}, ...said) as RuleChange;
  const names = Object.keys(set) as RuleName[];
  const ranges: Range[] = [
    ...(part.below ?? []).map((o) => o.width),
    ...(part.wide ? ['wide' as const] : []),
  ];
  return {
    kind: 'several',
    steps: [
      { kind: 'setRules', parts: [{ id: part.id, set }] },
      ...ranges.map((range): Step => ({
        kind: 'setRules',
        ...inRange(range),
        parts: [{ id: part.id, set: {}, leave: names }],
      })),
    ],
  };
}
