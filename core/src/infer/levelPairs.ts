import { centreY, right } from '../model/index.js';
import { isText, near, type Node } from './node.js';

const downwards = (nodes: readonly Node[]): Node[] => nodes.toSorted((a, b) => a.core.y - b.core.y);

/**
 * Whether two columns are names and what is said of them, line by line: each pair is level, and what is said ends at one edge
 * and begins anywhere. Then each pair is a row, since a name that breaks takes more lines for both.
 */
export function areLevelPairs(columns: readonly (readonly Node[])[], by: number): boolean {
  const [names = [], said = []] = columns.map(downwards);
  if (columns.length !== 2 || names.length < 2 || names.length !== said.length) return false;
  if (![...names, ...said].every(isText)) return false;
  const [name, first] = [names[0] as Node, said[0] as Node];
  return (
    names.every((n, i) => near(centreY(n.core), centreY((said[i] as Node).core), by)) &&
    names.every((n) => near(n.core.x, name.core.x, by)) &&
    said.every((n) => near(right(n.core), right(first.core), by)) &&
    said.some((n) => !near(n.core.x, first.core.x, by))
  );
}
