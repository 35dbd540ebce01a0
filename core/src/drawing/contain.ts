import { area, bottom, BoxIndex, centreY, right, type Rect } from '../model/index.js';
import type { Item, Note } from './items.js';

/** A box with the items that it holds directly. */
export interface Held {
  readonly item: Item;
  readonly order: number;
  readonly children: Held[];
}

/**
 * Boxes that lie in each other deeper than this are read as lying beside each other: no screen needs them, and a
 * structure may nest no deeper than `MAX_DEPTH`, with up to three parts for a box.
 */
const DEEPEST = 60;

/** The least side of a shape that can hold others (a progress bar holds its filling); thinner ones are rules. */
const HOLDER_MIN = 3;
/** Inside means inside but for this much, px: strokes and rounding reach over. */
const EDGE = 1.6;
const LONGER = 0.5;

const canHold = (item: Item): boolean =>
  (item.kind === 'shape' || item.kind === 'picture') &&
  Math.min(item.box.width, item.box.height) >= HOLDER_MIN;

/** The part of an item that has to lie inside its holder: of a text the letters, whose lines may be taller. */
export function coreBox(item: Item): Rect {
  if (item.kind !== 'text') return item.box;
  const size = item.content.runs[0]?.style.size ?? 16;
  const [first, last] = [item.lines[0], item.lines.at(-1)];
  if (!first || !last) return item.box;
  const top = first.baseline - size * 0.74;
  return { x: item.box.x, y: top, width: item.box.width, height: last.baseline + size * 0.2 - top };
}

function holds(holder: Item, inner: Rect): boolean {
  const b = holder.box;
  // A line beyond an edge that is longer than the edge is not its line.
  const beyond = centreY(inner) < b.y || centreY(inner) > bottom(b);
  if (beyond && inner.width > b.width + LONGER) return false;
  return (
    inner.x >= b.x - EDGE &&
    inner.y >= b.y - EDGE &&
    right(inner) <= right(b) + EDGE &&
    bottom(inner) <= bottom(b) + EDGE
  );
}

/** Whether an item covers what lies under its box, if only as a tint; an outline does not. */
const isLaidOver = ({ paint, kind }: Item): boolean => kind === 'picture' || paint.fill !== undefined;

/**
 * Puts every item into the smallest box that holds it, was painted before it and is seen there: where a later box covers an
 * earlier one, as a dialog does the page, the item lies on the later. Of equal boxes the earlier holds the later. Gives the
 * items that only the frame holds, and how many lie deeper than a structure can nest: these are in the deepest box that it can.
 */
export function containmentOf(items: readonly Item[]): { readonly held: Held[]; readonly tooDeep: string[] } {
  const nodes = items.map((item, order): Held => ({ item, order, children: [] }));
  const holders = nodes.filter((n) => canHold(n.item));
  const index = new BoxIndex(holders.map((h) => h.item.box));
  const depths = new Map<Held, { readonly depth: number; readonly holder: Held | undefined }>();
  const held: Held[] = [];
  const tooDeep: string[] = [];
  for (const node of nodes) {
    const inner = coreBox(node.item);
    let parent: Held | undefined;
    for (const at of index.meeting(inner)) {
      const holder = holders[at] as Held;
      if (holder.order >= node.order) break;
      if (!holds(holder.item, inner)) continue;
      if (area(holder.item.box) < area(node.item.box) * 0.98) continue;
      if (!parent || isLaidOver(holder.item) || area(holder.item.box) <= area(parent.item.box))
        parent = holder;
    }
    const around = parent && depths.get(parent);
    if (around && around.depth >= DEEPEST) {
      tooDeep.push(node.item.id);
      parent = around.holder;
    }
    depths.set(node, { depth: parent ? (depths.get(parent)?.depth ?? 0) + 1 : 1, holder: parent });
    (parent?.children ?? held).push(node);
  }
  return { held, tooDeep };
}

/** What is told of boxes that lie in each other deeper than a structure can nest. */
export function depthNotes(items: readonly Item[]): Note[] {
  const { tooDeep } = containmentOf(items);
  if (tooDeep.length === 0) return [];
  const text = `Boxes lie in each other more than ${DEEPEST} deep: the innermost ${tooDeep.length} are read as lying beside each other.`;
  return [{ kind: 'fell back', text, items: tooDeep }];
}
