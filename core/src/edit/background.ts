import {
  contains,
  FILL,
  findPart,
  FIT,
  fixed,
  bottom,
  parentOf,
  right,
  round,
  union,
  type Part,
  type Rect,
  type RuleChange,
  type Size,
  type Step,
  type Structure,
} from '../model/index.js';
import { gather } from './gather.js';
import { isRefusal, leastMoving, none, type Answer, type WayToDo } from './least.js';
import { standingOf, type Bench, type Standing } from './stands.js';

/** Edges that differ by no more than this are the same, px. */
const SAME = 0.5;

/** Whether two parts have the same box wherever both are shown. */
const coincide = (a: string, b: string, standing: Standing): boolean =>
  standing.every((places) => {
    const [p, q] = [places.get(a), places.get(b)];
    return !p || !q || (contains(p, q, SAME) && contains(q, p, SAME));
  });

/**
 * Makes a shape the background of what it lies behind: of its container where it is as large, else of a new container that holds
 * the parts in it. The container shows what the shape showed, and stands for it in the drawing.
 */
export function asBackground(structure: Structure, id: string, bench: Bench): Answer {
  const shape = findPart(structure.root, id);
  const parent = parentOf(structure.root, id);
  if (shape?.kind !== 'shape' || !shape.paint || !parent)
    return none('Choose a shape that lies behind other parts.');
  const standing = standingOf(structure, bench);
  const label = `“${shape.name}” as background`;
  if (coincide(id, parent.id, standing)) {
    const paint = { ...parent.paint, ...shape.paint };
    const source = [...parent.source, ...shape.source];
    const steps: Step[] = [
      { kind: 'remove', id },
      { kind: 'paint', parts: [{ id: parent.id, paint, source }] },
    ];
    return leastMoving(structure, bench, label, [{ step: { kind: 'several', steps } }], parent.id);
  }
  const places = standing[0];
  const box = places?.get(id);
  const boxOf = (part: Part): Rect[] => {
    const own = part.id === id ? undefined : places?.get(part.id);
    return own && box && contains(box, own, SAME) ? [own] : [];
  };
  const inside = parent.children.filter((c) => boxOf(c).length > 0);
  if (!box || inside.length === 0)
    return none(`Nothing lies on “${shape.name}” that it could be the background of.`);
  const ids = inside.map((c) => c.id);
  const lined = gather(structure, ids, bench);
  const held = isRefusal(lined) ? gather(structure, ids, bench, 'free') : lined;
  if (isRefusal(held) || held.select === undefined) return held;
  const container = held.select;
  const at = parent.children.indexOf(shape);
  // Those that stood before the shape now stand in the container.
  const before = parent.children.slice(0, at).filter((c) => ids.includes(c.id)).length;
  const steps: Step[] = [
    held.step,
    { kind: 'move', id: container, parent: parent.id, at: at - before },
    { kind: 'remove', id },
    { kind: 'paint', parts: [{ id: container, paint: shape.paint, source: shape.source }] },
  ];
  const ways = waysToLie(shape, box, union(inside.flatMap(boxOf)), container, steps);
  return leastMoving(structure, bench, label, ways, container);
}

/** The sizes that the new container may have: those of the shape, as its content asks, or what is left. */
function* waysToLie(
  { rules }: Part,
  box: Rect,
  hull: Rect,
  container: string,
  steps: readonly Step[],
): Generator<WayToDo> {
  const padding = {
    top: round(hull.y - box.y, 2),
    right: round(right(box) - right(hull), 2),
    bottom: round(bottom(box) - bottom(hull), 2),
    left: round(hull.x - box.x, 2),
  };
  const own = (size: Size | undefined, px: number): readonly Size[] =>
    size?.kind === 'fill' ? [FILL, FIT, fixed(px)] : [FIT, fixed(px), FILL];
  for (const height of own(rules.height, round(box.height, 2)))
    for (const width of own(rules.width, round(box.width, 2))) {
      const set: RuleChange = {
        width,
        height,
        padding,
        pin: rules.pin ?? null,
        gapBefore: rules.gapBefore ?? null,
        alignSelf: rules.alignSelf ?? null,
        cell: rules.cell ?? null,
      };
      yield {
        step: { kind: 'several', steps: [...steps, { kind: 'setRules', parts: [{ id: container, set }] }] },
      };
    }
}
