import type { Drawing, Item, TextItem } from '../drawing/index.js';

const styleOf = (item: TextItem): string => {
  const style = item.content.runs[0]?.style;
  return `${style?.family}|${style?.weight}|${style?.size.toFixed(1)}`;
};

/** The text in lines of another height: its letters stay where they are. */
function withLineHeight(item: TextItem, lineHeight: number): TextItem {
  const taller = lineHeight - item.content.lineHeight;
  return {
    ...item,
    content: { ...item.content, lineHeight },
    box: { ...item.box, y: item.box.y - taller / 2, height: lineHeight * item.lines.length },
  };
}

/**
 * Drawings of one screen tell each other how high the lines of a style are: where one shows a paragraph of it, a single
 * line in another is as high. `drawings` come in the order in which they are believed.
 */
export function sharePitches(drawings: readonly Drawing[]): Drawing[] {
  const pitches = new Map<string, number>();
  for (const { items } of drawings)
    for (const item of items)
      if (item.kind === 'text' && item.lines.length > 1 && !pitches.has(styleOf(item)))
        pitches.set(styleOf(item), item.content.lineHeight);
  const share = (item: Item): Item => {
    const pitch = item.kind === 'text' && item.lines.length === 1 ? pitches.get(styleOf(item)) : undefined;
    return pitch !== undefined && item.kind === 'text' && pitch !== item.content.lineHeight
      ? withLineHeight(item, pitch)
      : item;
  };
  return drawings.map((d) => ({ ...d, items: d.items.map(share) }));
}
