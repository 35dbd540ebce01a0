import { SVGPathData } from 'svg-pathdata';
import { applyToPoint, type Matrix } from 'transformation-matrix';
import { union, type CornerRadii, type Rect } from '../model/index.js';
import { boundsOf, closed, linesOfCommands, type Curve } from './outlined/contours.js';
import { boxRadius, fittedRadius } from './rectangles.js';
import { length } from './styles.js';
import type { XmlElement } from './xml.js';

/** A shape in the frame's coordinates: as path data, and as a box when it is a plain rectangle or ellipse. */
export interface Outline {
  readonly d: string;
  readonly bounds: Rect;
  /** The same path as curves, line by line. */
  readonly lines: readonly (readonly Curve[])[];
  readonly plain?: { readonly kind: 'rect' | 'ellipse' | 'line'; readonly radius: number | CornerRadii };
}

/** Whether a transform keeps level lines level and upright lines upright without turning them over. */
export const isUpright = (m: Matrix): boolean =>
  Math.abs(m.b) < 1e-6 && Math.abs(m.c) < 1e-6 && m.a > 0 && m.d > 0;

/** By how much a transform turns, in degrees clockwise, rounded to tenths. */
export const angleOf = (m: Matrix): number => Math.round((Math.atan2(m.b, m.a) * 1800) / Math.PI) / 10 + 0;

/** By how much a transform enlarges, as one number. */
export const scaleOf = (m: Matrix): number => Math.sqrt(Math.abs(m.a * m.d - m.b * m.c));

const num = (element: XmlElement, name: string, of: number): number =>
  length(element.attributes[name], of) ?? 0;

function rectPath(x: number, y: number, w: number, h: number, rx: number, ry: number): string {
  if (rx <= 0 || ry <= 0) return `M${x} ${y}h${w}v${h}h${-w}z`;
  const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
  return `M${x + rx} ${y}h${w - 2 * rx}${arc(rx, ry)}v${h - 2 * ry}${arc(-rx, ry)}h${2 * rx - w}${arc(-rx, -ry)}v${2 * ry - h}${arc(rx, -ry)}z`;
}

const ellipsePath = (cx: number, cy: number, rx: number, ry: number): string =>
  `M${cx - rx} ${cy}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0z`;

/** The path data of a shape element in its own coordinates; undefined when it draws nothing. */
function ownPath(
  el: XmlElement,
  size: { width: number; height: number },
): { d: string; radius?: number } | undefined {
  const { width: W, height: H } = size;
  const diagonal = Math.hypot(W, H) / Math.SQRT2;
  switch (el.name) {
    case 'rect': {
      const [w, h] = [num(el, 'width', W), num(el, 'height', H)];
      if (w <= 0 || h <= 0) return undefined;
      const rx = length(el.attributes['rx'], W) ?? length(el.attributes['ry'], H) ?? 0;
      const ry = length(el.attributes['ry'], H) ?? rx;
      const [crx, cry] = [Math.min(rx, w / 2), Math.min(ry, h / 2)];
      return { d: rectPath(num(el, 'x', W), num(el, 'y', H), w, h, crx, cry), radius: crx };
    }
    case 'circle': {
      const r = num(el, 'r', diagonal);
      return r > 0 ? { d: ellipsePath(num(el, 'cx', W), num(el, 'cy', H), r, r) } : undefined;
    }
    case 'ellipse': {
      const [rx, ry] = [num(el, 'rx', W), num(el, 'ry', H)];
      return rx > 0 && ry > 0 ? { d: ellipsePath(num(el, 'cx', W), num(el, 'cy', H), rx, ry) } : undefined;
    }
    case 'line':
      return { d: `M${num(el, 'x1', W)} ${num(el, 'y1', H)}L${num(el, 'x2', W)} ${num(el, 'y2', H)}` };
    case 'polyline':
    case 'polygon': {
      const points = (el.attributes['points'] ?? '').match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? [];
      if (points.length < 4) return undefined;
      return { d: `M${points.slice(0, points.length & ~1).join(' ')}${el.name === 'polygon' ? 'z' : ''}` };
    }
    case 'path':
      return el.attributes['d'] ? { d: el.attributes['d'] } : undefined;
    default:
      return undefined;
  }
}

/** Path commands without moves from which nothing is drawn, which some exporters write after each closed line. */
const withoutEmpty = (commands: SVGPathData['commands']): SVGPathData['commands'] =>
  commands.filter((c, i) => {
    const next = commands[i + 1];
    return c.type !== SVGPathData.MOVE_TO || (next !== undefined && next.type !== SVGPathData.MOVE_TO);
  });

const isCircle = (radius: number | CornerRadii, { width, height }: Rect): boolean =>
  typeof radius === 'number' && Math.abs(width - height) < 0.1 && Math.abs(2 * radius - width) < 0.2;

/** Shorter straight paths are strokes of an icon, px. */
const LINE = 40;

/** Whether a path is one straight line, level or upright, as converters write lines. */
const isLongLine = (commands: readonly unknown[], { width, height }: Rect): boolean =>
  commands.length === 2 && Math.min(width, height) < 0.01 && Math.max(width, height) >= LINE;

