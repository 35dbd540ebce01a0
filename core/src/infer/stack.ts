import { bottom, right, union, type Rect } from '../model/index.js';
import { isHolder, isLeaf, isRule, isText, near, type Node, type Tolerance } from './node.js';
import { holderSignature } from './signature.js';

export type Axis = 'row' | 'column';

export const startOf = (box: Rect, axis: Axis): number => (axis === 'row' ? box.x : box.y);
export const endOf = (box: Rect, axis: Axis): number => (axis === 'row' ? right(box) : bottom(box));
export const other = (axis: Axis): Axis => (axis === 'row' ? 'column' : 'row');

/** White space may be this much less than none: antialiased edges and tight lines touch. */
export const CLEAR = -1;
/** And where nothing else would part things this much less: off the grid what touches may reach over. */
export const TOUCHING = -2;
/** What begins this much later is not below, but beside, px. */
const BESIDE = 0.5;

/** Cuts nodes wherever white space runs clear across; one slab means that there is no such place. */
export function slabs(nodes: readonly Node[], axis: Axis, clear = CLEAR): Node[][] {
  const sorted = nodes.toSorted((a, b) => startOf(a.core, axis) - startOf(b.core, axis) || a.order - b.order);
  const found: Node[][] = [];
  let reach = -Infinity;
  for (const node of sorted) {
    const start = startOf(node.core, axis);
    // Hairlines beside each other end before they begin.
    const beside = start - startOf(found.at(-1)?.[0]?.core ?? node.core, axis) < BESIDE;
    if (found.length === 0 || (start - reach >= clear && !beside)) found.push([]);
    found.at(-1)?.push(node);
    reach = Math.max(reach, endOf(node.core, axis));
  }
  return found;
}

/** The spaces between consecutive nodes along an axis. */
export const gapsOf = (nodes: readonly Node[], axis: Axis): number[] =>
  nodes.slice(1).map((n, i) => startOf(n.box, axis) - endOf((nodes[i] as Node).box, axis));

/** The value that most numbers share within `by`, and how many do. */
export function commonest(numbers: readonly number[], by: number): { value: number; count: number } {
  const sorted = numbers.toSorted((a, b) => a - b);
  const counts = new Map<number, number>();
  let [from, to, most] = [0, 0, 0];
  for (const n of sorted) {
    while (!near(sorted[from] as number, n, by)) from++;
    while (to < sorted.length && near(sorted[to] as number, n, by)) to++;
    counts.set(n, to - from);
    most = Math.max(most, to - from);
  }
  // Of several that most share the one that comes first counts.
  const first = numbers.find((n) => counts.get(n) === most);
  if (first === undefined) return { value: 0, count: 0 };
  const alike = numbers.filter((m) => near(m, first, by));
  return { value: alike.reduce((s, m) => s + m, 0) / alike.length, count: most };
}

/** How far numbers lie apart. */
export function spread(numbers: readonly number[]): number {
  let [least, most] = [Infinity, -Infinity];
  for (const n of numbers) [least, most] = [Math.min(least, n), Math.max(most, n)];
  return most - least;
}

/** What lines of things share: where they begin, their middles, or where they end; undefined where none of them. */
export function sharedSide(lines: readonly Node[][], by: number): 'start' | 'centre' | 'end' | undefined {
  const starts = lines.map((line) => (line[0] as Node).box.x);
  const ends = lines.map((line) => right((line.at(-1) as Node).box));
  if (spread(starts) <= by) return 'start';
  if (spread(starts.map((start, i) => (start + (ends[i] as number)) / 2)) <= by) return 'centre';
  return spread(ends) <= by ? 'end' : undefined;
}

const baselineOf = (node: Node): number =>
  node.item?.kind === 'text' ? (node.item.lines[0]?.baseline ?? NaN) : NaN;

/** How many nodes stand out of line across the axis when the rest shares its start, middle, end or baseline. */
export function outOfLine(nodes: readonly Node[], axis: Axis, tolerance: Tolerance): number {
  const across = other(axis);
  const places = [
    nodes.map((n) => startOf(n.box, across)),
    nodes.map((n) => (startOf(n.box, across) + endOf(n.box, across)) / 2),
    nodes.map((n) => endOf(n.box, across)),
    ...(axis === 'row' && nodes.every(isText) ? [nodes.map(baselineOf)] : []),
  ];
  return nodes.length - Math.max(...places.map((p) => commonest(p, tolerance.same).count));
}

export function groupNode(
  flow: NonNullable<Node['flow']>,
  children: readonly Node[],
  pins: readonly Node[] = [],
): Node {
  return {
    box: union(children.map((c) => c.box)),
    core: union(children.map((c) => c.core)),
    flow,
    children,
    pins,
    signature: holderSignature(undefined, flow, children),
    order: Math.min(...children.map((c) => c.order), ...pins.map((c) => c.order)),
  };
}

