import { reflow, type Engine } from '../layout/index.js';
import {
  ruleOf,
  standing,
  updatePart,
  walk,
  withOverride,
  type Part,
  type Rect,
  type Structure,
} from '../model/index.js';

/**
 * The widths of the content column of twelve columns that the web's common grids step through: from the first frame
 * width down to the next it is so wide, px. In frames narrower than the last it fills them.
 */
const STEPS = [
  { below: 1200, width: 960 },
  { below: 992, width: 720 },
  { below: 768, width: 540 },
] as const;
const FILLS_BELOW = 576;
/** The widest steps, and the gutters between the columns, of which half is at either side, px. */
const WIDEST = [1140, 1200, 1320];
const GUTTERS = [24, 30];
/** How exactly a column has to have such a width, px. */
const EXACT = 0.6;

/** The gutter of a content column that is as wide as one that steps; undefined for other columns. */
function steppedGutter(maxWidth: Part['rules']['maxWidth']): number | undefined {
  if (typeof maxWidth !== 'number') return undefined;
  return GUTTERS.find((g) => WIDEST.some((w) => Math.abs(w - g - maxWidth) <= EXACT));
}

/** The frame widths, from wide to narrow, at which columns on such a grid give way to fewer, px. */
export const GRID_BREAKPOINTS = { columns: 992, few: FILLS_BELOW } as const;
const COLUMNS = 12;

/** Whether a box starts where a column of a grid does and ends where one ends, short of the whole. */
function standsOnColumns(box: Rect, column: Rect, gutter: number): boolean {
  const step = (column.width + gutter) / COLUMNS;
  const [from, count] = [(box.x - column.x) / step, (box.width + gutter) / step];
  const isWhole = (n: number) => Math.abs(n - Math.round(n)) * step <= EXACT;
  return isWhole(from) && isWhole(count) && Math.round(count) > 0 && Math.round(count) < COLUMNS;
}

/** The content columns that step: they are as wide as those of a common grid, and something in one stands on its columns. */
function steppedColumns(root: Part, boxes: ReadonlyMap<string, Rect>): readonly Part[] {
  const wide = [...walk(root)].filter((p) => steppedGutter(p.rules.maxWidth) !== undefined);
  const told = wide.some((part) => {
    const [column, gutter] = [boxes.get(part.id), steppedGutter(part.rules.maxWidth)];
    if (!column || gutter === undefined) return false;
    return [...walk(part)].some((p) => {
      const box = p.kind === 'text' ? undefined : boxes.get(p.id);
      return box !== undefined && standsOnColumns(box, column, gutter);
    });
  });
  return told ? wide : [];
}

/** A tree in which content columns step, and the ids of what lies in these. */
export interface Stepped {
  readonly root: Part;
  readonly inside: ReadonlySet<string>;
}

/** Lets content columns that are those of the web's common grids step down as these do. */
export function stepContainers(root: Part, drawnWidth: number, engine: Engine): Stepped {
  const boxes = reflow(root, drawnWidth, engine).parts;
  const columns = new Set(steppedColumns(root, boxes).map((p) => p.id));
  if (columns.size === 0) return { root, inside: columns };
  let result = root;
  const inside = new Set<string>();
  for (const parent of walk(root)) {
    const limited = parent.children.filter((c) => columns.has(c.id));
    const gutter = steppedGutter(limited[0]?.rules.maxWidth);
    const box = boxes.get(parent.id);
    if (gutter === undefined || !box || ruleOf(parent.rules, 'flow') !== 'column') continue;
    if (box.width < drawnWidth - 2) continue;
    for (const part of limited.flatMap((l) => [...walk(l)])) inside.add(part.id);
    const padding = parent.rules.padding;
    const stepped = (part: Part): Part => {
      const steps = STEPS.filter((s) => s.below <= drawnWidth);
      const narrower = steps.reduce((p, s) => withOverride(p, s.below, { maxWidth: s.width - gutter }), part);
      return withOverride(narrower, FILLS_BELOW, { maxWidth: null });
    };
    result = updatePart(result, parent.id, (part) => {
      const children = part.children.map((c) => (columns.has(c.id) ? stepped(c) : c));
      const sides = { left: gutter / 2, right: gutter / 2 };
      return withOverride(
        { ...part, children },
        Math.min(STEPS[0].below, drawnWidth),
        padding ? { padding: { ...padding, ...sides } } : {},
      );
    });
  }
  return { root: result, inside };
}

/** Columns that stand in the middle of the grid take so many of its columns. */
const MIDDLE = { least: 4, most: 10 };

/**
 * How many of the grid's columns a box in the middle takes, whose margins in a narrow frame, `margin` px each, belong
 * to its columns; undefined for a box that is as wide as no number of columns.
 */
function columnsInMiddle(maxWidth: number, margin: number): number | undefined {
  const counts = WIDEST.map((w) => ((maxWidth + 2 * margin) * COLUMNS) / w);
  const found = counts.find(
    (n) => Math.abs(n - Math.round(n)) * (WIDEST[0] as number) <= EXACT * COLUMNS && Math.round(n) % 2 === 0,
  );
  const count = found === undefined ? 0 : Math.round(found);
  return count >= MIDDLE.least && count <= MIDDLE.most ? count : undefined;
}

/**
 * Lets boxes in the middle of the screen that take columns of the web's common grids step down as these do. What the
 * margins of their columns are shows in a narrow drawing of `narrowWidth`, where the boxes fill all columns.
 */
export function stepMiddle(structure: Structure, narrowWidth: number, engine: Engine): Structure {
  const marginAt = (width: number) => {
    const boxes = reflow(standing(structure, { width }), width, engine).parts;
    return (id: string): number | undefined => {
      const box = boxes.get(id);
      return box && Math.abs(2 * box.x + box.width - width) < 1 ? box.x : undefined;
    };
  };
  const [wide, narrow] = [marginAt(structure.drawn.width), marginAt(narrowWidth)];
  let { root } = structure;
  for (const { id, kind, rules, below } of walk(root)) {
    if (kind === 'text' || typeof rules.maxWidth !== 'number') continue;
    const margin = wide(id) === undefined ? undefined : narrow(id);
    const count = margin === undefined ? undefined : columnsInMiddle(rules.maxWidth, margin);
    if (!count || margin === undefined || below?.some((o) => o.rules.maxWidth !== undefined)) continue;
    root = updatePart(root, id, (part) => {
      const stepped = STEPS.reduce((p, { below: at, width }) => {
        const taken = at === STEPS.at(-1)?.below ? COLUMNS : count;
        return withOverride(p, at, { maxWidth: (width * taken) / COLUMNS - 2 * margin });
      }, part);
      return withOverride(stepped, FILLS_BELOW, { maxWidth: null });
    });
  }
  return root === structure.root ? structure : { ...structure, root };
}
