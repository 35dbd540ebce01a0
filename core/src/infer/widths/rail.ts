import { inFlow } from '../../layout/index.js';
import { FIT, ruleOf, updatePart, walk, withOverride, type Part, type Rect } from '../../model/index.js';

type Boxes = ReadonlyMap<string, Rect>;

/** A link in a rail is no higher, px: as much as a finger needs and some room. */
const LINK = 56;
/** So many alike lines one above another are a list of links. */
const LINKS = 3;

/** The list of links in a rail: a column of lines, each of one text at the most and what stands beside it. */
function isLinks(part: Part, boxes: Boxes): boolean {
  const lines = inFlow(part);
  return (
    part.kind === 'container' &&
    ruleOf(part.rules, 'flow') === 'column' &&
    lines.length >= LINKS &&
    lines.every(
      (l) =>
        (boxes.get(l.id)?.height ?? Infinity) <= LINK && (l.kind === 'text' || l.children.length > 0),
    ) &&
    lines.filter((l) => [...walk(l)].filter((p) => p.kind === 'text').length === 1).length * 2 > lines.length
  );
}

/** The room that is left above what stands at the foot of a rail: more than all the gaps in it. */
const isRoomLeft = (child: Part, rail: Part): boolean => {
  const gap = typeof rail.rules.gap === 'number' ? rail.rules.gap : 0;
  return (child.rules.gapBefore ?? 0) > Math.max(LINK, 2 * gap);
};

/** Lets the links of a rail that has become a strip across the screen below a frame width stand side by side. */
export function linksAside(root: Part, rail: Part, below: number, boxes: Boxes): Part {
  let result = updatePart(root, rail.id, (part) => ({
    ...part,
    children: part.children.map((c) => (isRoomLeft(c, part) ? withOverride(c, below, { gapBefore: null }) : c)),
  }));
  for (const list of walk(rail)) {
    if (!isLinks(list, boxes)) continue;
    result = updatePart(result, list.id, (part) => {
      const children = part.children.map((c) =>
        c.rules.pin || c.kind === 'text' ? c : withOverride(c, below, { width: FIT, alignSelf: null }),
      );
      return withOverride({ ...part, children }, below, { flow: 'wrap' });
    });
  }
  return result;
}
