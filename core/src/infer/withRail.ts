import { right, union } from '../model/index.js';
import { isHolder, type Node } from './node.js';
import { groupNode } from './stack.js';

/** What is at least so many times as high as all that is beside it stands for itself. */
const HIGHER = 2;

/**
 * A row that begins or ends with one painted box much higher than the rest (a rail beside figures in a row) has this and the
 * rest as its two children; other rows stay.
 */
export function withRail(row: Node): Node {
  if (row.item || row.flow !== 'row' || row.children.length < 3) return row;
  const [first, ...others] = row.children as [Node, ...Node[]];
  const last = others.at(-1) as Node;
  const rest = [others, row.children.slice(0, -1)];
  const at = [first, last].findIndex((rail, i) => isRail(rail, rest[i] ?? []));
  if (at < 0) return row;
  const content = groupNode('row', rest[at] ?? []);
  return { ...groupNode('row', at === 0 ? [first, content] : [content, last], row.pins), box: row.box };
}

function isRail(rail: Node, rest: readonly Node[]): boolean {
  const beside = union(rest.map((n) => n.box));
  const { box } = rail;
  const isBeside = right(box) <= beside.x || box.x >= right(beside);
  return isBeside && rail.item?.kind === 'shape' && isHolder(rail) && box.height >= HIGHER * beside.height;
}
