import { overlap, type CornerRadii, type Fill, type Paint, type Rect } from '../model/index.js';
import type { Outline } from './outline.js';
import { hrefOf } from './paintServers.js';
import type { Declarations } from './styles.js';
import type { XmlElement } from './xml.js';

/** The overlap of two boxes; empty or negative where they do not meet. */
export const intersect = (a: Rect, b: Rect): Rect => {
  const [width, height] = overlap(a, b);
  return { x: Math.max(a.x, b.x), y: Math.max(a.y, b.y), width, height };
};

export const roundIfCircle = (radius: Paint['radius'] | undefined, box: Rect): Paint['radius'] | undefined =>
  typeof radius === 'number' &&
  radius >= Math.min(box.width, box.height) / 2 - 0.5 &&
  Math.abs(box.width - box.height) < 1
    ? 'round'
    : radius;

/** The radius of the outer edge of a stroke of which so much lies outside the line, px; none for square corners. */
function outerRadius(radius: number | CornerRadii, outside: number): number | CornerRadii | undefined {
  const grown = (r: number) => (r > 0 ? r + outside : 0);
  if (typeof radius === 'number') return radius > 0 ? grown(radius) : undefined;
  const [tl, tr, br, bl] = radius;
  return [grown(tl), grown(tr), grown(br), grown(bl)];
}

/** The outer bounds with the stroke; a plain line has it only across. */
export function strokedBox(line: Outline, stroke: number): Rect {
  const { x, y, width, height } = line.bounds;
  const level = line.plain?.kind === 'line' && width >= height;
  const upright = line.plain?.kind === 'line' && !level;
  const [px, py] = [level ? 0 : stroke / 2, upright ? 0 : stroke / 2];
  return { x: x - px, y: y - py, width: width + 2 * px, height: height + 2 * py };
}

export function plainPaint(
  plain: NonNullable<Outline['plain']>,
  fill: Fill | undefined,
  stroke: string | undefined,
  strokeWidth: number,
  style: Declarations,
  opacity: number,
): Paint {
  const dashed = style['stroke-dasharray'] !== undefined && style['stroke-dasharray'] !== 'none';
  const faded = opacity < 1 ? { opacity } : {};
  if (plain.kind === 'line')
    return { ...(stroke && { fill: { kind: 'solid' as const, colour: stroke } }), ...faded };
  const radius = plain.kind === 'ellipse' ? ('round' as const) : outerRadius(plain.radius, strokeWidth / 2);
  return {
    ...(fill && { fill }),
    ...(stroke &&
      strokeWidth > 0 && { stroke: { colour: stroke, width: strokeWidth, ...(dashed && { dashed }) } }),
    ...(radius !== undefined && { radius }),
    ...faded,
  };
}

export function firstImage(
  el: XmlElement,
  find: (id: string) => XmlElement | undefined,
  depth = 0,
): XmlElement | undefined {
  if (depth > 8) return undefined;
  for (const child of el.children) {
    if (typeof child === 'string') continue;
    if (child.name === 'image') return child;
    const target = child.name === 'use' ? find(hrefOf(child)?.replace(/^#/, '') ?? '') : child;
    const found = target?.name === 'image' ? target : target && firstImage(target, find, depth + 1);
    if (found) return found;
  }
  return undefined;
}
