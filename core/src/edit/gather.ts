import {
  bottom,
  FILL,
  FIT,
  findPart,
  fixed,
  parentOf,
  right,
  round,
  ruleOf,
  union,
  type Align,
  type Flow,
  type Part,
  type Rect,
  type RuleChange,
  type Rules,
  type Size,
  type Step,
  type Structure,
} from '../model/index.js';
import { freshIds } from './ids.js';
import { leastMoving, type Answer, type Change, isRefusal, type WayToDo } from './least.js';
import { lieOf, type Lie } from './lie.js';
import { keptSizes, pinAt, together } from './said.js';
import { standingOf, type Bench } from './stands.js';

const NAMES: Readonly<Record<Flow, string>> = {
  column: 'Column',
  row: 'Row',
  wrap: 'Wrap',
  grid: 'Grid',
  free: 'Free group',
};
const FLOWS = Object.keys(NAMES) as readonly Flow[];

/** The number that most distances are, px; 0 for none. */
function usual(gaps: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const gap of gaps) counts.set(round(gap, 2), (counts.get(round(gap, 2)) ?? 0) + 1);
  return [...counts].reduce((a, b) => (b[1] > a[1] ? b : a), [0, 0])[0];
}

/**
 * Puts parts that stand beside each other in one container into a container of their own. Without a flow it is the one in
 * which they lie; where they do not line up that is said, with what could be instead.
 */
export function gather(structure: Structure, ids: readonly string[], bench: Bench, flow?: Flow): Answer {
  const { root } = structure;
  const [first] = ids;
  const parent = first === undefined ? undefined : parentOf(root, first);
  if (!parent) return { reason: 'Choose the parts that are to be put together.', instead: [] };
  const own = new Set(ids);
  const parts = parent.children.filter((c) => own.has(c.id));
  if (parts.length < own.size)
    return {
      reason:
        'Only parts that stand beside each other in one container can be put together: take the others out first.',
      instead: [],
    };
  const places = standingOf(structure, bench)[0];
  const boxes = parts.map((p) => places?.get(p.id));
  if (!places || boxes.some((b) => b === undefined))
    return {
      reason: 'A part that the drawn width does not show cannot be put together with others.',
      instead: [],
    };
  const shown = boxes as Rect[];
  const lie = lieOf(shown);
  if (flow === undefined && lie.flow === undefined) {
    const instead = FLOWS.map((f) => gather(structure, ids, bench, f)).filter(
      (a): a is Change => !isRefusal(a),
    );
    return { reason: 'These parts do not line up: choose how they are to stand.', instead };
  }
  const kind = flow ?? lie.flow ?? 'free';
  const id = freshIds(root)();
  const ordered = kind === lie.flow || kind === 'wrap' ? lie.order : lieIn(kind, shown);
  const sorted = ordered.map((i) => parts[i] as Part);
  const label = `Put ${parts.length === 1 ? `“${parts[0]?.name ?? ''}”` : `${parts.length} parts`} into a ${NAMES[kind].toLowerCase()}`;
  const outer = places.get(parent.id) ?? union(shown);
  const ways = waysToHold({
    id,
    kind,
    parent,
    parts: sorted,
    boxes: ordered.map((i) => shown[i] as Rect),
    lie,
    outer,
  });
  return leastMoving(structure, bench, label, ways, id);
}

/** The order of boxes along a flow in which they do not lie. */
function lieIn(flow: Flow, boxes: readonly Rect[]): number[] {
  const along = (r: Rect): number => (flow === 'row' ? r.x : r.y);
  return boxes.map((_, i) => i).toSorted((a, b) => along(boxes[a] as Rect) - along(boxes[b] as Rect));
}

interface Held {
  readonly id: string;
  readonly kind: Flow;
  readonly parent: Part;
  readonly parts: readonly Part[];
  readonly boxes: readonly Rect[];
  readonly lie: Lie;
  readonly outer: Rect;
}

