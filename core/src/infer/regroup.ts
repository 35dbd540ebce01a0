import { containmentOf, type Item } from '../drawing/index.js';
import { area, bottom, centreX, right, union, walk, type Part, type Rect } from '../model/index.js';
import { intoBands } from './bands.js';
import { bento } from './bento.js';
import { inkOf } from './build.js';
import { Grouper } from './group.js';
import { isMarked, withRoom } from './marked.js';
import { itemsBelow, near, type Node, type Tolerance } from './node.js';
import { meetingRows } from './separators.js';
import { holderSignature, leafNode } from './signature.js';
import { slabs, startOf, type Axis } from './stack.js';
import { fromFoot } from './straddling.js';
import { TreeBuilder } from './tree.js';
import { isRagged } from './widths.js';

/** Nodes in a flow. */
interface Laid {
  readonly flow: NonNullable<Node['flow']>;
  readonly children: readonly Node[];
  readonly pins?: readonly Node[];
  readonly tracks?: Node['tracks'];
}

/** Inside means inside but for this much, px. */
const EDGE = 2;

/** A place of the tree while it is filled: a part of the other reading, or something that only this drawing has. */
interface Slot {
  readonly part?: Part;
  readonly item?: Item;
  /** What this drawing alone has, as it was read by itself. */
  readonly own?: Node;
  readonly inFlow: Slot[];
  readonly pins: Slot[];
}

const boxesOf = (slot: Slot): Rect[] =>
  slot.own ? [slot.own.box] : slot.item ? [slot.item.box] : [...slot.inFlow, ...slot.pins].flatMap(boxesOf);
const boxOf = (slot: Slot): Rect => union(boxesOf(slot));

function* itemsOf(slot: Slot): Generator<Item> {
  if (slot.item) yield slot.item;
  for (const child of [...slot.inFlow, ...slot.pins]) yield* itemsOf(child);
  if (slot.own) yield* itemsBelow(slot.own);
}

const holds = (outer: Rect, inner: Rect): boolean =>
  inner.x >= outer.x - EDGE &&
  inner.y >= outer.y - EDGE &&
  right(inner) <= right(outer) + EDGE &&
  bottom(inner) <= bottom(outer) + EDGE;

/** The unpainted row that a place is, or that is all it holds. */
function rowIn(slot: Slot): Slot | undefined {
  if (slot.item || slot.own) return undefined;
  if (slot.part?.rules.flow === 'row') return slot;
  const [only, ...more] = slot.inFlow;
  return only && more.length + slot.pins.length === 0 ? rowIn(only) : undefined;
}

/** What is left of a container whose words are gone, and that is no more than this share of it, was something else. */
const REST = { share: 0.2, texts: 3 };

function isRest(part: Part, left: readonly Item[]): boolean {
  const held = [...walk(part)].filter((p) => p.source.length > 0);
  return (
    left.every((i) => i.kind === 'shape' || i.kind === 'art') &&
    left.length <= held.length * REST.share &&
    held.filter((p) => p.kind === 'text').length >= REST.texts
  );
}

/**
 * What had the room of a marked thing beside it in the other reading (the entries of a list, of which one has a background) has
 * that which it shows here.
 */
function withRoomOfMarked(parts: readonly (Part | undefined)[], nodes: readonly Node[]): readonly Node[] {
  const at = nodes.findIndex((n, i) => isMarked(n) && parts[i]?.rules.padding !== undefined);
  const [marked, part] = [nodes[at], parts[at]];
  if (!marked || !part) return nodes;
  return nodes.map((node, i) => {
    const other = parts[i];
    const isLike = other && !other.paint && !node.item && node.children.length > 0 && hasRoomOf(other, part);
    if (!isLike) return node;
    return { ...node, box: withRoom(node.box, marked), isPadded: true };
  });
}

/** Nodes of which those that the other reading draws up over what they follow are so here, too. */
function drawnUpAlike(
  column: Part | undefined,
  parts: readonly (Part | undefined)[],
  nodes: readonly Node[],
): readonly Node[] {
  if (column?.rules.flow !== 'column') return nodes;
  return nodes.map((node, i) => {
    const before = nodes[i - 1];
    const gap = parts[i]?.rules.gapBefore ?? column.rules.gap;
    return before && typeof gap === 'number' && gap < 0 ? fromFoot(node, before.box) : node;
  });
}

/** Whether two containers keep their content as far from their sides, and both from above and below. */
const hasRoomOf = (a: Part, b: Part): boolean => {
  const [p, q] = [a.rules.padding, b.rules.padding];
  return (
    p !== undefined &&
    q !== undefined &&
    near(p.left, q.left, EDGE) &&
    near(p.right, q.right, EDGE) &&
    p.top * p.bottom * q.top * q.bottom > 0
  );
};