/** The prices of what must be said to rebuild a drawing; see {@link stackCost}. */
const PRICE = {
  /** A container. */
  container: 1,
  /** The gap that a stack's children share. */
  gap: 1,
  /** A gap that differs from its stack's. */
  oddGap: 1.1,
  /** A gap that is so much wider than its stack's that the eye sees two groups. */
  apart: 1.3,
  /** A gap that is so much narrower than its stack's that the eye sees one group. */
  bound: 1.9,
  /** A child that is out of line. */
  outOfLine: 0.8,
  /** Another copy of something that has been described. */
  copy: 0.15,
  /** A group whose own spaces are wider than those around it: it would be seen as something else. */
  looseGroup: 1.5,
  /** Alike things of which some are grouped with others and some are not. */
  torn: 1,
  /** Something that stands level with its neighbour and is grouped with what is above it alone. */
  tornLevel: 2,
  /** Something beside a stack of lines that stands on one of them: it belongs to that line. */
  level: 0.6,
  /** A heading whose list is not one of its own, though it stands further off than its entries from each other. */
  list: 1,
  /** Things that stand apart here and are mixed in another drawing of the screen. */
  mixed: 12,
  /** What a repetition saves: it is said once. */
  repeated: 0.5,
} as const;

/** So many groups of one make-up are a repetition. */
const REPEATED = 3;

/** How many steps from start to start are alike: columns of one width whose words end where they will. */
function evenPitch(nodes: readonly Node[], axis: Axis, tolerance: Tolerance): number {
  if (axis !== 'row' || nodes.length < 3) return 0;
  const steps = nodes.slice(1).map((n, i) => n.box.x - (nodes[i] as Node).box.x);
  return commonest(steps, tolerance.same).count;
}

/** A gap beyond this many times the usual one, and some px, holds groups apart. */
const APART_RATIO = 2.2;
const APART_LEAST = 8;

export interface Priced {
  readonly node: Node;
  readonly cost: number;
}

/** Of gaps that hold sections apart, px, one up to this share of the usual binds what it is between. */
const SECTION_GAP = 40;
const BOUND_RATIO = 0.6;

const gapsBound = (gaps: readonly number[], usual: number): number =>
  usual < SECTION_GAP ? 0 : gaps.filter((g) => g <= usual * BOUND_RATIO).length;

/**
 * How many gaps hold groups apart. Two ends are groups when each has several things; between three and more, a single
 * one may stand for itself.
 */
function gapsApart(gaps: readonly number[], usual: number): number {
  const runs = [1];
  for (const gap of gaps) {
    if (gap > usual * APART_RATIO + APART_LEAST) runs.push(1);
    else runs[runs.length - 1] = (runs.at(-1) ?? 0) + 1;
  }
  return runs.length > 2 || runs.every((n) => n > 1) ? runs.length - 1 : 0;
}

const isGroup = (node: Node): boolean => !node.item && node.children.length > 1;

/** Whether it is a painted box that holds something, or a picture. */
const isShown = (n: Node): boolean => n.item !== undefined && (isHolder(n) || n.item.kind === 'picture');

/** Whether of painted boxes or pictures that are made alike some stand for themselves and others in a group. */
function tearsAlike(nodes: readonly Node[]): boolean {
  const alone = new Set(nodes.filter(isShown).map((n) => n.signature));
  return nodes.some((n) => isGroup(n) && n.children.some((c) => isShown(c) && alone.has(c.signature)));
}

/**
 * Whether one of several painted boxes or pictures that begin and end level is grouped with what stands above it, and another is not:
 * what stands above is then above all of them.
 */
function tearsLevel(nodes: readonly Node[], tolerance: Tolerance): boolean {
  const alone = nodes.filter(isShown);
  return nodes.some((n) => {
    const last = isGroup(n) && n.flow === 'column' ? n.children.at(-1) : undefined;
    return (
      last !== undefined &&
      isShown(last) &&
      alone.some(
        ({ box }) =>
          near(box.y, last.box.y, tolerance.same) && near(bottom(box), bottom(last.box), tolerance.same),
      )
    );
  });
}

/** What is no higher than this beside lines is a detail of one of them: an icon, a mark, a value; px. */
const DETAIL = 40;

/** Whether a row is one of painted boxes that are made alike: they are seen as one, however far apart. */
function isCards(row: Node): boolean {
  const [first] = row.children;
  return (
    row.flow === 'row' &&
    row.children.length >= REPEATED &&
    row.children.every((c) => c.item !== undefined && isHolder(c) && c.signature === first?.signature)
  );
}

/** Whether a row is something with an icon or another mark at its far end. */
function endsInMark(row: Node): boolean {
  const [, mark, ...more] = row.children;
  return (
    row.flow === 'row' &&
    mark !== undefined &&
    more.length === 0 &&
    isLeaf(mark) &&
    !isText(mark) &&
    Math.max(mark.box.width, mark.box.height) <= DETAIL
  );
}

