import { inFlow, placeInGrid } from '../layout/index.js';
import {
  breakpoints,
  findPart,
  inRange,
  parentOf,
  ruleOf,
  standing,
  type Part,
  type Rect,
  type Rules,
  type Step,
  type Structure,
} from '../model/index.js';
import { leastMoving, none, type Answer } from './least.js';
import type { Bench } from './stands.js';
import { namedColumns, standingColumns } from './tracks.js';

/** A rectangle of cells, lines counted from 0, ends not included. */
export interface Cells {
  readonly column: number;
  readonly row: number;
  readonly columns: number;
  readonly rows: number;
}

const placed = (grid: Part, count: number) => placeInGrid(inFlow(grid), grid.rules, count);

const meet = (a: Cells, b: Cells): boolean =>
  a.column < b.column + b.columns &&
  b.column < a.column + a.columns &&
  a.row < b.row + b.rows &&
  b.row < a.row + a.rows;

/** The least rectangle of cells that holds some. */
function around(all: readonly Cells[]): Cells | undefined {
  if (all.length === 0) return undefined;
  const column = Math.min(...all.map((c) => c.column));
  const row = Math.min(...all.map((c) => c.row));
  return {
    column,
    row,
    columns: Math.max(...all.map((c) => c.column + c.columns)) - column,
    rows: Math.max(...all.map((c) => c.row + c.rows)) - row,
  };
}

/** The cells in which children of a grid stand; undefined where none does, or where its columns have no number. */
export function cellsOf(grid: Part, ids: readonly string[]): Cells | undefined {
  const count = namedColumns(grid.rules.columns)?.length;
  if (count === undefined) return undefined;
  return around(placed(grid, count).filter((a) => ids.includes(a.part.id)));
}

/** The cells of a grid that a frame drawn on the sheet meets; `boxes` say where its children stand, px of the frame. */
export function cellsUnder(grid: Part, boxes: ReadonlyMap<string, Rect>, drawn: Rect): Cells | undefined {
  const box = boxes.get(grid.id);
  const columns = box && standingColumns(grid, box);
  if (!columns) return undefined;
  const all = placed(grid, columns.length).map((a) => ({ ...a, box: boxes.get(a.part.id) }));
  const count = all.reduce((n, a) => Math.max(n, a.row + a.rows), 0);
  // How high a row stands is seen by what stands in it alone.
  const rows = Array.from({ length: count }, (_, row) => {
    const alone = all.flatMap((a) => (a.row === row && a.rows === 1 && a.box ? [a.box] : []));
    return {
      row,
      top: Math.min(...alone.map((b) => b.y)),
      end: Math.max(...alone.map((b) => b.y + b.height)),
    };
  });
  const across = columns.flatMap((c, column) =>
    c.start < drawn.x + drawn.width && c.start + c.width > drawn.x ? [column] : [],
  );
  const down = rows.flatMap((r) => (r.top < drawn.y + drawn.height && r.end > drawn.y ? [r.row] : []));
  return around(across.flatMap((column) => down.map((row) => ({ column, row, columns: 1, rows: 1 }))));
}

type Areas = NonNullable<Rules['areas']>;

/** A name that none of a grid's areas has, after what is to stand there. */
function freshName(areas: Areas, called: string): string {
  const word =
    called
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^[^a-z]+|-+$/g, '')
      .slice(0, 30) || 'area';
  const taken = new Set(areas.flat());
  for (let n = 1; ; n++) {
    const name = n === 1 ? word : `${word}-${n}`;
    if (!taken.has(name)) return name;
  }
}

/**
 * Makes cells of a grid one area with a name, for what stands first in them; what else stood there goes to the next free cells. In
 * narrower ranges, in which the grid has other columns, it is without areas.
 */
export function mergeCells(structure: Structure, id: string, cells: Cells, bench: Bench): Answer {
  const grid = findPart(structure.root, id);
  const count = namedColumns(grid?.rules.columns)?.length;
  if (!grid || ruleOf(grid.rules, 'flow') !== 'grid' || count === undefined)
    return none(
      'Cells are merged in a grid that says how many columns it has: type “cols 3”, say, at the grid.',
    );
  if (cells.columns * cells.rows < 2)
    return none('One area takes two cells at least: draw over more of them.');
  if (cells.column + cells.columns > count) return none(`The grid has ${count} columns: draw over those.`);
  const all = placed(grid, count);
  const [first, ...others] = all.filter((a) => meet(a, cells));
  if (!first) return none('Nothing stands in these cells: draw over one that holds a part.');
  const before = grid.rules.areas ?? [];
  const cut = before.flat().find((name) => {
    if (name === '.') return false;
    const own = around(
      before.flatMap((line, row) =>
        line.flatMap((n, column) => (n === name ? [{ column, row, columns: 1, rows: 1 }] : [])),
      ),
    );
    return own && meet(own, cells) && JSON.stringify(around([own, cells])) !== JSON.stringify(cells);
  });
  if (cut !== undefined) return none(`The area “${cut}” would be cut in two: draw over all of it or none.`);
  const name = freshName(before, first.part.name);
  const lines = Math.max(before.length, cells.row + cells.rows);
  const areas: Areas = Array.from({ length: lines }, (_, row) =>
    Array.from({ length: count }, (_, column) =>
      meet({ column, row, columns: 1, rows: 1 }, cells) ? name : (before[row]?.[column] ?? '.'),
    ),
  );
  const freed = others.filter((a) => a.part.rules.cell);
  const set = (
    part: string,
    rules: Rules | { readonly cell: null } | { readonly areas: null },
    below?: number,
  ): Step => ({
    kind: 'setRules',
    ...inRange(below),
    parts: [{ id: part, set: rules }],
  });
  const narrower = breakpoints(structure).find((below) => {
    const there = parentOf(standing(structure, { width: below - 0.5 }), first.part.id);
    return (
      there && (ruleOf(there.rules, 'flow') !== 'grid' || namedColumns(there.rules.columns)?.length !== count)
    );
  });
  const steps: Step[] = [
    set(id, { areas }),
    set(first.part.id, { cell: { area: name } }),
    ...freed.map((a) => set(a.part.id, { cell: null })),
    ...(narrower === undefined
      ? []
      : [set(id, { areas: null }, narrower), set(first.part.id, { cell: null }, narrower)]),
  ];
  return leastMoving(structure, bench, `“${first.part.name}” over ${cells.columns} × ${cells.rows} cells`, [
    {
      step: { kind: 'several', steps },
      notes: others.map((a) => `“${a.part.name}” goes to the next free cell.`),
    },
  ]);
}
