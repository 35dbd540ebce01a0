import { centreY, covers, right } from '../model/index.js';
import { isRule, near, type Node } from './node.js';
import { gapsOf, groupNode } from './stack.js';

/** Whether it is one thin line across. */
const isLine = (node: Node): boolean => isRule(node) && node.box.width > node.box.height * 8;

/** Lines that go on as close as this are seen as one, px: each cell of a table may have drawn its own piece. */
const GOES_ON = 1.5;

/** Whether a group is a line that is drawn in pieces. */
const isJoined = (node: Node): boolean =>
  node.flow === 'row' &&
  !node.item &&
  node.children.length > 1 &&
  node.children.every(isLine) &&
  gapsOf(node.children, 'row').every((gap) => near(gap, 0, GOES_ON));

/** A thin line across, in one piece or several. */
export const isSeparator = (node: Node): boolean => isLine(node) || isJoined(node);

const isPaintedAlike = (a: Node, b: Node): boolean =>
  JSON.stringify(a.item?.paint) === JSON.stringify(b.item?.paint);

/**
 * Puts lines together that are level, painted alike and go on where another ends; all else stays as it is, and so do the
 * pieces of a line that reaches into what stands beside it: they are the edges of that.
 */
export function joinLines(nodes: readonly Node[]): Node[] {
  const lines = nodes.filter(isLine).sort((a, b) => centreY(a.box) - centreY(b.box));
  if (lines.length < 2) return [...nodes];
  const levels: Node[][] = [];
  for (const line of lines) {
    const level = levels.at(-1);
    const before = level?.at(-1);
    if (level && before && near(centreY(before.box), centreY(line.box), GOES_ON)) level.push(line);
    else levels.push([line]);
  }
  const runs: Node[][] = [];
  for (const level of levels)
    level
      .sort((a, b) => a.box.x - b.box.x)
      .forEach((line, i) => {
        const before = level[i - 1];
        const goesOn =
          before !== undefined &&
          near(right(before.box), line.box.x, GOES_ON) &&
          isPaintedAlike(before, line);
        if (goesOn) runs.at(-1)?.push(line);
        else runs.push([line]);
      });
  const joined = runs
    .filter((run) => run.length > 1)
    .map((run) => groupNode('row', run))
    .filter((line) => !nodes.some((n) => !line.children.includes(n) && covers(n.box, line.box, 0)));
  const pieces = new Set(joined.flatMap((line) => line.children));
  return [...nodes.filter((n) => !pieces.has(n)), ...joined];
}
