import {
  bottom,
  findPart,
  NO_PADDING,
  parentOf,
  right,
  round,
  ruleOf,
  type Part,
  type Pin,
  type Rect,
  type RuleChange,
  type Step,
  type Structure,
} from '../model/index.js';
import { gapPx } from '../layout/index.js';
import { keptSizes } from './said.js';
import { leastMoving, type Answer, type WayToDo } from './least.js';
import { standingOf, type Bench } from './stands.js';

/** Distances from two opposite edges that differ by less than this mean the middle, px. */
const MIDDLE = 1;

/** The edge or middle along one axis that a thing is near to, with its distance. */
function near<K extends string>(
  [before, after]: readonly [number, number],
  [start, end, centre]: readonly [K, K, K],
): Partial<Record<K, number>> {
  const at =
    Math.abs(before - after) <= MIDDLE ? [centre, 0] : before < after ? [start, before] : [end, after];
  return { [at[0] as K]: round(at[1] as number, 2) } as Partial<Record<K, number>>;
}

/** A pin to the edges of `outer` that a box is near to. */
export function pinNear(box: Rect, outer: Rect): Pin {
  const across = [box.x - outer.x, right(outer) - right(box)] as const;
  const down = [box.y - outer.y, bottom(outer) - bottom(box)] as const;
  return { ...near(across, ['left', 'right', 'centreX']), ...near(down, ['top', 'bottom', 'centreY']) };
}

const inFlow = (part: Part): readonly Part[] => part.children.filter((c) => !c.rules.pin);

/** What is said besides, so that something else keeps its place. */
interface Alongside {
  readonly change: { readonly id: string; readonly set: RuleChange };
  readonly note: string;
}

/** Takes a part out of the flow and pins it to the edges that it is near to; what follows it keeps its place where it can. */
export function pinOut(structure: Structure, id: string, bench: Bench): Answer {
  const part = findPart(structure.root, id);
  const parent = parentOf(structure.root, id);
  const places = standingOf(structure, bench)[0];
  const [box, outer] = [places?.get(id), places?.get(parent?.id ?? '')];
  if (!part || !parent || !box || !outer)
    return { reason: 'Only a part that is shown in a container can be pinned to it.', instead: [] };
  if (part.rules.pin) return { reason: `“${part.name}” is out of the flow already.`, instead: [] };
  const set: RuleChange = {
    pin: pinNear(box, outer),
    ...keptSizes(part, box),
    ...(part.rules.gapBefore !== undefined && { gapBefore: null }),
    ...(part.rules.cell && { cell: null }),
  };
  const setting = (parts: readonly { readonly id: string; readonly set: RuleChange }[]): Step => ({
    kind: 'setRules',
    parts,
  });
  const others = inFlow(parent);
  const at = others.indexOf(part);
  const [before, next] = [others[at - 1], others[at + 1]];
  const [a, b] = [places?.get(before?.id ?? ''), places?.get(next?.id ?? '')];
  const flow = ruleOf(parent.rules, 'flow');
  const isLine = flow === 'row' || flow === 'column';
  /** Where what follows is held, and how large the container stays: it may have been as large as the part. */
  const follows = (): Alongside | undefined => {
    if (!next || !b || !isLine) return undefined;
    const start = flow === 'row' ? b.x : b.y;
    if (a) {
      const gap = round(start - (flow === 'row' ? right(a) : bottom(a)), 2);
      return {
        change: { id: next.id, set: { gapBefore: gap } },
        note: `“${next.name}” keeps its place by the gap before it.`,
      };
    }
    const padding = parent.rules.padding ?? NO_PADDING;
    const edge = round(start - (flow === 'row' ? outer.x : outer.y), 2);
    return {
      change: { id: parent.id, set: { padding: { ...padding, [flow === 'row' ? 'left' : 'top']: edge } } },
      note: `“${next.name}” keeps its place by the padding of “${parent.name}”.`,
    };
  };
  const stays: Alongside = {
    change: { id: parent.id, set: { minHeight: round(outer.height, 2) } },
    note: `“${parent.name}” stays ${round(outer.height, 1)} high.`,
  };
  const following = follows();
  const way = (...others: readonly Alongside[]): WayToDo => ({
    step: setting([{ id, set }, ...others.map((o) => o.change)]),
    notes: others.map((o) => o.note),
  });
  function* ways(): Generator<WayToDo> {
    yield way();
    if (following) yield way(following);
    yield way(stays);
    if (following && following.change.id !== stays.change.id) yield way(following, stays);
  }
  return leastMoving(structure, bench, `Pin “${part.name}” out of the flow`, ways(), id);
}

/** Puts a pinned part back into the flow of what holds it, at the place where it stands. */
export function putBack(structure: Structure, id: string, bench: Bench): Answer {
  const part = findPart(structure.root, id);
  const parent = parentOf(structure.root, id);
  const places = standingOf(structure, bench)[0];
  const box = places?.get(id);
  if (!part?.rules.pin || !parent || !box || !places)
    return { reason: 'Only a part that is pinned can be put back into the flow.', instead: [] };
  const flow = ruleOf(parent.rules, 'flow');
  if (flow === 'free')
    return {
      reason: `“${parent.name}” is free and has no flow: make it a column or row first.`,
      instead: [],
    };
  const isRow = flow !== 'column';
  const start = (r: Rect): number => (isRow ? r.x : r.y);
  const before = inFlow(parent).filter((c) => {
    const other = places.get(c.id);
    return other !== undefined && start(other) < start(box);
  });
  const last = before.at(-1);
  const rest = parent.children.filter((c) => c.id !== id);
  const at = last ? rest.indexOf(last) + 1 : 0;
  const next = inFlow(parent)[before.length];
  const move: Step = { kind: 'move', id, parent: parent.id, at };
  const usual = gapPx(parent);
  function* ways(): Generator<WayToDo> {
    const set: RuleChange = { pin: null };
    yield { step: { kind: 'several', steps: [{ kind: 'setRules', parts: [{ id, set }] }, move] } };
    const [a, b] = [places?.get(last?.id ?? ''), places?.get(next?.id ?? '')];
    const end = (r: Rect): number => (isRow ? right(r) : bottom(r));
    if (!box) return;
    // What it stood over makes room for it: no gap is under 0.
    const clear = (px: number): number | undefined => (px >= 0 ? round(px, 2) : undefined);
    const own = a ? clear(start(box) - end(a)) : undefined;
    const after = b ? clear(start(b) - end(box)) : undefined;
    const changes = [
      { id, set: { ...set, ...(own !== undefined && own !== usual && { gapBefore: own }) } },
      ...(next && after !== undefined && after !== usual ? [{ id: next.id, set: { gapBefore: after } }] : []),
    ];
    yield {
      step: { kind: 'several', steps: [{ kind: 'setRules', parts: changes }, move] },
      notes:
        next && changes.length > 1
          ? [`The gap before “${next.name}” is set so that it keeps its place.`]
          : [],
    };
  }
  return leastMoving(structure, bench, `Put “${part.name}” back into the flow`, ways(), id);
}
