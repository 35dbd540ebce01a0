import { SVGPathData } from 'svg-pathdata';
import type { Rect } from '../model/index.js';

type Command = SVGPathData['commands'][number];

/** Points nearer than this to an edge stand on it, px: exporters round. */
const ON = 0.06;
/** A rounded corner may be cut by this much more on one side than on the other. */
const UNEVEN = 1;

interface Corner {
  readonly dx: number;
  readonly dy: number;
}

/**
 * Whether a path, in absolute commands, is a plain box: a rectangle with square or evenly rounded corners that fills its
 * bounds. Gives the corners' radius, px; undefined for any other path. Exporters often write boxes so.
 */
export function boxRadius(commands: readonly Command[], bounds: Rect): number | undefined {
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
      corners.push({ dx, dy });
    }
    [x, y] = [c.x, c.y];
  }
  if (corners.length === 0) return turns >= 3 && fillsCorners(commands, bounds) ? 0 : undefined;
  const [first] = corners;
  if (corners.length !== 4 || !first) return undefined;
  const even = corners.every(
    ({ dx, dy }) => Math.abs(dx - first.dx) < UNEVEN && Math.abs(dy - first.dx) < UNEVEN,
  );
  return even ? first.dx : undefined;
}

/** Whether the path goes through all four corners of its bounds. */
function fillsCorners(commands: readonly Command[], b: Rect): boolean {
  const points = commands.flatMap((c) => ('x' in c && 'y' in c ? [[c.x, c.y] as const] : []));
  return [b.x, b.x + b.width].every((x) =>
    [b.y, b.y + b.height].every((y) =>
      points.some((p) => Math.abs(p[0] - x) < ON && Math.abs(p[1] - y) < ON),
    ),
  );
}
