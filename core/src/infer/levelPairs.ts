import { centreY } from '../model/index.js';
import { isText, near, type Node } from './node.js';
import { sharedSide } from './stack.js';

const downwards = (nodes: readonly Node[]): Node[] => nodes.toSorted((a, b) => a.core.y - b.core.y);
const sideOf = (nodes: readonly Node[], by: number) =>
  sharedSide(
    nodes.map((n) => [n]),
    by,
  );

/**
 * Whether two columns are names and what is said of them, line by line: each pair is level, and what is said ends at one edge
 * and begins anywhere. Then each pair is a row, since a name that breaks takes more lines for both.
 */
export function areLevelPairs(columns: readonly (readonly Node[])[], by: number): boolean {
  const [left = [], end = []] = columns;
  if (columns.length !== 2 || left.length < 2 || left.length !== end.length) return false;
  if (![...left, ...end].every(isText)) return false;
  if (sideOf(left, by) !== 'start' || sideOf(end, by) !== 'end') return false;
  const said = downwards(end);
  return downwards(left).every((n, i) => near(centreY(n.core), centreY((said[i] as Node).core), by));
}
