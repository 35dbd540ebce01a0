/** A mark on the rail, with its words and what is left of them where there is little room. */
export interface Mark {
  readonly width: number;
  readonly label: string;
  readonly short: string;
}

/** The drawn widths, as marks. */
export const drawnMarks = (drawings: readonly { readonly width: number }[]): Mark[] =>
  drawings.map(({ width }) => ({ width, label: `drawn ${width}`, short: String(width) }));

/** The widths below which something else holds, as marks. */
export const turnMarks = (turns: readonly number[]): Mark[] =>
  turns.map((width) => ({ width, label: `below ${width}`, short: `‹ ${width}` }));

/** Where a mark's words stand: beside its line, in one of two rows; none where there is no room for any. */
export interface PlacedMark extends Mark {
  readonly words: string;
  readonly side: 'after' | 'before';
  readonly row: 0 | 1;
}

/** The width of a letter of the rail's labels, and the room around them, px. */
const LETTER = 6.1;
const AROUND = 10;

interface Taken {
  readonly from: number;
  readonly to: number;
  readonly row: 0 | 1 | 'both';
}

/**
 * Places the words of marks so that none lie over each other or over the caliper's number: they change sides, go to a
 * second row, are shortened, or give way. `xOf` gives the place of a frame width on a rail that is `length` px long;
 * `number` is what the caliper's number takes.
 */
export function placeMarks(
  marks: readonly Mark[],
  xOf: (width: number) => number,
  length: number,
  number: { readonly from: number; readonly to: number },
): PlacedMark[] {
  const taken: Taken[] = [{ ...number, row: 'both' }];
  const isFree = (from: number, to: number, row: 0 | 1): boolean =>
    from >= 0 &&
    to <= length &&
    taken.every((t) => to <= t.from || from >= t.to || (t.row !== 'both' && t.row !== row));
  return marks
    .toSorted((a, b) => a.width - b.width)
    .map((mark, i, sorted): PlacedMark => {
      const x = xOf(mark.width);
      // Words stand after their line, unless the next line stands there.
      const next = sorted[i + 1];
      const crowded = next !== undefined && xOf(next.width) - x < mark.label.length * LETTER + AROUND;
      const sides = crowded ? (['before', 'after'] as const) : (['after', 'before'] as const);
      for (const words of [mark.label, mark.short])
        for (const row of [0, 1] as const)
          for (const side of sides) {
            const wide = words.length * LETTER + AROUND;
            const [from, to] = side === 'after' ? [x, x + wide] : [x - wide, x];
            if (!isFree(from, to, row)) continue;
            taken.push({ from, to, row });
            return { ...mark, words, side, row };
          }
      return { ...mark, words: '', side: 'after', row: 0 };
    });
}
