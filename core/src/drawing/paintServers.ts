import {
  applyToPoint,
  compose,
  fromDefinition,
  fromTransformAttribute,
  type Matrix,
} from 'transformation-matrix';
import type { Fill, GradientStop, Rect } from '../model/index.js';
import { normalColour } from './colour.js';
import { scaleOf } from './outline.js';
import { cascade, length, type Declarations, type StyleSheet } from './styles.js';
import { elementsOf, type XmlElement } from './xml.js';

/** The id in `url(#id)`, or undefined. */
export const urlId = (value: string | undefined): string | undefined =>
  /^url\(\s*['"]?#([^'")]+)['"]?\s*\)/.exec(value ?? '')?.[1];

/** The target of a `use`, an image or a gradient: `href` with or without the old prefix. */
export const hrefOf = (el: XmlElement): string | undefined => el.attributes['href'];

/** The matrix of a transform attribute; throws for a malformed one. */
export const parseTransform = (text: string): Matrix => compose(fromDefinition(fromTransformAttribute(text)));

const numberOr = (text: string | undefined, fallback: number): number => length(text, 1) ?? fallback;

/** What a gradient is looked up and placed by. */
export interface GradientContext {
  readonly find: (id: string) => XmlElement | undefined;
  readonly sheet: StyleSheet;
  readonly style: Declarations;
  /** The shape's outer bounds, frame px. */
  readonly box: Rect;
  /** From the shape's own coordinates to the frame. */
  readonly matrix: Matrix;
  readonly opacity: number;
}

/** A gradient and those that it takes attributes and stops from, nearest first (SVG 2 §14.2.2.1). */
function chainOf(gradient: XmlElement, find: GradientContext['find']): XmlElement[] {
  const chain = [gradient];
  for (let next = find(hrefOf(gradient)?.replace(/^#/, '') ?? ''); next && chain.length < 16;) {
    if (chain.includes(next) || !next.name.endsWith('Gradient')) break;
    chain.push(next);
    next = find(hrefOf(next)?.replace(/^#/, '') ?? '');
  }
  return chain;
}

function stopsOf(
  gradient: XmlElement,
  { sheet, style: inherited, opacity }: GradientContext,
): GradientStop[] {
  return elementsOf(gradient)
    .filter((el) => el.name === 'stop')
    .map((el) => {
      const style = cascade(inherited, sheet.own(el));
      const named = style['stop-color'] ?? '#000000';
      const colour = normalColour(
        named === 'currentColor' ? (style['color'] ?? '#000000') : named,
        numberOr(style['stop-opacity'], 1) * opacity,
      );
      return {
        at: Math.min(1, Math.max(0, numberOr(el.attributes['offset'], 0))),
        colour: colour ?? 'transparent',
      };
    });
}

const rounded = (n: number): number => Math.round(n * 1e4) / 1e4;

/**
 * A gradient as a CSS fill (CSS Images 3 §3): its ends are placed in the shape's box, so that stops may lie beyond 0 and
 * 1. A focal point and turned ellipses are left out.
 */
export function gradientFill(gradient: XmlElement, context: GradientContext): Fill | undefined {
  const chain = chainOf(gradient, context.find);
  const withStops = chain.find((g) => elementsOf(g).some((el) => el.name === 'stop'));
  const stops = withStops ? stopsOf(withStops, context) : [];
  const [first] = stops;
  if (!first) return undefined;
  if (stops.every((s) => s.colour === first.colour))
    return first.colour === 'transparent' ? undefined : { kind: 'solid', colour: first.colour };
  const attribute = (name: string) => chain.find((g) => g.attributes[name] !== undefined)?.attributes[name];
  const { box } = context;
  const ownUnits = attribute('gradientUnits') === 'userSpaceOnUse';
  let matrix: Matrix = ownUnits
    ? context.matrix
    : { a: box.width, b: 0, c: 0, d: box.height, e: box.x, f: box.y };
  try {
    const transform = attribute('gradientTransform');
    if (transform) matrix = compose(matrix, parseTransform(transform));
  } catch {
    // A gradient whose transform is malformed is drawn without it.
  }
  const at = (name: string, fallback: number) => numberOr(attribute(name), fallback);
  const place = (x: number, y: number) => applyToPoint(matrix, { x, y });
  if (gradient.name === 'radialGradient') {
    const middle = place(at('cx', 0.5), at('cy', 0.5));
    const r = at('r', 0.5) * scaleOf(matrix);
    const flat = ownUnits ? r : at('r', 0.5) * Math.hypot(matrix.a, matrix.b);
    const tall = ownUnits ? r : at('r', 0.5) * Math.hypot(matrix.c, matrix.d);
    if (![middle.x, middle.y, flat, tall].every(Number.isFinite) || box.width <= 0 || box.height <= 0)
      return { kind: 'solid', colour: first.colour };
    return {
      kind: 'radial',
      cx: rounded((middle.x - box.x) / box.width),
      cy: rounded((middle.y - box.y) / box.height),
      rx: rounded(flat / box.width),
      ry: rounded(tall / box.height),
      stops,
    };
  }
  const [from, to] = [place(at('x1', 0), at('y1', 0)), place(at('x2', 1), at('y2', 0))];
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const long = Math.hypot(dx, dy);
  if (!(long > 1e-6)) return { kind: 'solid', colour: stops.at(-1)?.colour ?? first.colour };
  const [ux, uy] = [dx / long, dy / long];
  // The CSS line runs through the middle and is as long as the box is in its direction.
  const line = Math.abs(box.width * ux) + Math.abs(box.height * uy) || 1;
  const share = (p: { x: number; y: number }) =>
    ((p.x - box.x - box.width / 2) * ux + (p.y - box.y - box.height / 2) * uy) / line + 0.5;
  const [start, end] = [share(from), share(to)];
  const angle = (Math.atan2(ux, -uy) * 180) / Math.PI;
  return {
    kind: 'linear',
    angle: Math.round(((angle + 360) % 360) * 10) / 10,
    stops: stops.map((s) => ({ ...s, at: rounded(start + s.at * (end - start)) })),
  };
}
