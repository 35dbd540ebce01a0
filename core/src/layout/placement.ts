import type { Cell, Part, Rules } from '../model/index.js';

/** A child's area in a grid, counted from 0. */
export interface Area {
  readonly part: Part;
  readonly column: number;
  readonly row: number;
  readonly columns: number;
  readonly rows: number;
}

/** Further tracks than this are not made, so that a wild number cannot fill the memory. */
const MOST_TRACKS = 1000;
const within = (n: number): number => Math.max(0, Math.min(MOST_TRACKS, Math.floor(n)));

/** The lines of a named area, where the grid has one. */
function namedArea(name: string, areas: Rules['areas']): Required<Omit<Cell, 'area'>> | undefined {
  const rows = (areas ?? []).flatMap((line, y) => (line.includes(name) ? [y] : []));
  const columns = (areas ?? []).flatMap((line) => line.flatMap((n, x) => (n === name ? [x] : [])));
  if (rows.length === 0) return undefined;
  const [left, right] = [Math.min(...columns), Math.max(...columns)];
  const [top, end] = [Math.min(...rows), Math.max(...rows)];
  return { column: left + 1, row: top + 1, columnSpan: right - left + 1, rowSpan: end - top + 1 };
}

/** A child with what it says of its place; along is the axis in which automatic placement runs. */
interface Wish {
  readonly part: Part;
  readonly along: number | undefined;
  readonly across: number | undefined;
  readonly spanAlong: number;
  readonly spanAcross: number;
}

function wishOf(part: Part, { areas, autoFlow }: Rules): Wish {
  const own = part.rules.cell ?? {};
  const cell = own.area === undefined ? own : (namedArea(own.area, areas) ?? {});
  const line = (n: number | undefined) => (n === undefined ? undefined : within(n - 1));
  const column = { at: line(cell.column), span: Math.max(1, within(cell.columnSpan ?? 1)) };
  const row = { at: line(cell.row), span: Math.max(1, within(cell.rowSpan ?? 1)) };
  const [a, b] = autoFlow === 'column' ? [row, column] : [column, row];
  return { part, along: a.at, across: b.at, spanAlong: a.span, spanAcross: b.span };
}

/** Which cells are taken, by line across and place along. */
class Occupied {
  readonly #lines = new Map<number, Set<number>>();

  free(along: number, across: number, wish: Wish): boolean {
    for (let y = across; y < across + wish.spanAcross; y++) {
      const line = this.#lines.get(y);
      if (!line) continue;
      for (let x = along; x < along + wish.spanAlong; x++) if (line.has(x)) return false;
    }
    return true;
  }

  take(along: number, across: number, wish: Wish): void {
    for (let y = across; y < across + wish.spanAcross; y++) {
      const line = this.#lines.get(y) ?? new Set<number>();
      this.#lines.set(y, line);
      for (let x = along; x < along + wish.spanAlong; x++) line.add(x);
    }
  }
}

/**
 * Places the children of a grid, sparsely as CSS does (CSS Grid §8.5). `explicit` is the number of tracks that the
 * rules name along the automatic flow's axis: columns, or rows where it runs by column.
 */
export function placeInGrid(children: readonly Part[], rules: Rules, explicit: number): Area[] {
  const wishes = children.map((c) => wishOf(c, rules));
  const places = new Map<Wish, { along: number; across: number }>();
  const taken = new Occupied();
  const put = (wish: Wish, along: number, across: number) => {
    places.set(wish, { along, across });
    taken.take(along, across, wish);
  };
  for (const w of wishes) if (w.along !== undefined && w.across !== undefined) put(w, w.along, w.across);
  const cursors = new Map<number, number>();
  for (const w of wishes) {
    if (w.across === undefined || w.along !== undefined) continue;
    let x = cursors.get(w.across) ?? 0;
    while (!taken.free(x, w.across, w)) x++;
    put(w, x, w.across);
    cursors.set(w.across, x + w.spanAlong);
  }
  const width = Math.max(
    explicit,
    1,
    ...wishes.map((w) => (places.get(w)?.along ?? w.along ?? 0) + w.spanAlong),
  );
  let [x, y] = [0, 0];
  for (const w of wishes) {
    if (w.across !== undefined) continue;
    if (w.along !== undefined) {
      if (w.along < x) y++;
      x = w.along;
      while (!taken.free(x, y, w)) y++;
    } else
      while (x + w.spanAlong > width || !taken.free(x, y, w)) {
        x++;
        if (x + w.spanAlong > width) [x, y] = [0, y + 1];
      }
    put(w, x, y);
  }
  const byColumn = rules.autoFlow === 'column';
  return wishes.map((w): Area => {
    const { along, across } = places.get(w) ?? { along: 0, across: 0 };
    return byColumn
      ? { part: w.part, column: across, row: along, columns: w.spanAcross, rows: w.spanAlong }
      : { part: w.part, column: along, row: across, columns: w.spanAlong, rows: w.spanAcross };
  });
}
