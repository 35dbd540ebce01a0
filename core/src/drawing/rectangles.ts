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

/** Points of an outline may be this far from the box that it stands for, px, and this much more for each px of radius. */
const STRAY = 0.12;
const STRAY_ROUND = 0.012;
/** So many points of each curve are looked at. */
const STEPS = 6;

interface Point {
  readonly x: number;
  readonly y: number;
}

/** Points along one closed line in absolute commands; undefined where there are several, or arcs. */
function pointsAlong(commands: readonly Command[]): Point[] | undefined {
  const points: Point[] = [];
  let [x, y] = [0, 0];
  for (const [i, c] of commands.entries()) {
    if (c.type === SVGPathData.CLOSE_PATH) continue;
    if (c.type === SVGPathData.MOVE_TO && i > 0) return undefined;
    if (c.type === SVGPathData.MOVE_TO) points.push({ x: c.x, y: c.y });
    else if (c.type === SVGPathData.LINE_TO)
      for (let n = 1; n <= STEPS; n++)
        points.push({ x: x + ((c.x - x) * n) / STEPS, y: y + ((c.y - y) * n) / STEPS });
    else if (c.type === SVGPathData.CURVE_TO || c.type === SVGPathData.QUAD_TO)
      for (let n = 1; n <= STEPS; n++) points.push(onCurve({ x, y }, c, n / STEPS));
    else return undefined;
    [x, y] = [c.x, c.y];
  }
  // What is filled is closed by a straight line.
  const [first] = points;
  for (let n = 1; first && n < STEPS; n++)
    points.push({ x: x + ((first.x - x) * n) / STEPS, y: y + ((first.y - y) * n) / STEPS });
  return points;
}

function onCurve(
  from: Point,
  c: Extract<Command, { type: typeof SVGPathData.CURVE_TO | typeof SVGPathData.QUAD_TO }>,
  t: number,
): Point {
  const u = 1 - t;
  if (c.type === SVGPathData.QUAD_TO) {
    const of = (a: number, b: number, d: number) => u * u * a + 2 * u * t * b + t * t * d;
    return { x: of(from.x, c.x1, c.x), y: of(from.y, c.y1, c.y) };
  }
  const of = (a: number, b: number, d: number, e: number) =>
    u * u * u * a + 3 * u * u * t * b + 3 * u * t * t * d + t * t * t * e;
  return { x: of(from.x, c.x1, c.x2, c.x), y: of(from.y, c.y1, c.y2, c.y) };
}

/** The radius of a corner whose middle an outline passes at these points, seen from the corner, px. */
function radiusAt(points: readonly Point[]): number {
  let least = Infinity;
  for (const [i, p] of points.entries()) {
    const before = points[(i + points.length - 1) % points.length] as Point;
    const [a, b] = [before.x - before.y, p.x - p.y];
    if (a * b > 0) continue;
    // Where the outline crosses the corner's bisector.
    const share = a === b ? 0 : a / (a - b);
    least = Math.min(least, before.x + (p.x - before.x) * share);
  }
  return least / (1 - Math.SQRT1_2);
}

/**
 * Whether a path, in absolute commands, is a plain box whose corners may be cut into any number of curves, as converters
 * write them. Gives the corners' radius, px, or the four where they differ; undefined for any other path.
 */
export function fittedRadius(commands: readonly Command[], bounds: Rect): number | CornerRadii | undefined {
  const points = pointsAlong(commands);
  if (!points || points.length < 4 || bounds.width <= 0 || bounds.height <= 0) return undefined;
  const [half, x1, y1] = [
    Math.min(bounds.width, bounds.height) / 2,
    bounds.x + bounds.width,
    bounds.y + bounds.height,
  ];
  const fromCorners = [
    points.map(({ x, y }) => ({ x: x - bounds.x, y: y - bounds.y })),
    points.map(({ x, y }) => ({ x: x1 - x, y: y - bounds.y })),
    points.map(({ x, y }) => ({ x: x1 - x, y: y1 - y })),
    points.map(({ x, y }) => ({ x: x - bounds.x, y: y1 - y })),
  ];
  const radii = fromCorners.map((seen) => Math.min(half, Math.max(0, radiusAt(seen))));
  if (!radii.every(Number.isFinite)) return undefined;
  const isOn = fromCorners.every((seen, i) => {
    const r = radii[i] as number;
    const stray = STRAY + STRAY_ROUND * r;
    return seen.every(({ x, y }) =>
      x < r && y < r ? Math.abs(Math.hypot(r - x, r - y) - r) < stray : x >= -stray && y >= -stray,
    );
  });
  // Between the corners it runs along the edges.
  const runs = points.every(({ x, y }) => {
    const near = Math.min(x - bounds.x, x1 - x, y - bounds.y, y1 - y);
    return near < STRAY || fromCorners.some((_, i) => isInCorner({ x, y }, i, radii[i] as number, bounds));
  });
  if (!isOn || !runs) return undefined;
  const [tl = 0, tr = 0, br = 0, bl = 0] = radii.map((r) => (r < 2 * STRAY ? 0 : Math.round(r * 20) / 20));
  return [tr, br, bl].every((r) => Math.abs(r - tl) < UNEVEN / 2) ? tl : [tl, tr, br, bl];
}

function isInCorner({ x, y }: Point, corner: number, radius: number, box: Rect): boolean {
  const dx = corner === 0 || corner === 3 ? x - box.x : box.x + box.width - x;
  const dy = corner < 2 ? y - box.y : box.y + box.height - y;
  return dx <= radius && dy <= radius;
}
