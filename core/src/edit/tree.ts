import {
  bottom,
  FILL,
  findPart,
  FIT,
  fixed,
  parentOf,
  right,
  round,
  ruleOf,
  type Align,
  type Part,
  type Rect,
  type RuleChange,
  type Step,
  type Structure,
} from '../model/index.js';
import { copyOf, freshIds } from './ids.js';
import { leastMoving, none, type Answer, type WayToDo } from './least.js';
import { keptSizes, pinAt } from './said.js';
import { standingOf, type Bench } from './stands.js';

const ALIGNS: readonly Align[] = ['start', 'centre', 'end', 'stretch'];

/** Ways in which a part may stand at a new place in the tree, the plainest first. */
function* waysToStand(
  part: Part,
  parent: Part,
  at: number,
  places: ReadonlyMap<string, Rect>,
): Generator<WayToDo> {
  const move: Step = { kind: 'move', id: part.id, parent: parent.id, at };
  const [box, outer] = [places.get(part.id), places.get(parent.id)];
  const with_ = (set: RuleChange, notes: readonly string[] = []): WayToDo =>
    Object.keys(set).length === 0
      ? { step: move }
      : {
          step: { kind: 'several', steps: [{ kind: 'setRules', parts: [{ id: part.id, set }] }, move] },
          notes,
        };
  const { rules } = part;
  const bare: RuleChange = {
    ...(rules.gapBefore !== undefined && { gapBefore: null }),
    ...(rules.cell && { cell: null }),
    ...(rules.order !== undefined && { order: null }),
    ...(rules.newLine !== undefined && { newLine: null }),
  };
  const flow = ruleOf(parent.rules, 'flow');
  if (flow === 'free') {
    if (!box || !outer) return;
    yield with_({ ...bare, ...keptSizes(part, box), pin: pinAt(box, outer) }, [
      `“${part.name}” is pinned where it stands.`,
    ]);
    return;
  }
  const flowing: RuleChange = { ...bare, ...(rules.pin && { pin: null }) };
  yield with_(flowing);
  const siblings = parent.children.filter((c) => c.id !== part.id && !c.rules.pin);
  const before = siblings
    .filter((c) => parent.children.filter((x) => x.id !== part.id).indexOf(c) < at)
    .at(-1);
  const last = places.get(before?.id ?? '');
  const gap = box && last ? round(flow === 'row' ? box.x - right(last) : box.y - bottom(last), 2) : undefined;
  const spaced = gap !== undefined && gap >= 0 ? { ...flowing, gapBefore: gap } : flowing;
  for (const alignSelf of ALIGNS)
    yield with_({ ...spaced, alignSelf }, [
      `“${part.name}” has its own alignment and gap, so that it keeps its place.`,
    ]);
  if (box)
    for (const alignSelf of ALIGNS)
      yield with_({ ...spaced, alignSelf, width: fixed(round(box.width, 2)) }, [
        `“${part.name}” keeps its width of ${round(box.width, 1)} and its place.`,
      ]);
}

/** Takes a part out of its container; it stands after that. */
export function takeOut(structure: Structure, id: string, bench: Bench): Answer {
  const part = findPart(structure.root, id);
  const parent = parentOf(structure.root, id);
  const outer = parent && parentOf(structure.root, parent.id);
  if (!part || !parent || !outer) return none('What stands in the frame itself cannot be taken out of it.');
  return placed(
    structure,
    part,
    outer,
    outer.children.indexOf(parent) + 1,
    bench,
    `Take “${part.name}” out of “${parent.name}”`,
  );
}

/**
 * Moves a part into another container: last, keeping where it stands as well as it can; or at a place that was shown, where it
 * stands as the container lets it.
 */
