import { readFileSync } from 'node:fs';
import path from 'node:path';
import { NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import { loadMeasurer } from '../host/src/fonts.js';
import { FAR, LARGE } from '../core/src/infer/typed.js';

/** Counts by what was counted: `whole` px lengths and how many others; line heights by how many times their size they are. */
export interface Typed {
  readonly spaces: { readonly whole: Record<string, number>; fractional: number };
  readonly lineHeights: { readonly running: Record<string, number>; readonly large: Record<string, number> };
}

const WHOLE = 0.06;

export const noneTyped = (): Typed => ({
  spaces: { whole: {}, fractional: 0 },
  lineHeights: { running: {}, large: {} },
});

const add = (counts: Record<string, number>, key: string): void => {
  counts[key] = (counts[key] ?? 0) + 1;
};

interface Group {
  readonly gap: number | null;
  readonly crossGap: number | null;
  readonly padding: readonly number[];
}

/**
 * Counts the gaps of a page's own containers and their paddings that are the same at two facing sides: others are often what
 * is left over. Alike ones of one page count once.
 */
export function countSpaces({ spaces }: Typed, groups: readonly Group[]): void {
  const facing = ([top = 0, right = 0, bottom = 0, left = 0]: readonly number[]) => [
    ...(Math.abs(top - bottom) < WHOLE ? [top] : []),
    ...(Math.abs(left - right) < WHOLE ? [left] : []),
  ];
  const own = groups.flatMap((g) => [g.gap, g.crossGap, ...facing(g.padding)].filter((n) => n !== null));
  for (const space of new Set(own.map((n) => Math.round(n * 100) / 100))) {
    if (space <= 0 || space > FAR) continue;
    if (Math.abs(space - Math.round(space)) < WHOLE) add(spaces.whole, String(Math.round(space)));
    else spaces.fractional++;
  }
}

/** Counts how many times their size a page's lines are high; alike ones of one page count once. */
export async function countLineHeights(
  { lineHeights }: Typed,
  svg: string,
  boxes: Readonly<Record<string, readonly number[] | null>>,
): Promise<void> {
  const opened = openDrawing(readFileSync(svg, 'utf8'), path.basename(svg));
  const drawing = opened.measure(await loadMeasurer(opened.faces()), NO_DECISIONS);
  const seen = new Set<string>();
  for (const item of drawing.items) {
    const box = boxes[item.id];
    if (item.kind !== 'text' || !box) continue;
    const style = item.content.runs[0]?.style;
    if (!style) continue;
    const leading = (box[3] ?? 0) / item.lines.length / style.size;
    const key = `${style.size} ${style.weight} ${leading.toFixed(2)}`;
    // A page that sets a word into a taller line, a button's, says nothing about its line height.
    if (seen.has(key) || leading < 0.9 || leading > 2) continue;
    seen.add(key);
    add(
      style.size < LARGE ? lineHeights.running : lineHeights.large,
      (Math.round(leading * 20) / 20).toFixed(2),
    );
  }
}