/** Ways in which a new container may hold its parts, the plainest first. */
function* waysToHold(held: Held): Generator<WayToDo> {
  const { id, kind, parent, parts, boxes, lie, outer } = held;
  const hull = union(boxes);
  const inFlow = kind === lie.flow;
  const gap = inFlow ? usual(lie.gaps) : 0;
  const isFree = ruleOf(parent.rules, 'flow') === 'free';
  const fills = parts.some((p) => p.rules.width?.kind === 'fill');
  const widths: readonly Size[] = fills
    ? [FILL, FIT, fixed(round(hull.width, 2))]
    : [FIT, FILL, fixed(round(hull.width, 2))];
  const heights: readonly Size[] =
    kind === 'free' ? [fixed(round(hull.height, 2))] : [FIT, FILL, fixed(round(hull.height, 2))];
  const aligns = kind === 'free' ? [undefined] : alignsOf(kind, boxes);
  const base: Rules = {
    flow: kind,
    ...(kind !== 'free' && gap !== 0 && { gap }),
    ...(lie.crossGaps.length > 0 && inFlow && { crossGap: usual(lie.crossGaps) }),
    ...(kind === 'grid' && { columns: { kind: 'count', count: lie.perLine } as const }),
  };
  const [head] = parts;
  const before = head?.rules.gapBefore;
  for (const height of heights)
    for (const width of kind === 'free' ? widths.toReversed() : widths)
      for (const align of aligns) {
        const rules: Rules = {
          ...base,
          width,
          height,
          ...(align && { align }),
          ...(before !== undefined && { gapBefore: before }),
          ...(isFree && { pin: pinAt(hull, outer) }),
        };
        const container: Part = { id, name: NAMES[kind], kind: 'container', rules, children: [], source: [] };
        const changes = parts.map((part, i) => ({
          id: part.id,
          set: childChange(part, boxes, i, { kind, gap: inFlow ? gap : undefined, hull, lie }),
        }));
        const told = changes.filter((c) => Object.keys(c.set).length > 0);
        const steps: Step[] = [
          { kind: 'wrap', ids: parts.map((p) => p.id), container },
          ...(told.length > 0 ? [{ kind: 'setRules', parts: told } as const] : []),
        ];
        yield {
          step: together(steps),
          notes: notesOf(parts, told),
        };
      }
}

/** How boxes keep to each other across a flow: those of equal edges first. */
function alignsOf(kind: Flow, boxes: readonly Rect[]): readonly Align[] {
  const isRow = kind !== 'column';
  const start = boxes.map((b) => (isRow ? b.y : b.x));
  const end = boxes.map((b) => (isRow ? bottom(b) : right(b)));
  const middle = start.map((s, i) => (s + (end[i] ?? s)) / 2);
  const spread = (list: readonly number[]): number => Math.max(...list) - Math.min(...list);
  const ranked: [Align, number][] = [
    ['start', spread(start)],
    ['stretch', Math.max(spread(start), spread(end))],
    ['centre', spread(middle)],
    ['end', spread(end)],
  ];
  return ranked.toSorted((a, b) => a[1] - b[1]).map(([align]) => align);
}

interface In {
  readonly kind: Flow;
  /** The container's gap, px; undefined where the parts do not lie along it. */
  readonly gap: number | undefined;
  readonly hull: Rect;
  readonly lie: Lie;
}

/** What a part has to say otherwise in its new container. */
function childChange(
  part: Part,
  boxes: readonly Rect[],
  i: number,
  { kind, gap, hull, lie }: In,
): RuleChange {
  const { rules } = part;
  const box = boxes[i] as Rect;
  if (kind === 'free')
    return {
      pin: pinAt(box, hull),
      ...(rules.gapBefore !== undefined && { gapBefore: null }),
      ...keptSizes(part, box),
    };
  const odd =
    gap === undefined || kind === 'grid' || kind === 'wrap' || i === 0 ? undefined : lie.gaps[i - 1];
  const gapBefore = odd !== undefined && Math.abs(odd - (gap ?? 0)) > 0.01 ? round(odd, 2) : undefined;
  return {
    ...(rules.pin && { pin: null }),
    ...(gapBefore !== rules.gapBefore && { gapBefore: gapBefore ?? null }),
    ...(rules.cell && { cell: null }),
    ...(rules.order !== undefined && { order: null }),
  };
}

const WORDS: Readonly<Partial<Record<keyof Rules, string>>> = {
  pin: 'pin',
  cell: 'place in the grid',
  width: 'width',
  height: 'height',
};

/** Which rules of parts change with their container's, as sentences; gaps are seen where they are. */
function notesOf(
  parts: readonly Part[],
  told: readonly { readonly id: string; readonly set: RuleChange }[],
): string[] {
  return told.flatMap(({ id, set }) => {
    const name = findPart({ ...(parts[0] as Part), id: '', children: parts }, id)?.name ?? '';
    const words = (Object.keys(set) as (keyof Rules)[]).flatMap((k) => WORDS[k] ?? []);
    return words.length > 0 ? [`“${name}”: ${words.join(' and ')} set for the new container.`] : [];
  });
}