/** Whether the most of a box lies between the upper and lower edge of another, and it is no higher than that. */
const onLine = (box: Rect, row: Rect): boolean =>
  Math.min(bottom(box), bottom(row)) - Math.max(box.y, row.y) > box.height * 0.6 &&
  box.height < row.height * 1.5;

/**
 * Reads a drawing in the grouping of a structure that was read from another drawing of the same screen: the parts that
 * have items here, by the same ids, laid as they lie here. What this drawing alone has is read by itself and put where it lies. A container whose children lie in no flow here
 * is read afresh.
 */
export class Regrouper {
  readonly #drawn: readonly Item[];
  readonly #items: ReadonlyMap<string, Item>;
  readonly #order: ReadonlyMap<string, number>;
  readonly #tolerance: Tolerance;
  readonly #own: Set<string>;
  /** Ids of the parts whose content was read afresh. */
  readonly afresh = new Set<string>();

  /** The contents of the parts in `own` are read afresh in any case. */
  constructor(drawn: readonly Item[], tolerance: Tolerance, own: ReadonlySet<string> = new Set()) {
    this.#drawn = drawn;
    this.#items = new Map(drawn.map((item) => [item.id, item]));
    this.#order = new Map(drawn.map((item, i) => [item.id, i]));
    this.#tolerance = tolerance;
    this.#own = new Set(own);
  }

