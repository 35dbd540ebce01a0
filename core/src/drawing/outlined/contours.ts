import { SVGPathData } from 'svg-pathdata';

/** Where something is, px downwards. */
export interface Bounds {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

export const heightOf = ({ top, bottom }: Bounds): number => bottom - top;
export const widthOf = ({ left, right }: Bounds): number => right - left;

/** Exporters round points to this, px: to 64ths of a point, or to two decimals. */
export const ROUNDING = 0.026;

/** A closed line of a path: where it is, px, and what its shape is like whatever its size. */
export interface Contour extends Bounds {
  readonly shape: Shape;
  readonly curves: readonly Curve[];
}

/**
 * What is the same for a closed line wherever it stands and however large it is. All of it follows from integrals over
 * the area (Green's theorem), so that raising the degree of curves or cutting them changes nothing, and rounding of points
 * little.
 */
export interface Shape {
  /** Logarithm of width by height. */
  readonly aspect: number;
  /** The share of its box that it covers. */
  readonly cover: number;
  /** The centre of its area from the middle of its box, in widths and heights, upwards. */
  readonly centreX: number;
  readonly centreY: number;
  /** How far the area spreads about that centre: second moments by its area, in squared widths and heights. */
  readonly spreadX: number;
  readonly spreadY: number;
  readonly spreadXY: number;
}

export const SHAPE_KEYS = [
  'aspect',
  'cover',
  'centreX',
  'centreY',
  'spreadX',
  'spreadY',
  'spreadXY',
] as const satisfies readonly (keyof Shape)[];

/** A straight line or a cubic by its points. */
export type Curve = readonly number[];

/** Nodes and weights of Gauss–Legendre integration on 0 to 1 with 6 nodes: exact to degree 11, which cubics need. */
const NODES = [
  [0.033765242898424, 0.0856622461895852],
  [0.169395306766868, 0.180380786524069],
  [0.380690406958402, 0.2339569672863455],
  [0.619309593041598, 0.2339569672863455],
  [0.830604693233132, 0.180380786524069],
  [0.966234757101576, 0.0856622461895852],
] as const;
/** With 2 nodes: exact to degree 3, which straight lines need. */
const LINE_NODES = [
  [0.211324865405187, 0.5],
  [0.788675134594813, 0.5],
] as const;

/** Where a cubic may turn along one axis, as shares of its length. */
function turns(a: number, b: number, c: number, d: number): number[] {
  const [p, q, r] = [3 * (-a + 3 * b - 3 * c + d), 6 * (a - 2 * b + c), 3 * (b - a)];
  if (Math.abs(p) < 1e-12) return Math.abs(q) < 1e-12 ? [] : [-r / q];
  const root = q * q - 4 * p * r;
  if (root < 0) return [];
  const s = Math.sqrt(root);
  return [(-q + s) / (2 * p), (-q - s) / (2 * p)];
}

/** The value of a cubic along one axis at a share of its length. */
function cubicAt(a: number, b: number, c: number, d: number, t: number): number {
  const u = 1 - t;
  return u * u * u * a + 3 * u * u * t * b + 3 * u * t * t * c + t * t * t * d;
}

/** How fast it changes there. */
function cubicSlope(a: number, b: number, c: number, d: number, t: number): number {
  const u = 1 - t;
  return 3 * (u * u * (b - a) + 2 * u * t * (c - b) + t * t * (d - c));
}

type Points = [number, number, number, number, number, number, number, number];
/** The bounds of curves, px. */
export function boundsOf(curves: readonly Curve[]): Bounds {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const c of curves) {
    const [x0, y0, x1, y1, x2, y2, x3, y3] = c as Points;
    const [x, y] = c.length === 4 ? [x1, y1] : [x3, y3];
    left = Math.min(left, x0, x);
    right = Math.max(right, x0, x);
    top = Math.min(top, y0, y);
    bottom = Math.max(bottom, y0, y);
    if (c.length === 4) continue;
    // Only a curve whose handles reach out of its ends' box may do so itself.
    if (Math.min(x1, x2) < left || Math.max(x1, x2) > right)
      for (const t of turns(x0, x1, x2, x3))
        if (t > 0 && t < 1) {
          const at = cubicAt(x0, x1, x2, x3, t);
          left = Math.min(left, at);
          right = Math.max(right, at);
        }
    if (Math.min(y1, y2) < top || Math.max(y1, y2) > bottom)
      for (const t of turns(y0, y1, y2, y3))
        if (t > 0 && t < 1) {
          const at = cubicAt(y0, y1, y2, y3, t);
          top = Math.min(top, at);
          bottom = Math.max(bottom, at);
        }
  }
  return { left, top, right, bottom };
}

