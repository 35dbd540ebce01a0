import type { Node } from './node.js';
import { groupNode } from './stack.js';

/** So many rows below each other are a list. */
const LIST = 3;

const isRow = (node: Node): boolean => !node.item && node.flow === 'row' && node.children.length > 1;

/** A row's leading things as one group, which holds no more than rows do. */
const hasEnds = (node: Node): boolean =>
  isRow(node) && node.children.some((c) => isRow(c) && c.pins.length === 0);

/** The row with the things of its ends side by side: what is between them fills. */
function flat(row: Node): Node {
  const children = row.children.flatMap((c) => (isRow(c) && c.pins.length === 0 ? c.children : [c]));
  const { box, core, pins, order } = row;
  return { ...groupNode('row', children, pins), box, core, order };
}

/**
 * In a bar what stands at its two ends makes two groups. The rows of a list have a leading, a filling and a trailing
 * part instead: their ends are no groups.
 */
export function listRows(stack: Node): Node {
  if (stack.flow !== 'column' || stack.children.filter(hasEnds).length < LIST) return stack;
  const children = stack.children.map((c) => (hasEnds(c) ? flat(c) : c));
  return { ...stack, children };
}
