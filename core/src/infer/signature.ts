import { coreBox, type Item } from '../drawing/index.js';
import type { Node } from './node.js';

const step = (n: number, by: number): number => Math.round(n / by) * by;

/** What makes a leaf alike to another: its kind and style, not its words and not where it stands. */
export function itemSignature(item: Item): string {
  switch (item.kind) {
    case 'text': {
      const style = item.content.runs[0]?.style;
      return `text ${style?.size.toFixed(1)} ${style?.weight}`;
    }
    case 'picture':
      return 'picture';
    case 'art':
      return `art ${step(Math.max(item.box.width, item.box.height), 8)}`;
    case 'shape':
      return Math.max(item.box.width, item.box.height) > 64
        ? `shape ${step(item.box.height, 4)}`
        : `shape ${step(item.box.width, 4)}×${step(item.box.height, 4)}`;
  }
}

/** An item by itself as a node; of an icon `box` is what it was drawn in. */
export const leafNode = (item: Item, order: number, box = item.box): Node => ({
  box,
  core: coreBox(item),
  item,
  children: [],
  pins: [],
  signature: itemSignature(item),
  order,
});

/** A holder is alike to another when it is painted in the same manner and holds alike things in the same flow. */
export function holderSignature(
  item: Item | undefined,
  flow: Node['flow'],
  children: readonly Node[],
): string {
  const painted = item ? (item.kind === 'shape' ? `box ${String(item.paint.radius ?? 0)}` : item.kind) : '';
  const inner = children.map((c) => c.signature);
  // Of a long run of alike things the number does not matter: a list is a list.
  const runs = inner.filter((s, i) => s !== inner[i - 1]);
  return `${painted}${flow ?? ''}(${runs.join(',')})`;
}
