import { bottom, right, union } from '../model/index.js';
import { isSeparator } from './joinedLines.js';
import type { Node } from './node.js';
import { groupNode } from './stack.js';
import { isRagged } from './widths.js';

/** A line along a row's edge covers at least this share of the row. */
const COVERS = 0.6;
/** A line that reaches further beyond a row at both sides than this belongs to a band around the row, px. */
const BEYOND = 24;
/** A line is nearer to one of two rows when the other is further off by this share of its distance, and by some px. */
const NEARER = { share: 0.25, least: 3 };
/** A row's padding up to its line is no more than this where something else begins right beyond the line, px. */
const PADDING = 64;
const TOUCHES = 1.5;
/** A column's edge may be this much shorter than it, px. */
const EDGE_SHORT = 1.1;

type Side = 'above' | 'below';

/** Whether a line may be the edge of a node: an unpainted row that it runs along. */
function mayEdge(line: Node, node: Node | undefined): node is Node {
  if (!node || node.item || (node.flow !== 'row' && node.flow !== 'grid') || node.children.length < 2)
    return false;
  const common = Math.min(right(line.box), right(node.box)) - Math.max(line.box.x, node.box.x);
  return common >= node.box.width * COVERS;
}

/** A row with a line at its edge: out of the row's flow, as a border is. */
function edged(row: Node, lines: readonly Node[]): Node {
  const box = union([row.box, ...lines.map((l) => l.box)]);
  const [before, after] = [row.box.x - box.x, right(box) - right(row.box)];
  // Words that end early leave the margin after them open; it is taken to be as wide as the one before.
  const width = after > before && isRagged(row) ? box.width - 2 * before : row.box.width;
  const node: Node =
    Math.min(before, after) > BEYOND
      ? groupNode('column', [{ ...row, box: { ...row.box, width } }], lines)
      : { ...row, pins: [...row.pins, ...lines], order: Math.min(row.order, ...lines.map((l) => l.order)) };
  return { ...node, box, core: union([row.core, ...lines.map((l) => l.core)]) };
}

/** A column that begins or ends with a line as wide as it, the line its edge: out of the flow, as a border is. */
export function withOwnEdges(column: Node): Node {
  const { flow, children, pins, box } = column;
  if (flow !== 'column' || column.item || children.length < 3) return column;
  const spans = (n: Node | undefined) =>
    n !== undefined && isSeparator(n) && n.box.width >= box.width - EDGE_SHORT;
  const inside = children.filter((c, i) => !spans(c) || (i > 0 && i < children.length - 1));
  if (inside.length === children.length || inside.length < 2 || inside.some(isSeparator)) return column;
  const lines = children.filter((c) => !inside.includes(c));
  const group = groupNode('column', inside, [...pins, ...lines]);
  return { ...group, box, core: column.core };
}

/** Whether a line lies along the upper or lower edge of a node, as its own. */
export const hasEdge = (node: Node | undefined, side: Side): node is Node =>
  node?.pins.some(
    (p) =>
      isSeparator(p) &&
      Math.abs(side === 'above' ? p.box.y - node.box.y : bottom(p.box) - bottom(node.box)) < 1,
  ) ?? false;

/**
 * A list whose rows reach up to each other's lines: what they keep from these is their padding, and no gap is left
 * between them.
 */
export function meetingRows(stack: Node): Node {
  const { flow, children } = stack;
  if (flow !== 'column' || children.filter((c) => hasEdge(c, 'above') || hasEdge(c, 'below')).length < 2)
    return stack;
  const isRow = (n: Node) => !n.item && n.children.length > 1;
  const met = children.map((node, i): Node => {
    if (!isRow(node)) return node;
    const [before, after] = [children[i - 1], children[i + 1]];
    const top = hasEdge(before, 'below') && !hasEdge(node, 'above') ? bottom(before.box) : node.box.y;
    const foot = hasEdge(after, 'above') && !hasEdge(node, 'below') ? after.box.y : bottom(node.box);
    const y = Math.min(top, node.box.y);
    return { ...node, box: { ...node.box, y, height: Math.max(foot, bottom(node.box)) - y } };
  });
  return { ...stack, children: met };
}

/** The sides on which a line between two nodes may be an edge. */
function sidesOf(line: Node, above: Node | undefined, below: Node | undefined): Side[] {
  const toAbove = above ? line.box.y - bottom(above.box) : Infinity;
  const toBelow = below ? below.box.y - bottom(line.box) : Infinity;
  const isNearer = (a: number, b: number) => a + Math.max(NEARER.least, b * NEARER.share) < b;
  const owns = (own: number, beyond: number, other: Node | undefined) =>
    other && beyond <= TOUCHES && !mayEdge(line, other) ? own <= PADDING : !isNearer(beyond, own);
  const sides: Side[] = [];
  if (mayEdge(line, above) && owns(toAbove, toBelow, below)) sides.push('above');
  if (mayEdge(line, below) && owns(toBelow, toAbove, above)) sides.push('below');
  return sides;
}

/**
 * Gives the separators of a stack to the rows that they are the edges of: to the nearer one, and where both are as
 * near to the one above it, unless the others of the stack can only belong to the one below.
 */
export function giveSeparators(nodes: readonly Node[]): Node[] {
  return withSeparators(nodes).map((p) => p.node);
}

/** A node with the separators that it got, by where these stood in the stack. */
export interface Edged {
  readonly node: Node;
  /** Where the node stood. */
  readonly at: number;
  readonly lines: readonly number[];
}

/** As {@link giveSeparators}, and which were given to what. */
export function withSeparators(nodes: readonly Node[]): Edged[] {
  const sides = nodes.map((n, i) => (isSeparator(n) ? sidesOf(n, nodes[i - 1], nodes[i + 1]) : []));
  const alone = new Set(sides.filter((s) => s.length === 1).map((s) => s[0]));
  const preferred: Side = alone.has('below') && !alone.has('above') ? 'below' : 'above';
  const lines = new Map<number, number[]>();
  for (const [i, own] of sides.entries()) {
    const side = own.includes(preferred) ? preferred : own[0];
    if (!side) continue;
    const to = side === 'above' ? i - 1 : i + 1;
    lines.set(to, [...(lines.get(to) ?? []), i]);
  }
  return nodes.flatMap((node, at) => {
    if ((sides[at] as Side[]).length > 0) return [];
    const own = lines.get(at) ?? [];
    const given =
      own.length > 0
        ? edged(
            node,
            own.map((i) => nodes[i] as Node),
          )
        : node;
    return [{ node: given, at, lines: own }];
  });
}
