import type { Held } from '../drawing/index.js';
import { area, bottom, BoxIndex, covers, overlap, right, union, type Rect } from '../model/index.js';
import { intoBands } from './bands.js';
import { bento } from './bento.js';
import { OPEN_MARGIN, standsIn, WIDE_MARGIN, type Column } from './contentColumn.js';
import { tabPlaces } from './evenTabs.js';
import { Grouper } from './group.js';
import { isHolder, isRule, isText, near, type Node, type Tolerance } from './node.js';
import { holderSignature, leafNode } from './signature.js';
import { commonest, gapsOf, groupNode } from './stack.js';
import { joinLines } from './joinedLines.js';
import { drawnUp } from './straddling.js';
import { ICON_INK, isRagged } from './widths.js';

/** An extra in a corner is no further from it than this, px, and no larger than this share of the box. */
const CORNER = 24;
const CORNER_SHARE = 0.08;

function inCorner(inner: Rect, outer: Rect): boolean {
  const across = Math.min(inner.x - outer.x, right(outer) - right(inner));
  const upright = Math.min(inner.y - outer.y, bottom(outer) - bottom(inner));
  return across <= CORNER && upright <= CORNER && area(inner) <= area(outer) * CORNER_SHARE;
}

function paintedAlike(a: Node, b: Node): boolean {
  if (!a.item || !b.item || a.item.kind !== b.item.kind || !isHolder(a) || !isHolder(b)) return false;
  return (
    near(a.box.width, b.box.width, 2) &&
    near(a.box.height, b.box.height, 2) &&
    JSON.stringify(a.item.paint) === JSON.stringify(b.item.paint)
  );
}

/** The share of a picture that content covers where the picture is only its backdrop. */
const BACKDROP = 0.35;

interface Content {
  readonly flow: Node['flow'];
  readonly children: readonly Node[];
  readonly pins: readonly Node[];
}

/** Builds the tree of nodes for what a box (or the frame) holds. */
export class TreeBuilder {
  readonly #tolerance: Tolerance;
  readonly #grouper: Grouper;
  readonly #icons: ReadonlyMap<string, Rect>;
  readonly #column: Column | undefined;

  /** `icons` are the boxes that icons were drawn in, by item; `column` is what the screen's content stands in. */
  constructor(tolerance: Tolerance, icons: ReadonlyMap<string, Rect> = new Map(), column?: Column) {
    this.#tolerance = tolerance;
    this.#icons = icons;
    this.#column = column;
    this.#grouper = new Grouper(tolerance);
  }

  /** The content of a holder as one node that spans `box`; pins lie over its flow. */
  content(held: readonly Held[], box: Rect, holder: boolean): Content {
    const nodes = this.#likeTheirSiblings(
      held,
      held.map((h) => this.#node(h)),
    );
    const edges = holder && nodes.length > 1 ? nodes.filter((n) => isRule(n) && liesOnEdge(n.box, box)) : [];
    const inside = edges.length < nodes.length ? nodes.filter((n) => !edges.includes(n)) : nodes;
    const { flowing, pins: over } = this.#separate(inside, box, !holder);
    const pins = inside === nodes ? over : [...edges, ...over];
    if (flowing.length === 0) return { flow: 'column', children: [], pins };
    const joined = joinLines(flowing);
    const group = this.#grouper.group(bento(joined, this.#tolerance.same) ?? joined);
    // A holder takes the place of the group that is all it holds.
    if (!group.item && group.flow && joined.length > 1 && !group.tracks) {
      const parts = holder && group.flow === 'column' ? intoBands(group.children, box) : group.children;
      const children = group.flow === 'column' ? gatherInset(parts, box) : group.children;
      const limited = this.#tolerance.without?.has('limits')
        ? children
        : this.#limited(group.flow, children, box, holder);
      const only = limited.length === 1 && children.length > 1;
      return { flow: only ? 'column' : group.flow, children: limited, pins: [...pins, ...group.pins] };
    }
    return { flow: 'column', children: [group], pins };
  }

