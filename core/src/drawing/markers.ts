import { SVGPathData } from 'svg-pathdata';
import { compose, rotateDEG, scale, translate, type Matrix } from 'transformation-matrix';
import { length } from './styles.js';
import { parseViewBox, viewBoxMatrix } from './viewBox.js';
import type { XmlElement } from './xml.js';

/** A place on a path where a marker stands, with the path's direction there in degrees. */
export interface Vertex {
  readonly x: number;
  readonly y: number;
  readonly angle: number;
}

const degrees = (dx: number, dy: number): number => (Math.atan2(dy, dx) * 180) / Math.PI;

/**
 * The vertices of path data, with the direction that an `orient="auto"` marker has at each: the mean of the ways in and
 * out (SVG 2 §13.7.4). Curves count by their chords' ends.
 */
export function vertices(d: string): Vertex[] {
  const points: { x: number; y: number; inX: number; inY: number }[] = [];
  for (const c of new SVGPathData(d).toAbs().normalizeST().normalizeHVZ(true, true, true).commands) {
    if (!('x' in c) || !('y' in c)) continue;
    const last = points.at(-1) ?? { x: c.x, y: c.y };
    const [fromX, fromY] = 'x2' in c ? [c.x2, c.y2] : 'x1' in c ? [c.x1, c.y1] : [last.x, last.y];
    points.push({ x: c.x, y: c.y, inX: c.x - fromX, inY: c.y - fromY });
  }
  return points.map((p, i) => {
    const next = points[i + 1];
    const outgoing = next ? degrees(next.x - p.x, next.y - p.y) : undefined;
    const incoming = i > 0 ? degrees(p.inX, p.inY) : undefined;
    const turn =
      incoming !== undefined && outgoing !== undefined ? ((outgoing - incoming + 540) % 360) - 180 : 0;
    return { x: p.x, y: p.y, angle: incoming === undefined ? (outgoing ?? 0) : incoming + turn / 2 };
  });
}

/** The matrix from a marker's own coordinates to those of the path that it stands on (SVG 2 §13.7). */
export function markerMatrix(
  marker: XmlElement,
  at: Vertex,
  role: 'marker-start' | 'marker-mid' | 'marker-end',
  strokeWidth: number,
): Matrix {
  const size = (name: string, fallback: number) => length(marker.attributes[name]) ?? fallback;
  const [width, height] = [size('markerWidth', 3), size('markerHeight', 3)];
  const view = parseViewBox(marker.attributes['viewBox']);
  const fit = view ? viewBoxMatrix(view, width, height, marker.attributes['preserveAspectRatio']) : scale(1);
  const units = marker.attributes['markerUnits'] === 'userSpaceOnUse' ? 1 : strokeWidth;
  const orient = marker.attributes['orient'] ?? '0';
  const back = orient === 'auto-start-reverse' && role === 'marker-start' ? 180 : 0;
  const angle = orient.startsWith('auto') ? at.angle + back : Number.parseFloat(orient) || 0;
  const reference = {
    x: fit.a * size('refX', 0) + fit.e,
    y: fit.d * size('refY', 0) + fit.f,
  };
  return compose(
    translate(at.x, at.y),
    rotateDEG(angle),
    scale(units),
    translate(-reference.x, -reference.y),
    fit,
  );
}
