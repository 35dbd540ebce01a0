import {
  findPart,
  fixed,
  NO_PADDING,
  parentOf,
  round,
  ruleOf,
  type Part,
  type Rect,
  type RuleChange,
  type Step,
  type Structure,
} from '../model/index.js';
import { gapPx } from '../layout/index.js';
import { keptSizes, pinAt, together } from './said.js';
import { leastMoving, type Answer, type WayToDo } from './least.js';
import { standingOf, type Bench } from './stands.js';

const isLine = (part: Part): boolean => ['row', 'column'].includes(ruleOf(part.rules, 'flow'));
const inFlow = (part: Part): readonly Part[] => part.children.filter((c) => !c.rules.pin);

/** Takes a container away; its children stay where they are as far as what holds it lets them. */
export function dissolve(structure: Structure, id: string, bench: Bench): Answer {
  const part = findPart(structure.root, id);
  const parent = parentOf(structure.root, id);
  if (!part || !parent)
    return { reason: 'The frame itself cannot be dissolved: choose a container in it.', instead: [] };
  if (part.kind !== 'container' || part.children.length === 0)
    return { reason: `“${part.name}” holds nothing that could stay: take it away instead.`, instead: [] };
  const places = standingOf(structure, bench)[0] ?? new Map<string, Rect>();
  return leastMoving(
    structure,
    bench,
    `Dissolve “${part.name}”`,
    ways(part, parent, places),
    part.children[0]?.id,
  );
}

function* ways(part: Part, parent: Part, places: ReadonlyMap<string, Rect>): Generator<WayToDo> {
  const unwrap: Step = { kind: 'unwrap', id: part.id };
  const paint =
    (part.paint?.fill ?? part.paint?.stroke) ? [`What “${part.name}” is painted with goes with it.`] : [];
  const way = (
    changes: readonly (readonly [string, RuleChange])[],
    notes: readonly string[] = [],
  ): WayToDo => {
    const told = changes.filter(([, set]) => Object.keys(set).length > 0).map(([id, set]) => ({ id, set }));
    const steps: Step[] = [unwrap, ...(told.length > 0 ? [{ kind: 'setRules', parts: told } as const] : [])];
    return { step: together(steps), notes: [...paint, ...notes] };
  };
  const children = inFlow(part);
  const own = inFlow(parent);
  if (ruleOf(parent.rules, 'flow') === 'free') {
    const outer = places.get(parent.id);
    const pinned = children.map((c) => [c.id, pinnedIn(places.get(c.id), outer, c)] as const);
    yield way(pinned, [`The parts of “${part.name}” are pinned where they stand.`]);
    return;
  }
  if (own.length === 1) {
    const { flow, gap, crossGap, align, justify, columns, rows, areas, reverse } = part.rules;
    const [a, b] = [parent.rules.padding ?? NO_PADDING, part.rules.padding ?? NO_PADDING];
    const sum = {
      top: a.top + b.top,
      right: a.right + b.right,
      bottom: a.bottom + b.bottom,
      left: a.left + b.left,
    };
    const taken = { flow, gap, crossGap, align, justify, columns, rows, areas, reverse };
    const set: RuleChange = {
      ...Object.fromEntries(Object.entries(taken).map(([name, value]) => [name, value ?? null])),
      padding: Object.values(sum).some((n) => n > 0) ? sum : null,
    };
    yield way(
      [[parent.id, set]],
      [`“${parent.name}” now says what “${part.name}” said: flow, gaps, padding and alignment.`],
    );
  }
  if (!isLine(parent)) {
    yield way([]);
    return;
  }
  const alongSame = ruleOf(parent.rules, 'flow') === ruleOf(part.rules, 'flow');
  const isRow = ruleOf(parent.rules, 'flow') === 'row';
  const padding = part.rules.padding ?? NO_PADDING;
  const [lead, trail] = isRow ? [padding.left, padding.right] : [padding.top, padding.bottom];
  const at = own.findIndex((c) => c.id === part.id);
  const next = own[at + 1];
  const spaced = children.map((child, i): readonly [string, RuleChange] => {
    const own =
      i === 0 ? (part.rules.gapBefore ?? gapPx(parent)) + lead : (child.rules.gapBefore ?? gapPx(part));
    const isUsual = Math.abs(own - gapPx(parent)) < 0.01 || (at === 0 && i === 0 && lead === 0);
    return [child.id, alongSame ? { gapBefore: isUsual ? null : round(own, 2) } : {}];
  });
  const after: (readonly [string, RuleChange])[] =
    next && trail > 0 && alongSame
      ? [[next.id, { gapBefore: round((next.rules.gapBefore ?? gapPx(parent)) + trail, 2) }]]
      : [];
  yield way([...spaced, ...after]);
  const align = ruleOf(part.rules, 'align');
  const aligned = spaced.map(([id, set]) => [id, { ...set, alignSelf: align }] as const);
  yield way([...aligned, ...after], [`The parts keep to the ${align} by themselves.`]);
  const measured = spaced.map(([id, set]) => {
    const box = places.get(id);
    return [id, { ...set, alignSelf: align, ...(box && { width: fixed(round(box.width, 2)) }) }] as const;
  });
  yield way([...measured, ...after], ['The parts keep their drawn widths.']);
  yield way([]);
}

/** A pin that keeps a part where it stands in a free container. */
function pinnedIn(box: Rect | undefined, outer: Rect | undefined, part: Part): RuleChange {
  if (!box || !outer) return {};
  return {
    pin: pinAt(box, outer),
    ...keptSizes(part, box),
    ...(part.rules.gapBefore !== undefined && { gapBefore: null }),
  };
}
