import {
  breakpoints,
  overridesAt,
  walk,
  type RuleName,
  type Step,
  type Structure,
  type Token,
} from '../model/index.js';
import { leastMoving, none, type Answer } from './least.js';
import type { Bench } from './stands.js';

/** The steps after which nothing is said below a breakpoint, and, with `to`, all of it below another. */
export function breakpointSteps(
  { root, tokens = [] }: Structure,
  from: number,
  to: number | undefined,
): Step[] {
  const said = [...walk(root)].filter((p) => p.below?.some((o) => o.width === from));
  const rules: Step[] = said.flatMap((part): Step[] => {
    const set = overridesAt(part, from);
    const leave = Object.keys(set) as RuleName[];
    return [
      ...(to === undefined
        ? []
        : [{ kind: 'setRules', below: to, parts: [{ id: part.id, set }] } satisfies Step]),
      { kind: 'setRules', below: from, parts: [{ id: part.id, set: {}, leave }] },
    ];
  });
  const lengths = tokens.flatMap((token): Step[] => {
    if (token.kind !== 'length' || !token.below?.some((s) => s.width === from)) return [];
    const { below: _below, ...rest } = token;
    const below = token.below.flatMap((s) =>
      s.width !== from ? [s] : to === undefined ? [] : [{ ...s, width: to }],
    );
    const next: Token = below.length > 0 ? { ...rest, below } : rest;
    return [{ kind: 'token', name: token.name, to: next }];
  });
  return [...rules, ...lengths];
}

/** Lets all that is said below a breakpoint hold below another width, px. The order of breakpoints stays as it is. */
export function moveBreakpoint(structure: Structure, from: number, to: number, bench: Bench): Answer {
  const all = breakpoints(structure);
  const at = all.indexOf(from);
  if (at < 0) return none(`Nothing is said below ${from} any more.`);
  const [wider = Infinity, narrower = 0] = [all[at - 1], all[at + 1]];
  if (to >= wider || to <= narrower || !(to > 0))
    return none(
      `The breakpoint stays between its neighbours: move it ${wider === Infinity ? `above ${narrower}` : `between ${narrower} and ${wider}`}.`,
    );
  const steps = breakpointSteps(structure, from, to);
  return leastMoving(structure, bench, `Below ${to} in place of ${from}`, [
    { step: { kind: 'several', steps } },
  ]);
}

/** Takes a breakpoint away: below it holds what holds above. */
export function dropBreakpoint(structure: Structure, from: number, bench: Bench): Answer {
  if (!breakpoints(structure).includes(from)) return none(`Nothing is said below ${from} any more.`);
  const steps = breakpointSteps(structure, from, undefined);
  return leastMoving(structure, bench, `Below ${from} as above it`, [{ step: { kind: 'several', steps } }]);
}