/** Whether the last of two things is a detail on the line of one of the several that the first is made of. */
function standsOnLine(nodes: readonly Node[]): boolean {
  const [lines, detail, ...more] = nodes;
  if (!lines || !detail || more.length > 0 || !isGroup(lines) || lines.flow !== 'column') return false;
  if (isGroup(detail) || detail.box.height > DETAIL) return false;
  const middle = (detail.core.y + bottom(detail.core)) / 2;
  const on = lines.children.filter((c) => middle >= c.core.y && middle <= bottom(c.core));
  const whole = (lines.core.y + bottom(lines.core)) / 2;
  return on.length === 1 && on.every((c) => c.box.height <= DETAIL) && !near(middle, whole, 2);
}

/** Whether the first of a column is a heading that stands off a list of lines. */
function headsList(nodes: readonly Node[], gaps: readonly number[], tolerance: Tolerance): boolean {
  const [head, first, ...more] = nodes;
  const [off = 0, ...between] = gaps;
  return (
    head !== undefined &&
    first !== undefined &&
    isText(head) &&
    isText(first) &&
    more.length + 1 >= REPEATED &&
    head.signature !== first.signature &&
    more.every((n) => n.signature === first.signature) &&
    off > Math.max(...between) + tolerance.same
  );
}

/**
 * The price of a stack: what must be said to place its children. Alike children are paid for once.
 */
export function stackCost(children: readonly Priced[], axis: Axis, tolerance: Tolerance): number {
  const nodes = children.map((c) => c.node);
  const gaps = gapsOf(nodes, axis);
  const usual = commonest(gaps, tolerance.same);
  const even = evenPitch(nodes, axis, tolerance);
  const odd = gaps.length - Math.max(usual.count, even);
  const apart = even === gaps.length ? 0 : gapsApart(gaps, usual.value);
  const seen = new Set<string>();
  let inner = 0;
  for (const { node, cost } of children) {
    const copy = seen.has(node.signature) && !tolerance.without?.has('patterns');
    inner += copy ? Math.min(cost, PRICE.copy) : cost;
    seen.add(node.signature);
  }
  const smallest = Math.min(...gaps);
  const loose = new Set(
    nodes
      .filter((n) => !n.item && n.flow && n.flow !== 'free' && n.children.length > 1)
      .filter((n) => {
        const inside = gapsOf(n.children, n.flow === 'row' ? 'row' : 'column');
        return (
          Math.min(...inside) > smallest + tolerance.same &&
          !n.children.some(isRule) &&
          !endsInMark(n) &&
          !isCards(n)
        );
      })
      .map((n) => n.signature),
  );
  return (
    PRICE.container +
    PRICE.gap +
    odd * PRICE.oddGap +
    apart * PRICE.apart +
    (axis === 'column' ? gapsBound(gaps, usual.value) * (PRICE.bound - PRICE.oddGap) : 0) +
    outOfLine(nodes, axis, tolerance) * PRICE.outOfLine +
    loose.size * PRICE.looseGroup +
    (axis === 'column' && headsList(nodes, gaps, tolerance) ? PRICE.list : 0) +
    (tearsAlike(nodes) ? PRICE.torn : 0) +
    (axis === 'row' && tearsLevel(nodes, tolerance) ? PRICE.tornLevel : 0) +
    (tolerance.elsewhere?.some((drawing) => drawing.areMixed(nodes)) ? PRICE.mixed : 0) +
    (axis === 'row' && standsOnLine(nodes) ? PRICE.level : 0) +
    inner
  );
}

/**
 * Nests a stack by its gaps: things that stand closer than the rest belong together, when saying so is cheaper than
 * naming each odd gap. `regroup` finds the best make-up of a run of children, given by their indices.
 */
export function nestByGaps(
  children: readonly Priced[],
  axis: Axis,
  tolerance: Tolerance,
  regroup: (from: number, to: number) => Priced,
): Priced {
  const nodes = children.map((c) => c.node);
  let best: Priced = { node: groupNode(axis, nodes), cost: stackCost(children, axis, tolerance) };
  if (children.length < 3 || tolerance.without?.has('shortest description')) return best;
  const gaps = gapsOf(nodes, axis);
  const levels = [...new Set(gaps.map((g) => Math.round(g)))].sort((a, b) => a - b);
  for (const level of levels.slice(1)) {
    const starts = [0];
    gaps.forEach((gap, i) => {
      if (gap > level - (tolerance.same + 1) / 2) starts.push(i + 1);
    });
    if (starts.length < 2 || starts.length === children.length) continue;
    const grouped = starts.map((from, k) => {
      const to = starts[k + 1] ?? children.length;
      return to - from === 1 ? (children[from] as Priced) : regroup(from, to);
    });
    const [first] = grouped;
    const alike = grouped.every((g) => g.node.signature === first?.node.signature);
    const repeated = alike && grouped.length >= REPEATED && !first?.node.item;
    const cost = stackCost(grouped, axis, tolerance) - (repeated ? PRICE.repeated : 0);
    if (cost < best.cost - 1e-9)
      best = {
        node: groupNode(
          axis,
          grouped.map((g) => g.node),
        ),
        cost,
      };
  }
  return best;
}