/** The shape of a closed line; undefined where it covers nothing. Points count down the page. */
function shapeOf(curves: readonly Curve[], box: Bounds): Shape | undefined {
  const [w, h] = [box.right - box.left, box.bottom - box.top];
  if (!(w > 0 && h > 0)) return undefined;
  const [mx, my] = [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
  let [area, ax, ay, xx, yy, xy] = [0, 0, 0, 0, 0, 0];
  for (const c of curves) {
    const [x0, y0, x1, y1, x2, y2, x3, y3] = c as Points;
    const isLine = c.length === 4;
    for (const [t, weight] of isLine ? LINE_NODES : NODES) {
      const px = isLine ? x0 + (x1 - x0) * t : cubicAt(x0, x1, x2, x3, t);
      const py = isLine ? y0 + (y1 - y0) * t : cubicAt(y0, y1, y2, y3, t);
      const slope = isLine ? y1 - y0 : cubicSlope(y0, y1, y2, y3, t);
      // In widths and heights of its box, about its middle, upwards.
      const x = (px - mx) / w;
      const y = (my - py) / h;
      const dy = (-slope / h) * weight;
      area += x * dy;
      ax += ((x * x) / 2) * dy;
      ay += x * y * dy;
      xx += ((x * x * x) / 3) * dy;
      yy += x * y * y * dy;
      xy += ((x * x) / 2) * y * dy;
    }
  }
  if (Math.abs(area) < 1e-6) return undefined;
  const [centreX, centreY] = [ax / area, ay / area];
  return {
    aspect: Math.log(w / h),
    cover: Math.abs(area),
    centreX,
    centreY,
    spreadX: xx / area - centreX * centreX,
    spreadY: yy / area - centreY * centreY,
    spreadXY: xy / area - centreX * centreY,
  };
}

/** Path data of a closed line, moved by so many px. */
export const pathOf = ({ curves }: Pick<Contour, 'curves'>, dx = 0, dy = 0): string => {
  // Coordinates take turns: x, y, x, y.
  const n = (v: number, i: number) => String(Math.round((v + (i % 2 === 0 ? dx : dy)) * 1e4) / 1e4);
  const [first] = curves;
  let d = `M${n(first?.[0] ?? 0, 0)} ${n(first?.[1] ?? 0, 1)}`;
  for (const c of curves) {
    const rest = c.slice(2).map(n).join(' ');
    d += `${c.length === 4 ? 'L' : 'C'}${rest}`;
  }
  return `${d}Z`;
};

/** Collects the lines of a path that is drawn point by point. */
export class ContourPen {
  /** Each line of the path from where it was begun to where the next was. */
  readonly lines: Curve[][] = [];
  #curves: Curve[] = [];
  #x = 0;
  #y = 0;
  #startX = 0;
  #startY = 0;

  moveTo(x: number, y: number): void {
    this.end();
    [this.#x, this.#y, this.#startX, this.#startY] = [x, y, x, y];
  }

  lineTo(x: number, y: number): void {
    if (x !== this.#x || y !== this.#y) this.#curves.push([this.#x, this.#y, x, y]);
    [this.#x, this.#y] = [x, y];
  }

  quadTo(x1: number, y1: number, x: number, y: number): void {
    const [x0, y0] = [this.#x, this.#y];
    const towards = (from: number, to: number) => from + (2 / 3) * (to - from);
    this.curveTo(towards(x0, x1), towards(y0, y1), towards(x, x1), towards(y, y1), x, y);
  }

  curveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void {
    this.#curves.push([this.#x, this.#y, x1, y1, x2, y2, x, y]);
    [this.#x, this.#y] = [x, y];
  }

  close(): void {
    this.end();
    [this.#x, this.#y] = [this.#startX, this.#startY];
  }

  end(): void {
    if (this.#curves.length > 0) this.lines.push(this.#curves);
    this.#curves = [];
  }
}

/** Where the points of a path come to stand, along each axis. */
export interface Place {
  readonly x: (x: number, y: number) => number;
  readonly y: (x: number, y: number) => number;
}

const AS_IT_IS: Place = { x: (x) => x, y: (_, y) => y };

/** The lines of a path in absolute commands without level, upright and smooth shorthands, with its points placed. */
export function linesOfCommands(commands: SVGPathData['commands'], { x, y }: Place = AS_IT_IS): Curve[][] {
  const pen = new ContourPen();
  const plain = commands.some((c) => c.type === SVGPathData.ARC)
    ? new SVGPathData(commands.map((c) => ({ ...c }))).aToC().commands
    : commands;
  for (const c of plain) {
    if (c.type === SVGPathData.CLOSE_PATH) pen.close();
    else if (c.type === SVGPathData.MOVE_TO) pen.moveTo(x(c.x, c.y), y(c.x, c.y));
    else if (c.type === SVGPathData.LINE_TO) pen.lineTo(x(c.x, c.y), y(c.x, c.y));
    else if (c.type === SVGPathData.QUAD_TO)
      pen.quadTo(x(c.x1, c.y1), y(c.x1, c.y1), x(c.x, c.y), y(c.x, c.y));
    else if (c.type === SVGPathData.CURVE_TO)
      pen.curveTo(x(c.x1, c.y1), y(c.x1, c.y1), x(c.x2, c.y2), y(c.x2, c.y2), x(c.x, c.y), y(c.x, c.y));
  }
  pen.end();
  return pen.lines;
}

/** The closed lines of some lines; open ones are closed, as filling does (SVG 2 §13.4). */
export function closed(lines: readonly (readonly Curve[])[]): Contour[] {
  return lines.flatMap((line) => {
    const [first, last] = [line[0] as Curve, line.at(-1) as Curve];
    const [x0, y0] = first as Points;
    const [x, y] = [last.at(-2) as number, last.at(-1) as number];
    const isOpen = Math.abs(x - x0) > 1e-9 || Math.abs(y - y0) > 1e-9;
    const curves = isOpen ? [...line, [x, y, x0, y0]] : line;
    const box = boundsOf(curves);
    const shape = shapeOf(curves, box);
    return shape ? [{ ...box, shape, curves }] : [];
  });
}

/** The closed lines of path data. Throws a SyntaxError for malformed path data. */
export const contoursOf = (d: string): Contour[] =>
  closed(linesOfCommands(new SVGPathData(d).toAbs().normalizeHVZ(false, true, true).normalizeST().commands));
