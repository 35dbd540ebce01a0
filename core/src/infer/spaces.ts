import { coreBox, type Item, type TextItem } from '../drawing/index.js';
import { BoxIndex, bottom, contains, covers, right } from '../model/index.js';

/** Boxes that reach into each other by no more than this do not lie over each other, px. */
const COVERS = 1;
/** What is further away than this does not say how high a line is, px. */
const REACH = 100;

/** What a line's upper or lower edge stands off: a text's, or an edge of a box around it or beside it. */
export interface Beside {
  readonly item: Item;
  /** Whether the text is inside of it. */
  readonly around: boolean;
}

/** What stands nearest above and below a text. */
export interface Spaces {
  readonly above?: Beside;
  readonly below?: Beside;
}

/**
 * What of some items, in the order of paint, is on one layer with one of them: between the two no box is painted that
 * lies over the lower one and is, or holds, the upper one: a dialog over a list.
 */
function onLayer(item: Item, around: readonly Item[]): Item[] {
  const own = around.indexOf(item);
  const core = coreBox(item);
  const boxes = around.map((box, at) => ({ box, at })).filter(({ box }) => box.kind === 'shape');
  const holding = boxes.filter(({ box, at }) => at <= own && (at === own || contains(box.box, core, COVERS)));
  const covering = boxes.filter(({ box, at }) => at > own && covers(box.box, core, COVERS));
  return around.filter((other, at) => {
    const otherCore = coreBox(other);
    return at < own
      ? !holding.some((h) => h.at > at && covers(h.box.box, otherCore, COVERS))
      : !covering.some((c) => c.at <= at && (c.at === at || contains(c.box.box, otherCore, COVERS)));
  });
}

/** The texts of a drawing with what stands nearest above and below each on its layer, if that is near. */
export function spacesOf<T extends TextItem>(items: readonly Item[], texts: readonly T[]): Map<T, Spaces> {
  const index = new BoxIndex(items.map((i) => i.box));
  return new Map(
    texts.map((text) => {
      const { box } = text;
      const reach = { ...box, y: box.y - REACH, height: box.height + 2 * REACH };
      const near = index.meeting(reach).flatMap((at) => items[at] ?? []);
      return [text, nearest(text, onLayer(text, near))];
    }),
  );
}

function nearest(text: TextItem, near: readonly Item[]): Spaces {
  const core = coreBox(text);
  let above: (Beside & { readonly at: number }) | undefined;
  let below: typeof above;
  const offer = (item: Item, around: boolean, upper: number | undefined, lower: number | undefined) => {
    if (
      upper !== undefined &&
      (!above || upper > above.at || (upper === above.at && isBefore(item, above.item)))
    )
      above = { item, around, at: upper };
    if (
      lower !== undefined &&
      (!below || lower < below.at || (lower === below.at && isBefore(item, below.item)))
    )
      below = { item, around, at: lower };
  };
  for (const item of near) {
    const box = coreBox(item);
    if (item === text || box.x >= right(core) - COVERS || right(box) <= core.x + COVERS) continue;
    if (contains(box, core, COVERS)) offer(item, true, box.y, bottom(box));
    else if (bottom(box) <= core.y + COVERS) offer(item, false, bottom(box), undefined);
    else if (box.y >= bottom(core) - COVERS) offer(item, false, undefined, box.y);
  }
  return { ...(above && { above }), ...(below && { below }) };
}

/** Of two things that are as near, the same is taken whatever the order of paint: the upper, the left, the smaller. */
function isBefore(a: Item, b: Item): boolean {
  const order = ({ box, kind }: Item) => [box.y, box.x, box.width, box.height, kind.length];
  const [one, two] = [order(a), order(b)];
  const at = one.findIndex((n, i) => n !== two[i]);
  return at >= 0 && (one[at] ?? 0) < (two[at] ?? 0);
}
