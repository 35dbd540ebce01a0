import { bottom, centreX, right, type Rect } from '../model/index.js';
import { isText, near, type Node } from './node.js';

/** What lies across the foot of something has at least this share of its height at either side of it. */
const EITHER_SIDE = 0.2;
/** What is crossed takes at least this share of the width that there is, and is higher than what crosses its foot by this factor. */
const CROSSED = { width: 0.6, higher: 1.2 };

const isCrossed = (base: Node, box: Rect): boolean =>
  !isText(base) && base.item !== undefined && base.box.width >= box.width * CROSSED.width;

/** Whether a thing lies across the foot of another, inside its sides and over it. */
function crosses(node: Node, base: Node, by: number): boolean {
  if (node === base || node.order < base.order || isText(node)) return false;
  const foot = bottom(base.box);
  const least = node.box.height * EITHER_SIDE;
  const isAcross = foot - node.box.y >= least && bottom(node.box) - foot >= least;
  const isInside = node.box.x >= base.box.x - by && right(node.box) <= right(base.box) + by;
  return isAcross && isInside && base.box.height >= node.box.height * CROSSED.higher;
}

/** A node that is drawn up over the foot of something, with a core that begins there; as it is where it does not lie across it. */
export function fromFoot(node: Node, of: Rect): Node {
  const foot = bottom(of);
  const { core } = node;
  return core.y < foot && bottom(core) > foot
    ? { ...node, core: { ...core, y: foot, height: bottom(core) - foot } }
    : node;
}

/**
 * What begins the content below a picture and is drawn up over its foot: a face on a cover with the name beside it, a card across
 * the end of a hero. It is in the flow by a gap below zero, so that what follows makes room for it; what hangs on the picture would
 * lie over that. Such a line is given as one node whose core begins at the foot. A mark that nothing follows, or that stands at
 * the end of its line, hangs.
 */
export function drawnUp(
  nodes: readonly Node[],
  box: Rect,
  by: number,
  group: (nodes: readonly Node[]) => Node,
): readonly Node[] {
  for (const base of nodes) {
    if (!isCrossed(base, box)) continue;
    const [first] = nodes.filter((n) => crosses(n, base, by)).toSorted((a, b) => a.box.x - b.box.x);
    if (!first) continue;
    const line = nodes.filter(
      (n) => n !== base && n.box.y >= first.box.y - by && n.box.y < bottom(first.box) - by,
    );
    const others = line.filter((n) => n !== first);
    const isFollowed = nodes.some((n) => n.box.y >= bottom(first.box) - by);
    const begins =
      others.length > 0
        ? others.every((n) => n.box.x >= right(first.box) - by && bottom(n.box) > bottom(base.box))
        : isFollowed &&
          (near(centreX(first.box), centreX(base.box), 2 * by) || first.box.width >= base.box.width / 2);
    if (!begins) continue;
    const whole = group(line);
    if (others.length > 0 && whole.flow !== 'row') continue;
    return [...nodes.filter((n) => !line.includes(n)), fromFoot(whole, base.box)];
  }
  return nodes;
}
