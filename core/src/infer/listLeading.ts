import type { Item, TextItem } from '../drawing/index.js';
import { BoxIndex, right } from '../model/index.js';
import { near } from './node.js';

/** So many lines at one pitch are a list; steps differ by no more than this, px. */
const LEAST = 3;
const SAME = 1.3;
/** Lines further apart than this many times their size have something else between them. */
const FAR = 2.5;
/** A mark stands no further before its line than this, px. */
const MARK = 40;
/** Lists are spaced by whole multiples of this, px. */
const STEP = 4;
/** Lines of a list are at least and at most so many times as high as their size. */
const LEADING = { least: 1.3, most: 1.7, usual: 1.5 };

/** The size of a text's type, px. */
export const sizeOf = (item: TextItem): number => item.content.runs[0]?.style.size ?? item.content.lineHeight;

/** Runs of lines of one type under each other at one pitch, each with its pitch. */
function listsOf(lines: readonly TextItem[]): { size: number; pitch: number }[] {
  const columns = new Map<string, TextItem[]>();
  for (const line of lines) {
    const key = `${sizeOf(line)}|${Math.round(line.box.x)}`;
    columns.set(key, [...(columns.get(key) ?? []), line]);
  }
  return [...columns.values()].flatMap((column) => {
    const at = column.map((line) => line.lines[0]?.baseline ?? 0).sort((a, b) => a - b);
    const steps = at.slice(1).map((y, i) => y - (at[i] ?? y));
    const [first = 0] = steps;
    const size = sizeOf(column[0] as TextItem);
    const even = steps.length + 1 >= LEAST && steps.every((s) => near(s, first, SAME));
    const pitch = steps.reduce((sum, s) => sum + s, 0) / steps.length;
    return even && pitch <= size * FAR ? [{ size, pitch }] : [];
  });
}

/**
 * How many times their size the lines of plain lists are high, where a drawing has any: they leave gaps of whole steps. Of
 * two heights that are as usual the taller is taken. Lines with marks before them do not tell: these may be taller.
 */
export function listLeading(items: readonly Item[]): number | undefined {
  const index = new BoxIndex(items.map((i) => i.box));
  const plain = (line: TextItem) =>
    !index
      .meeting({ ...line.box, x: line.box.x - MARK, width: MARK - 1 })
      .some((at) => right((items[at] as Item).box) <= line.box.x);
  const lines = items.filter((i): i is TextItem => i.kind === 'text' && i.lines.length === 1);
  const [list] = listsOf(lines.filter(plain)).sort((a, b) => a.size - b.size);
  if (!list) return undefined;
  const { size, pitch } = list;
  const heights = Array.from(
    { length: Math.floor(pitch / STEP) },
    (_, i) => Math.round(pitch) - (i + 1) * STEP,
  );
  return heights
    .map((h) => h / size)
    .filter((leading) => leading >= LEADING.least && leading <= LEADING.most)
    .sort((a, b) => Math.abs(a - LEADING.usual) - Math.abs(b - LEADING.usual) || b - a)[0];
}