/** The bounds of a path; undefined where it is nothing or endless. */
function finiteBounds(lines: readonly (readonly Curve[])[]): Rect | undefined {
  const own = lines.map(boundsOf);
  const [left, top] = [Math.min(...own.map((b) => b.left)), Math.min(...own.map((b) => b.top))];
  const [right, bottom] = [Math.max(...own.map((b) => b.right)), Math.max(...own.map((b) => b.bottom))];
  if (![left, top, right, bottom].every((n) => Number.isFinite(n) && Math.abs(n) < 1e7)) return undefined;
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** Path data that was parsed before: glyphs are used thousands of times. */
const known = new Map<string, SVGPathData['commands']>();
/** So many paths, no longer than this, are kept. */
const KEPT = { paths: 4_000, length: 20_000 };

const PLAIN = new Set<number>([
  SVGPathData.MOVE_TO,
  SVGPathData.LINE_TO,
  SVGPathData.CURVE_TO,
  SVGPathData.QUAD_TO,
  SVGPathData.ARC,
  SVGPathData.CLOSE_PATH,
]);

/** The commands of path data: absolute, without shorthands. Throws a SyntaxError for malformed data. */
function parsed(d: string): SVGPathData['commands'] {
  const found = known.get(d);
  if (found) return found;
  const data = new SVGPathData(d);
  // Most paths of exporters are absolute and without shorthands as they are.
  const isPlain = data.commands.every((c) => PLAIN.has(c.type) && (!('relative' in c) || !c.relative));
  const commands = isPlain ? data.commands : data.toAbs().normalizeST().commands;
  const moved = withoutEmpty(commands);
  const result = isPlain ? moved : new SVGPathData(moved).normalizeHVZ(false, true, true).commands;
  if (known.size >= KEPT.paths) known.clear();
  if (d.length <= KEPT.length) known.set(d, result);
  return result;
}

/** A path under a transform. Its text is written when it is asked for: most words that are outlines never need it. */
class PlacedPath {
  readonly lines: readonly (readonly Curve[])[];
  readonly #commands: SVGPathData['commands'];
  readonly #matrix: Matrix;
  #placed: SVGPathData | undefined;
  #d: string | undefined;

  constructor(commands: SVGPathData['commands'], matrix: Matrix) {
    this.#commands = commands;
    this.#matrix = matrix;
    const { a, b, c, d, e, f } = matrix;
    this.lines = linesOfCommands(commands, {
      x: (x, y) => rounded(a * x + c * y + e),
      y: (x, y) => rounded(b * x + d * y + f),
    });
  }

  /** Its commands, absolute and rounded. */
  get placed(): SVGPathData {
    if (!this.#placed) {
      const { a, b, c, d, e, f } = this.#matrix;
      this.#placed = new SVGPathData(this.#commands.map((one) => ({ ...one })));
      this.#placed.matrix(a, b, c, d, e, f).round(PRECISION);
    }
    return this.#placed;
  }

  get d(): string {
    return (this.#d ??= this.placed.encode());
  }
}

/** Coordinates are kept to so many parts of a px. */
const PRECISION = 1e4;
const rounded = (n: number): number => Math.round(n * PRECISION) / PRECISION;

/** The share of its bounds that an ellipse covers is π/4; this leaves room for corners that are cut. */
const LEAST_COVER = 0.72;

type Plain = NonNullable<Outline['plain']>;

/** What a shape is where it is no more than a box, an ellipse or a line. */
function plainOf(
  el: XmlElement,
  matrix: Matrix,
  radius: number | undefined,
  path: PlacedPath,
  bounds: Rect,
): Plain | undefined {
  // A path is told by where its points end up, whichever way they were turned over.
  if (el.name !== 'path' && !isUpright(matrix)) return undefined;
  if (el.name === 'rect') return { kind: 'rect', radius: (radius ?? 0) * scaleOf(matrix) };
  if (el.name === 'circle' || el.name === 'ellipse') return { kind: 'ellipse', radius: 0 };
  const line: Plain = { kind: 'line', radius: 0 };
  if (el.name === 'line' && (bounds.width < 0.01 || bounds.height < 0.01)) return line;
  if (path.lines.length !== 1) return undefined;
  // Whatever its corners, a box covers at least what an ellipse does of its bounds: letters seldom do.
  const [shape] = closed(path.lines);
  if (shape && shape.shape.cover < LEAST_COVER) return undefined;
  const { commands } = path.placed;
  const fitted = boxRadius(commands, bounds) ?? fittedRadius(commands, bounds);
  if (fitted !== undefined)
    return isCircle(fitted, bounds) ? { kind: 'ellipse', radius: 0 } : { kind: 'rect', radius: fitted };
  return isLongLine(commands, bounds) ? line : undefined;
}

/**
 * The outline of a shape element under `matrix`, in frame px without its stroke. Undefined when it draws nothing;
 * throws a SyntaxError for malformed path data.
 */
export function outline(
  el: XmlElement,
  matrix: Matrix,
  size: { width: number; height: number },
): Outline | undefined {
  const own = ownPath(el, size);
  if (!own) return undefined;
  const commands = parsed(own.d);
  if (commands.length === 0) return undefined;
  const path = new PlacedPath(commands, matrix);
  const bounds = finiteBounds(path.lines);
  if (!bounds) return undefined;
  const plain = plainOf(el, matrix, own.radius, path, bounds);
  return {
    get d() {
      return path.d;
    },
    bounds,
    lines: path.lines,
    ...(plain && { plain }),
  };
}

/** The bounds of a box under a transform. */
export function placedBox(box: Rect, m: Matrix): Rect {
  const corners = [
    [box.x, box.y],
    [box.x + box.width, box.y],
    [box.x, box.y + box.height],
    [box.x + box.width, box.y + box.height],
  ] as const;
  return union(corners.map(([x, y]) => ({ ...applyToPoint(m, { x, y }), width: 0, height: 0 })));
}