  /** The whole frame. */
  root(root: Part, frame: Rect): Node {
    const slot: Slot = { part: root, inFlow: [], pins: [] };
    for (const child of root.children) this.#fill(child, slot);
    const known = new Set([...itemsOf(slot)].map((i) => i.id));
    const { held: alone } = containmentOf(this.#drawn.filter((i) => !known.has(i.id)));
    for (const held of alone) {
      const [node] = new TreeBuilder(this.#tolerance).content([held], held.item.box, false).children;
      if (node) this.#put({ own: node, inFlow: [], pins: [] }, slot);
    }
    return { ...this.#node(slot, frame), order: -1, signature: '' };
  }

  #fill(part: Part, into: Slot): void {
    const item = this.#items.get(part.source[0] ?? '');
    const slot: Slot = { part, ...(item && { item }), inFlow: [], pins: [] };
    for (const child of part.children) this.#fill(child, slot);
    if (!item && slot.inFlow.length + slot.pins.length === 0) return;
    if (isRest(part, [...itemsOf(slot)])) return;
    // A box that is painted in the other drawing alone cannot hold things here as well.
    if (!item && part.paint && part.source.length > 0 && into.part) this.#own.add(into.part.id);
    (part.rules.pin ? into.pins : into.inFlow).push(slot);
  }

  /** Puts something into the smallest place that it lies in. */
  #put(extra: Slot, into: Slot): void {
    const box = boxOf(extra);
    const inside = [...into.inFlow, ...into.pins]
      .filter((s) => !s.own && s.part?.kind === 'container' && holds(boxOf(s), box))
      .sort(
        (a, b) => Number(Boolean(b.item)) - Number(Boolean(a.item)) || area(boxOf(a)) - area(boxOf(b)),
      )[0];
    // What stands on the line of an unpainted row belongs to it: a menu button in a top bar.
    const line = into.inFlow.flatMap((s) => rowIn(s) ?? []).find((s) => onLine(box, boxOf(s)));
    if (inside) this.#put(extra, inside);
    else (line ?? into).inFlow.push(extra);
  }

  /** An icon in its box, which keeps its distance from the ink. */
  #icon({ part, item, inFlow }: Slot): Node | undefined {
    const [ink, ...more] = inFlow;
    if (!part || item || !ink?.item || more.length > 0 || ink.part?.id !== inkOf(part.id)) return undefined;
    const { x, y, width, height } = ink.item.box;
    const { padding, width: across, height: upright, align, justify } = part.rules;
    const wide = across?.kind === 'fixed' ? across.px : width;
    const high = upright?.kind === 'fixed' ? upright.px : height;
    const left = align === 'centre' ? (wide - width) / 2 : (padding?.left ?? 0);
    const top = justify === 'centre' ? (high - height) / 2 : (padding?.top ?? 0);
    const box = { x: x - left, y: y - top, width: wide, height: high };
    return leafNode(ink.item, this.#order.get(ink.item.id) ?? 0, box);
  }

  #node(slot: Slot, frame?: Rect): Node {
    if (slot.own) return slot.own;
    const { part, item } = slot;
    const of = part ? { of: part.id } : {};
    if (item && slot.inFlow.length + slot.pins.length === 0)
      return { ...of, ...leafNode(item, this.#order.get(item.id) ?? 0) };
    const icon = this.#icon(slot);
    if (icon) return { ...of, ...icon };
    const parts = slot.inFlow.map((s) => s.part);
    const roomy = withRoomOfMarked(
      parts,
      slot.inFlow.map((s) => this.#node(s)),
    );
    const children = drawnUpAlike(part, parts, roomy);
    const pins = slot.pins.map((s) => this.#node(s));
    const laid =
      part && this.#own.has(part.id)
        ? undefined
        : (this.#withLines(slot, children) ??
          this.#lay(children, part?.rules.flow) ??
          this.#withoutBackdrops(slot, children));
    const box = frame ?? item?.box ?? union([...children, ...pins].map((n) => n.box));
    const common = {
      ...of,
      box,
      core: frame ?? (item ? item.box : union([...children, ...pins].map((n) => n.core))),
    };
    const order = Math.min(
      ...(item ? [this.#order.get(item.id) ?? 0] : []),
      ...[...children, ...pins].map((n) => n.order),
    );
    if (!laid) {
      if (part) this.afresh.add(part.id);
      const { held } = containmentOf([...itemsOf(slot)].filter((i) => i !== item).sort(this.#byOrder));
      const inner = new TreeBuilder(this.#tolerance).content(held, box, item !== undefined);
      return {
        ...common,
        ...(item && { item }),
        ...inner,
        flow: inner.flow ?? 'column',
        signature: '',
        order,
      };
    }
    return meetingRows({
      ...common,
      ...(item && { item }),
      flow: laid.flow,
      children: item && laid.flow === 'column' ? intoBands(laid.children, box) : laid.children,
      ...(laid.tracks && { tracks: laid.tracks }),
      pins: [...pins, ...(laid.pins ?? [])].sort((a, b) => a.order - b.order),
      signature: holderSignature(item, laid.flow, laid.children),
      order,
    });
  }

  readonly #byOrder = (a: Item, b: Item): number =>
    (this.#order.get(a.id) ?? 0) - (this.#order.get(b.id) ?? 0);

  /** The flow in which nodes lie, and their order in it; undefined where they lie in none. */
  #lay(nodes: readonly Node[], usual: Part['rules']['flow']): Laid | undefined {
    if (nodes.length < 2) return { flow: 'column', children: nodes };
    const single = (axis: Axis, of: readonly Node[]) => slabs(of, axis).every((s) => s.length === 1);
    const along = (axis: Axis, of: readonly Node[]) =>
      of.toSorted((a, b) => startOf(a.core, axis) - startOf(b.core, axis) || a.order - b.order);
    const axes: Axis[] = usual === 'row' || usual === 'wrap' ? ['row', 'column'] : ['column', 'row'];
    for (const axis of axes) if (single(axis, nodes)) return { flow: axis, children: along(axis, nodes) };
    const lines = slabs(nodes, 'column').map((line) => along('row', line));
    if (!lines.every((line) => single('row', line))) return this.#spanned(nodes);
    const [first] = lines;
    const by = this.#tolerance.same * 1.5;
    const middles = first?.map((n) => centreX(n.box)) ?? [];
    const centred = lines.every((line) =>
      line.every((n, i) => isRagged(n) && near(centreX(n.box), middles[i] ?? NaN, by)),
    );
    const aligned =
      centred ||
      lines.every((line) =>
        line.every(
          (n, i) =>
            near(n.box.x, first?.[i]?.box.x ?? NaN, by) &&
            (isRagged(n) || near(n.box.width, first?.[i]?.box.width ?? NaN, by)),
        ),
      );
    if (aligned) return { flow: 'grid', children: lines.flat() };
    return this.#spanned(nodes) ?? { flow: 'wrap', children: lines.flat() };
  }

  #spanned(nodes: readonly Node[]) {
    const [grid, more] = bento(nodes, this.#tolerance.same) ?? [];
    return grid?.tracks && !more
      ? { flow: 'grid' as const, children: grid.children, tracks: grid.tracks }
      : undefined;
  }

  /** What only this drawing has and stands on one line as one: a name and a menu button. */
  #withLines(slot: Slot, children: readonly Node[]): Laid | undefined {
    const alone = new Set(children.filter((_, i) => slot.inFlow[i]?.own));
    const lines = slabs(children, 'column');
    const isAlone = (line: readonly Node[]) => line.every((n) => alone.has(n));
    if (lines.every(isAlone) || !lines.some((line) => line.length > 1 && isAlone(line))) return undefined;
    const grouper = new Grouper(this.#tolerance);
    const joined = lines.flatMap((line) => (isAlone(line) ? [grouper.group(line)] : line));
    return this.#lay(joined, slot.part?.rules.flow);
  }

  /** What only this drawing has and lies over or under the others hangs on their holder. */
  #withoutBackdrops(slot: Slot, children: readonly Node[]): Laid | undefined {
    const alone = children.filter((_, i) => slot.inFlow[i]?.own);
    if (alone.length === 0 || alone.length === children.length) return undefined;
    const laid = this.#lay(
      children.filter((c) => !alone.includes(c)),
      slot.part?.rules.flow,
    );
    return laid && { ...laid, pins: alone };
  }
}