  /** {@link gatherLimited}, but for tabs: they fill their box. */
  #limited(
    flow: NonNullable<Node['flow']>,
    children: readonly Node[],
    box: Rect,
    holder: boolean,
  ): readonly Node[] {
    const fills = flow === 'row' && tabPlaces([children], box, this.#tolerance) !== undefined;
    return fills ? children : gatherLimited(flow, children, box, wideMargin(box, !holder), this.#column);
  }

  #node(held: Held): Node {
    const { item, order } = held;
    if (held.children.length === 0) return leafNode(item, order, this.#icons.get(item.id));
    const inner = this.#overPicture(held, this.content(held.children, item.box, true));
    const signature = holderSignature(item, inner.flow, inner.children);
    return {
      box: item.box,
      core: item.box,
      item,
      ...(inner.flow && { flow: inner.flow }),
      children: inner.children,
      pins: inner.pins,
      signature,
      order,
    };
  }

  /**
   * Among boxes that are painted alike, one that has something more in a corner (a badge, a mark) is read like the
   * others, and the extra hangs on that corner.
   */
  #likeTheirSiblings(held: readonly Held[], nodes: readonly Node[]): Node[] {
    const unlike = new Set(nodes.map((n) => n.signature)).size > 1;
    if (!unlike || nodes.length > MANY || this.#tolerance.without?.has('similarity')) return [...nodes];
    return nodes.map((node, i) => {
      const own = held[i];
      const siblings = nodes.filter((n) => n !== node && paintedAlike(n, node));
      const usual = siblings.find(
        (s) => siblings.filter((n) => n.signature === s.signature).length * 2 > siblings.length,
      );
      if (!own || !usual || usual.signature === node.signature) return node;
      for (const extra of own.children.filter((c) => inCorner(c.item.box, node.box))) {
        const rest = this.#node({ ...own, children: own.children.filter((c) => c !== extra) });
        if (rest.signature === usual.signature) return { ...rest, pins: [...rest.pins, this.#node(extra)] };
      }
      return node;
    });
  }

  /** What lies on a picture hangs on its edges, as captions do; over a backdrop it stays the content. */
  #overPicture(held: Held, inner: Content): Content {
    const { item } = held;
    const { children } = inner;
    if (item.kind !== 'picture' || children.length === 0) return inner;
    const covered = area(union(children.map((c) => c.box)));
    if (covered > area(item.box) * BACKDROP) return inner;
    const [only] = children;
    const whole = only && children.length === 1 ? only : groupNode(inner.flow ?? 'column', children);
    return { flow: 'column', children: [], pins: [...inner.pins, whole] };
  }

  /**
   * Takes what lies over other things out of the flow. Equal things that overlap evenly are a pile, which stays; a
   * thing over one other hangs on that one; a thing over several hangs on the holder.
   */
  #separate(nodes: readonly Node[], box: Rect, isFrame: boolean): { flowing: Node[]; pins: Node[] } {
    if (nodes.length > MANY) return separateMany(nodes);
    const group = (line: readonly Node[]): Node => this.#grouper.group(line);
    const covering = new Covering(drawnUp(this.#piles(nodes), box, this.#tolerance.same, group));
    const pins: Node[] = [];
    for (let hit = covering.most(); hit; hit = covering.most()) {
      const { node, over } = hit;
      covering.remove(node);
      const [base] = over;
      const hangs =
        base &&
        over.length === 1 &&
        area(node.box) < area(base.box) &&
        area(base.box) < area(box) * 0.6 &&
        !(isFrame && floats(node.box, base.box, box));
      if (hangs) covering.replace(base, withPin(base, node));
      else pins.push(node);
    }
    const flowing = covering.nodes;
    return { flowing, pins: pins.sort((a, b) => a.order - b.order) };
  }

  /** Joins runs of equal, evenly overlapping things (faces in a row) to rows with a negative gap. */
  #piles(nodes: readonly Node[]): Node[] {
    const rest = new Set(nodes);
    const piles: Node[] = [];
    const sorted = nodes.toSorted((a, b) => a.box.x - b.box.x);
    for (const first of sorted) {
      if (!rest.has(first)) continue;
      const pile = [first];
      for (const next of sorted) {
        const last = pile.at(-1) as Node;
        if (next.box.x <= last.box.x || !rest.has(next)) continue;
        const equal = near(next.box.width, last.box.width, 2) && near(next.box.height, last.box.height, 2);
        if (equal && near(next.box.y, last.box.y, this.#tolerance.same) && covers(next.box, last.box))
          pile.push(next);
      }
      if (pile.length < 3) continue;
      const gaps = gapsOf(pile, 'row');
      if (commonest(gaps, this.#tolerance.same).count < gaps.length) continue;
      pile.forEach((n) => rest.delete(n));
      piles.push(groupNode('row', pile));
    }
    return [...rest, ...piles];
  }
}

/** What is no further than this from a corner of the frame, over something that reaches across, floats there, px. */
const FLOATS = 40;
const ACROSS = 0.75;

function floats(node: Rect, base: Rect, frame: Rect): boolean {
  const aside = Math.min(node.x - frame.x, right(frame) - right(node));
  const below = bottom(frame) - bottom(node);
  return aside <= FLOATS && below <= FLOATS && base.width > frame.width * ACROSS;
}

/** An inset of at least this much at both sides tells a padded body from what reaches the edges, px. */
const BODY_INSET = 6;

/**
 * Where some children of a box reach both its edges and others keep away from them, a run of the latter is a body
 * with padding of its own: the words under a card's picture.
 */
function gatherInset(children: readonly Node[], box: Rect): readonly Node[] {
  const left = Math.min(...children.map((c) => c.box.x));
  const end = Math.max(...children.map((c) => right(c.box)));
  const flush = (c: Node) => c.box.x - left < BODY_INSET && end - right(c.box) < BODY_INSET && !isText(c);
  const inside = (c: Node) => c.box.x - left >= BODY_INSET && end - right(c.box) >= BODY_INSET / 2;
  if (!children.some(flush) || !children.some(inside) || end - left < box.width * 0.9) return children;
  const runs: Node[][] = [];
  for (const child of children) {
    const last = runs.at(-1);
    if (last?.[0] && inside(child) && inside(last[0])) last.push(child);
    else runs.push([child]);
  }
  if (runs.length === 1) return children;
  return runs.map((run) => {
    const [only] = run;
    if (!only || !inside(only) || (run.length === 1 && !isText(only) && isHolder(only) && !only.item))
      return only ?? (run[0] as Node);
    const bodyBox = { ...union(run.map((c) => c.box)), x: left, width: end - left };
    const body = groupNode('column', gatherLimited('column', run, bodyBox));
    return {
      ...body,
      box: { ...body.box, x: left, width: end - left },
      signature: holderSignature(undefined, 'column', run),
    };
  });
}

/** A sheet on the screen has paddings up to this, px; only wider ones limit what it holds. */
const SHEET = { width: 1000, margin: 72 };
/** A screen of a tablet's width has a column of its own between margins of this much already, px. */
const TABLET = { from: 600, to: 960, margin: 39 };

/** The margin beyond which a box limits its content. */
export function wideMargin(box: Rect, isFrame: boolean): number {
  if (isFrame) return box.width >= TABLET.from && box.width <= TABLET.to ? TABLET.margin : WIDE_MARGIN;
  return box.x > 1 && box.width < SHEET.width ? SHEET.margin : WIDE_MARGIN;
}

/** Boxes narrower than this have margins in proportion, px. */
export const WIDE_BOX = 480;

/**
 * The children of a box with wide even margins as one group that is limited in width, unless they stand each in the
 * middle. Words that end early leave the right margin open; it is taken to be as wide as the left.
 */
function gatherLimited(
  flow: NonNullable<Node['flow']>,
  children: readonly Node[],
  box: Rect,
  wide = WIDE_MARGIN,
  column?: Column,
): readonly Node[] {
  let left = Math.min(...children.map((c) => c.box.x));
  let end = Math.max(...children.map((c) => right(c.box)));
  const [before, after] = [left - box.x, right(box) - end];
  // An icon's strokes begin inside its box.
  if (before > after && before - after <= ICON_INK && beginsWithIcon(children)) left = box.x + after;
  const open =
    children.filter((c) => right(c.box) > end - 2).every(isRagged) && right(box) - end > left - box.x;
  if (open) end = right(box) - (left - box.x);
  else if (column && standsIn(column, left, end)) end = column.to;
  const margins = [left - box.x, right(box) - end] as const;
  const least = open ? Math.max(wide, OPEN_MARGIN) : wide;
  if (box.width <= WIDE_BOX || Math.min(...margins) <= least || !near(...margins, 2)) return children;
  const middle = (c: Node) => near(c.box.x - left, end - right(c.box), 2);
  if (flow === 'column' && (children.length < 2 ? !open : children.every(middle))) return children;
  const group = groupNode(flow, children);
  return [{ ...group, box: { ...group.box, x: left, width: end - left } }];
}

const beginsWithIcon = (nodes: readonly Node[]): boolean => {
  const first = nodes.reduce<Node | undefined>((a, b) => (a && a.box.x <= b.box.x ? a : b), undefined);
  if (!first) return false;
  return first.children.length > 0
    ? !isPainted(first) && beginsWithIcon(first.children)
    : first.item?.kind === 'art';
};

const isPainted = (node: Node): boolean => node.item !== undefined;

/** Whether a rule runs along a whole edge of a box: the edge's line, not a separator of the content. */
function liesOnEdge(rule: Rect, box: Rect): boolean {
  const level = rule.width >= rule.height;
  const spans = level ? rule.width >= box.width - 3 : rule.height >= box.height - 3;
  const [near, far] = level
    ? [rule.y - box.y, bottom(box) - bottom(rule)]
    : [rule.x - box.x, right(box) - right(rule)];
  return spans && Math.min(near, far) < 1.6;
}

/** A leaf with something pinned to it becomes a group around it; a holder takes the pin itself. */
function withPin(base: Node, pin: Node): Node {
  if (base.item?.kind === 'shape' || (!base.item && base.flow)) return { ...base, pins: [...base.pins, pin] };
  return groupNode('column', [base], [pin]);
}

/** Which of some nodes lie over which; kept while they leave the flow one by one. */
class Covering {
  /** Each node with those that it lies over. */
  readonly #over = new Map<Node, Node[]>();

  constructor(nodes: readonly Node[]) {
    for (const node of nodes)
      this.#over.set(
        node,
        nodes.filter((n) => liesOver(node, n)),
      );
  }

  get nodes(): Node[] {
    return [...this.#over.keys()];
  }

  /** The node that is to leave the flow first: the one over the most others, of several the smallest. */
  most(): { node: Node; over: readonly Node[] } | undefined {
    let best: { node: Node; over: readonly Node[] } | undefined;
    for (const [node, over] of this.#over) {
      if (over.length === 0) continue;
      if (
        !best ||
        over.length > best.over.length ||
        (over.length === best.over.length && area(node.box) < area(best.node.box))
      )
        best = { node, over };
    }
    return best;
  }

  remove(gone: Node): void {
    this.#over.delete(gone);
    for (const [node, over] of this.#over)
      if (over.includes(gone))
        this.#over.set(
          node,
          over.filter((n) => n !== gone),
        );
  }

  /** Puts another node in the place of one. */
  replace(before: Node, after: Node): void {
    const entries = [...this.#over].map(([node, over]): [Node, Node[]] =>
      node === before
        ? [after, []]
        : [node, [...over.filter((n) => n !== before), ...(liesOver(node, after) ? [after] : [])]],
    );
    this.#over.clear();
    for (const [node, over] of entries)
      this.#over.set(node, node === after ? this.#coveredBy(after, entries) : over);
  }

  #coveredBy(node: Node, entries: readonly (readonly [Node, unknown])[]): Node[] {
    return entries.map(([n]) => n).filter((n) => liesOver(node, n));
  }
}

const liesOver = (node: Node, other: Node): boolean =>
  node !== other && covers(other.core, node.core, 1.5) && leaves(node, other);

/** Beyond this many things in one box the order in which they leave the flow is not searched. */
const MANY = 400;

/** Keeps what covers nothing painted before it; the rest hangs on the holder. */
function separateMany(nodes: readonly Node[]): { flowing: Node[]; pins: Node[] } {
  const sorted = nodes.toSorted((a, b) => a.order - b.order);
  const index = new BoxIndex(sorted.map((n) => n.core));
  const stays = new Set<number>();
  const flowing: Node[] = [];
  const pins: Node[] = [];
  for (const [i, node] of sorted.entries()) {
    const over = index
      .meeting(node.core)
      .some((at) => stays.has(at) && covers((sorted[at] as Node).core, node.core, 1.5));
    if (!over) stays.add(i);
    (over ? pins : flowing).push(node);
  }
  return { flowing, pins };
}

/** Whether of two things that cover each other `a` is the one that lies over (or, as a backdrop, under) the flow. */
function leaves(a: Node, b: Node): boolean {
  const [own, others] = [area(a.box), area(b.box)];
  if (a.order > b.order) return own < others * LARGER || own > others * SCRIM || hides(a.core, b.core);
  return !leaves(b, a);
}

/** Whether so much of a thing is under a later one that it cannot be read: a page under a dialog, rows under a sheet. */
const hides = (later: Rect, earlier: Rect): boolean => {
  const [across, upright] = overlap(later, earlier);
  return across > 0 && upright > 0 && across * upright > area(earlier) * HIDDEN;
};
const HIDDEN = 0.25;

/** A later thing up to this many times as large as what it covers still lies over it. */
const LARGER = 1.5;
/** A later thing this many times as large as what it covers is a scrim over the whole. */
const SCRIM = 20;
