import { SVGPathData } from 'svg-pathdata';
import type { CornerRadii, Rect } from '../model/index.js';

type Command = SVGPathData['commands'][number];

/** Points nearer than this to an edge stand on it, px: exporters round. */
const ON = 0.06;
/** A rounded corner may be cut by this much more on one side than on the other. */
const UNEVEN = 1;

/** A rounded corner: where it would be if it were square, and its radius, px. */
interface Corner {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}

/**
 * Whether a path, in absolute commands, is a plain box: a rectangle with square or rounded corners that fills its
 * bounds. Gives the corners' radius, px, or the four where they differ; undefined for any other path. Exporters often
 * write boxes so.
 */
export function boxRadius(commands: readonly Command[], bounds: Rect): number | CornerRadii | undefined {
  if (bounds.width <= 0 || bounds.height <= 0 || commands.length < 4 || commands.length > 12)
    return undefined;
  const [x1, y1] = [bounds.x + bounds.width, bounds.y + bounds.height];
  const onX = (x: number) => Math.abs(x - bounds.x) < ON || Math.abs(x - x1) < ON;
  const onY = (y: number) => Math.abs(y - bounds.y) < ON || Math.abs(y - y1) < ON;
  const corners: Corner[] = [];
  let [x, y] = [Number.NaN, Number.NaN];
  let turns = 0;
  for (const [i, c] of commands.entries()) {
    if (c.type === SVGPathData.CLOSE_PATH) {
      if (i !== commands.length - 1) return undefined;
      continue;
    }
    if (!('x' in c) || !('y' in c)) return undefined;
    if (c.type === SVGPathData.MOVE_TO ? i !== 0 : i === 0) return undefined;
    if (!(onX(c.x) || onY(c.y))) return undefined;
    const [dx, dy] = [Math.abs(c.x - x), Math.abs(c.y - y)];
    if (c.type === SVGPathData.LINE_TO) {
      // A line runs along an edge.
      if (!(dx < ON && onX(c.x)) && !(dy < ON && onY(c.y))) return undefined;
      if (dx >= ON || dy >= ON) turns++;
    } else if (c.type !== SVGPathData.MOVE_TO) {
      // A curve goes from an upright edge to a level one about the corner between them.
      if (!(onX(x) && onY(c.y)) && !(onY(y) && onX(c.x))) return undefined;
      if (Math.abs(dx - dy) >= UNEVEN) return undefined;
      const fromUpright = onX(x) && onY(c.y);
      corners.push({ x: fromUpright ? x : c.x, y: fromUpright ? c.y : y, radius: dx });
    }
    [x, y] = [c.x, c.y];
  }
  if (corners.length === 0) return turns >= 3 && fillsCorners(commands, bounds) ? 0 : undefined;
  if (corners.length > 4) return undefined;
  const radii: number[] = [];
  for (const [cx, cy] of cornersOf(bounds)) {
    const own = corners.find((c) => Math.abs(c.x - cx) < ON && Math.abs(c.y - cy) < ON);
    if (!own && !passes(commands, cx, cy)) return undefined;
    radii.push(own?.radius ?? 0);
  }
  const [tl = 0, tr = 0, br = 0, bl = 0] = radii;
  return radii.every((r) => Math.abs(r - tl) < UNEVEN) ? tl : [tl, tr, br, bl];
}

/** The corners of a box, in the order of CSS. */
const cornersOf = ({ x, y, width, height }: Rect): (readonly [number, number])[] => [
  [x, y],
  [x + width, y],
  [x + width, y + height],
  [x, y + height],
];

/** Whether a path goes through a point. */
const passes = (commands: readonly Command[], x: number, y: number): boolean =>
  commands.some((c) => 'x' in c && 'y' in c && Math.abs(c.x - x) < ON && Math.abs(c.y - y) < ON);

/** Whether the path goes through all four corners of its bounds. */
const fillsCorners = (commands: readonly Command[], bounds: Rect): boolean =>
  cornersOf(bounds).every(([x, y]) => passes(commands, x, y));