export function moveInto(structure: Structure, id: string, into: string, bench: Bench, at?: number): Answer {
  const part = findPart(structure.root, id);
  const parent = findPart(structure.root, into);
  if (!part || !parent || id === structure.root.id)
    return none('Choose a part, and the container that it is to stand in.');
  if (parent.kind !== 'container') return none(`“${parent.name}” cannot hold parts: choose a container.`);
  if (findPart(part, into))
    return none(`“${part.name}” cannot stand in itself: choose a container outside of it.`);
  return placed(
    structure,
    part,
    parent,
    at ?? parent.children.length,
    bench,
    `Move “${part.name}” into “${parent.name}”`,
    at === undefined ? undefined : 1,
  );
}

function placed(
  structure: Structure,
  part: Part,
  parent: Part,
  at: number,
  bench: Bench,
  label: string,
  most = Infinity,
): Answer {
  const places = standingOf(structure, bench)[0] ?? new Map<string, Rect>();
  const ways = [...waysToStand(part, parent, at, places)].slice(0, most);
  return leastMoving(structure, bench, label, ways, part.id);
}

/** Moves a part by some places among its siblings. */
export function shift(structure: Structure, id: string, by: number, bench: Bench): Answer {
  const part = findPart(structure.root, id);
  const parent = parentOf(structure.root, id);
  if (!part || !parent) return none('The frame itself has no place among others.');
  const at = parent.children.indexOf(part) + by;
  if (at < 0 || at >= parent.children.length)
    return none(`“${part.name}” is ${by < 0 ? 'the first' : 'the last'} already in “${parent.name}”.`);
  const step: Step = { kind: 'move', id, parent: parent.id, at };
  return leastMoving(structure, bench, `Move “${part.name}” ${by < 0 ? 'forward' : 'back'}`, [{ step }], id);
}

/** Puts a part at the end of the container before it. */
export function moveInward(structure: Structure, id: string, bench: Bench): Answer {
  const parent = parentOf(structure.root, id);
  const at = parent?.children.findIndex((c) => c.id === id) ?? 0;
  const before = parent?.children[at - 1];
  if (before?.kind !== 'container')
    return none('There is no container before this part that it could go into.');
  return moveInto(structure, id, before.id, bench);
}

/** A copy of a part after it. */
export function duplicate(structure: Structure, id: string, bench: Bench): Answer {
  const part = findPart(structure.root, id);
  const parent = parentOf(structure.root, id);
  if (!part || !parent) return none('The frame itself cannot be copied.');
  const copy = copyOf(part, freshIds(structure.root));
  const step: Step = { kind: 'insert', parent: parent.id, at: parent.children.indexOf(part) + 1, part: copy };
  return leastMoving(structure, bench, `Copy “${part.name}”`, [{ step }], copy.id);
}

/** Takes parts away with all that is in them. */
export function erase(structure: Structure, ids: readonly string[], bench: Bench): Answer {
  const parts = ids.flatMap((id) => findPart(structure.root, id) ?? []);
  const [first] = parts;
  if (!first) return none('Choose the parts that are to be taken away.');
  if (ids.includes(structure.root.id)) return none('The frame itself cannot be taken away.');
  const own = new Set(ids);
  // What lies in another of them goes with it.
  const tops = parts.filter((p) => !parts.some((o) => o !== p && findPart(o, p.id)));
  const steps = tops.map((p): Step => ({ kind: 'remove', id: p.id }));
  const label = tops.length === 1 ? `Take away “${first.name}”` : `Take away ${tops.length} parts`;
  const parent = parentOf(structure.root, first.id);
  const select = parent && !own.has(parent.id) ? parent.id : structure.root.id;
  return leastMoving(structure, bench, label, [{ step: { kind: 'several', steps } }], select);
}

