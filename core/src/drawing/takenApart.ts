import { SVGPathData } from 'svg-pathdata';
import { BoxIndex, contains, type Rect } from '../model/index.js';
import type { Outline } from './outline.js';
import { boundsOf, type Curve } from './outlined/contours.js';
import { boxRadius, fittedRadius } from './rectangles.js';

/** One of several boxes that a path draws. */
export interface Box {
  readonly bounds: Rect;
  readonly radius: NonNullable<Outline['plain']>['radius'];
  readonly line: readonly Curve[];
  /** The width of its border where only that is filled, px. */
  readonly border?: number;
}

/** What is no larger is an icon of bars and dots, px. */
const ICON = 48;
/** A border is as wide on all sides but for this, px. */
const EVEN = 0.3;

/** A closed line as commands. */
function commandsOf(line: readonly Curve[]): SVGPathData['commands'] {
  const [x = 0, y = 0] = line[0] ?? [];
  return [
    { type: SVGPathData.MOVE_TO, relative: false, x, y },
    ...line.map((c): SVGPathData['commands'][number] => {
      const [, , x1 = 0, y1 = 0, x2 = 0, y2 = 0, x3 = 0, y3 = 0] = c;
      return c.length === 4
        ? { type: SVGPathData.LINE_TO, relative: false, x: x1, y: y1 }
        : { type: SVGPathData.CURVE_TO, relative: false, x1, y1, x2, y2, x: x3, y: y3 };
    }),
    { type: SVGPathData.CLOSE_PATH },
  ];
}

function boxOf(line: readonly Curve[]): Box | undefined {
  const { left, top, right, bottom } = boundsOf(line);
  const bounds = { x: left, y: top, width: right - left, height: bottom - top };
  const commands = commandsOf(line);
  const radius = boxRadius(commands, bounds) ?? fittedRadius(commands, bounds);
  return radius === undefined ? undefined : { bounds, radius, line };
}

/** The width of the border that a box with a hole has; undefined where it is not as wide on all sides. */
function borderOf({ bounds: outer }: Box, { bounds: inner }: Box): number | undefined {
  const [left, top] = [inner.x - outer.x, inner.y - outer.y];
  const sides = [left, top, outer.width - inner.width - left, outer.height - inner.height - top];
  const width = sides.reduce((sum, s) => sum + s, 0) / 4;
  return width > 0 && sides.every((s) => Math.abs(s - width) < EVEN) ? width : undefined;
}

/**
 * The boxes that a filled path draws where it draws nothing else: converters write what is filled alike in one path, and a
 * border as a box with a hole. Undefined for any other path, and for icons.
 */
export function boxesIn({ lines, bounds }: Outline): Box[] | undefined {
  if (lines.length < 2 || Math.max(bounds.width, bounds.height) <= ICON) return undefined;
  const boxes: Box[] = [];
  for (const line of lines) {
    const box = boxOf(line);
    if (!box) return undefined;
    boxes.push(box);
  }
  const index = new BoxIndex(boxes.map((b) => b.bounds));
  const found: Box[] = [];
  const holes = new Set<Box>();
  for (const box of boxes) {
    if (holes.has(box)) continue;
    const inside = index
      .meeting(box.bounds)
      .map((i) => boxes[i] as Box)
      .filter((other) => other !== box && !holes.has(other) && contains(box.bounds, other.bounds, 0));
    const [hole] = inside;
    const border = hole && borderOf(box, hole);
    // A box with anything else in it is a picture of its own.
    if (inside.length > 1 || (hole && border === undefined)) return undefined;
    if (hole) holes.add(hole);
    found.push({ ...box, ...(border !== undefined && { border }) });
  }
  return found.filter((box) => !holes.has(box));
}