/** An empty part after another that takes what room is left. */
export function addSpacer(structure: Structure, id: string, bench: Bench): Answer {
  const part = findPart(structure.root, id);
  const parent = parentOf(structure.root, id);
  const flow = parent ? ruleOf(parent.rules, 'flow') : 'free';
  if (!part || !parent || (flow !== 'row' && flow !== 'column'))
    return none('A spacer stands between the parts of a row or column: choose one of those.');
  const isRow = flow === 'row';
  const spacer: Part = {
    id: freshIds(structure.root)(),
    name: 'Spacer',
    kind: 'shape',
    rules: { width: isRow ? FILL : fixed(0), height: isRow ? fixed(0) : FILL, gapBefore: 0 },
    children: [],
    source: [],
  };
  const step: Step = {
    kind: 'insert',
    parent: parent.id,
    at: parent.children.indexOf(part) + 1,
    part: spacer,
  };
  return leastMoving(structure, bench, `Spacer after “${part.name}”`, [{ step }], spacer.id);
}

/** Splits a container before one of its children: what follows stands in a container of its own that says the same. */
export function splitBefore(structure: Structure, id: string, bench: Bench): Answer {
  const whole = parentOf(structure.root, id);
  const outer = whole && parentOf(structure.root, whole.id);
  const at = whole?.children.findIndex((c) => c.id === id) ?? 0;
  if (!whole || !outer || at < 1)
    return none('A container is split before one of its parts that is not the first: choose that part.');
  const rest = whole.children.slice(at);
  const { below: _below, wide: _wide, pattern: _pattern, ...said } = whole;
  const second: Part = {
    ...said,
    id: freshIds(structure.root)(),
    name: `${whole.name}, second`,
    children: [],
    source: [],
  };
  const flow = ruleOf(whole.rules, 'flow');
  const gap = rest[0]?.rules.gapBefore ?? whole.rules.gap;
  const before = ruleOf(outer.rules, 'flow') === flow && typeof gap === 'number' ? { gapBefore: gap } : {};
  const insert = (rules: Part['rules']): Step => ({
    kind: 'insert',
    parent: outer.id,
    at: outer.children.indexOf(whole) + 1,
    part: { ...second, rules },
  });
  const moves = rest.map((c, i): Step => ({ kind: 'move', id: c.id, parent: second.id, at: i }));
  const first = rest[0];
  const bare: Step[] =
    first?.rules.gapBefore === undefined
      ? []
      : [{ kind: 'setRules', parts: [{ id: first.id, set: { gapBefore: null } }] }];
  const way = (rules: Part['rules']): WayToDo => ({
    step: { kind: 'several', steps: [insert(rules), ...moves, ...bare] },
  });
  const rules = { ...second.rules, ...before };
  return leastMoving(
    structure,
    bench,
    `Split “${whole.name}”`,
    [way(rules), way({ ...rules, width: FIT, height: FIT })],
    second.id,
  );
}

/** Joins containers that follow each other: the first takes the parts of the others. */
export function join(structure: Structure, ids: readonly string[], bench: Bench): Answer {
  const own = new Set(ids);
  const parent = parentOf(structure.root, ids[0] ?? '');
  const parts = parent?.children.filter((c) => own.has(c.id)) ?? [];
  const [first, ...others] = parts;
  if (!first || others.length === 0 || parts.length < own.size || parts.some((p) => p.kind !== 'container'))
    return none('Choose two containers that stand beside each other to join them.');
  let at = first.children.length;
  const steps = others.flatMap((other): Step[] => {
    const head = other.children[0];
    const gap =
      other.rules.gapBefore ?? (typeof parent?.rules.gap === 'number' ? parent.rules.gap : undefined);
    const gapped: Step[] =
      head && gap !== undefined && gap !== first.rules.gap
        ? [{ kind: 'setRules', parts: [{ id: head.id, set: { gapBefore: gap } }] }]
        : [];
    const moves = other.children.map((c): Step => ({ kind: 'move', id: c.id, parent: first.id, at: at++ }));
    return [...moves, ...gapped, { kind: 'remove', id: other.id }];
  });
  return leastMoving(
    structure,
    bench,
    `Join ${parts.length} containers`,
    [{ step: { kind: 'several', steps } }],
    first.id,
  );
}
