import { decode } from 'fast-png';
import { toUint8Array } from 'js-base64';
import type { Fill, Paint, Rect } from '../model/index.js';

/** A box that was painted into a picture together with its shadow, as programs print what has effects. */
export interface Shadowed {
  readonly box: Rect;
  readonly paint: Paint;
}

/** The opacity of every pixel of a picture, 0–255. */
export interface Opacity {
  readonly width: number;
  readonly height: number;
  readonly at: (x: number, y: number) => number;
}

/** Larger pictures are not looked into, pixels. */
const MAX_PIXELS = 20_000_000;
/** From this on a pixel is opaque; under this it is clear. */
const OPAQUE = 252;
const CLEAR = 3;
/** The box takes so much of the picture at least, by each side, and leaves a margin on each for its shadow. */
const LEAST = 0.3;

/** Edges are at a whole px where that is within so many pixels of the picture. */
const EDGE = 1.6;

interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly channels: number;
  readonly data: ArrayLike<number>;
  readonly depth: number;
}

/** The pixels of a PNG in a data URI; undefined for other pictures. */
function pixelsOf(href: string | undefined): Pixels | undefined {
  const encoded = /^data:image\/png;base64,(.+)$/s.exec(href ?? '')?.[1];
  if (encoded === undefined) return undefined;
  try {
    const png = toUint8Array(encoded);
    const size = new DataView(png.buffer, png.byteOffset, png.byteLength);
    if (png.byteLength < 24 || size.getUint32(16) * size.getUint32(20) > MAX_PIXELS) return undefined;
    const decoded = decode(png);
    return decoded.depth === 8 && !decoded.palette ? decoded : undefined;
  } catch {
    // A picture that is damaged stays a picture.
    return undefined;
  }
}

/** How opaque a picture is: by its own alpha, or by the lightness of one that masks it. */
function opacityOf(own: Pixels, mask: Pixels | undefined): Opacity | undefined {
  const source = mask ?? own;
  const { width, height, channels, data } = source;
  const has = mask ? 0 : channels === 4 ? 3 : channels === 2 ? 1 : undefined;
  if (has === undefined) return undefined;
  return { width, height, at: (x, y) => data[(y * width + x) * channels + has] ?? 0 };
}

/** The opaque middle of a picture whose edges fade, pixels; undefined where there is none. */
export function opaqueBox({ width, height, at }: Opacity): Rect | undefined {
  const [cx, cy] = [width >> 1, height >> 1];
  if (at(cx, cy) < OPAQUE) return undefined;
  const reach = (of: (i: number) => number, from: number, to: number, step: number): number => {
    let i = from;
    while (i !== to && of(i + step) >= OPAQUE) i += step;
    return i;
  };
  const [x0, x1] = [reach((x) => at(x, cy), cx, 0, -1), reach((x) => at(x, cy), cx, width - 1, 1)];
  const [y0, y1] = [reach((y) => at(cx, y), cy, 0, -1), reach((y) => at(cx, y), cy, height - 1, 1)];
  const box = { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
  const fades = x0 > 0 && x1 < width - 1 && y0 > 0 && y1 < height - 1;
  return fades && box.width >= LEAST * width && box.height >= LEAST * height ? box : undefined;
}

/** The radius of a box's corners: how far along its bisector each is not opaque. */
function radiusOf({ at }: Opacity, box: Rect): number {
  const most = Math.min(box.width, box.height) / 2;
  let r = 0;
  while (r < most && at(box.x + r, box.y + r) < OPAQUE) r++;
  return r <= 1 ? 0 : r / (1 - Math.SQRT1_2);
}

/** The colour of a picture where it is the same all over a box. */
function colourIn(
  { width, channels, data }: Pixels,
  opacity: Opacity,
  box: Rect,
  pixels: Pixels,
): Fill | undefined {
  const [sx, sy] = [pixels.width / opacity.width, pixels.height / opacity.height];
  const points = [0.2, 0.5, 0.8].flatMap((v) => [0.2, 0.5, 0.8].map((u) => [u, v] as const));
  const found = new Set<string>();
  for (const [u, v] of points) {
    const x = Math.floor((box.x + u * box.width) * sx);
    const y = Math.floor((box.y + v * box.height) * sy);
    const place = (y * width + x) * channels;
    const rgb =
      channels >= 3 ? [0, 1, 2].map((k) => data[place + k] ?? 0) : Array<number>(3).fill(data[place] ?? 0);
    found.add(`#${rgb.map((c) => c.toString(16).padStart(2, '0')).join('')}`);
  }
  const [only] = found;
  return found.size === 1 && only !== undefined ? { kind: 'solid', colour: only } : undefined;
}

/**
 * The box that a picture shows, where it shows nothing but one plain box with a shadow around it. `place` is where the
 * picture stands, px; `mask` is a picture by whose lightness it is seen.
 */
export function shadowedBox(
  href: string | undefined,
  mask: string | undefined,
  place: Rect,
): Shadowed | undefined {
  const pixels = pixelsOf(href);
  const opacity = pixels && opacityOf(pixels, pixelsOf(mask));
  const box = opacity && opaqueBox(opacity);
  if (!box) return undefined;
  const fill = colourIn(pixels, opacity, box, pixels);
  if (!fill) return undefined;
  const [kx, ky] = [place.width / opacity.width, place.height / opacity.height];
  const [cx, cy] = [opacity.width >> 1, opacity.height >> 1];
  /** How far the shadow is seen beyond each edge, px. */
  const seen = (of: (i: number) => number, from: number, to: number, step: number): number => {
    let i = from;
    while (i !== to && of(i + step) > CLEAR) i += step;
    return Math.abs(i - from);
  };
  const left = seen((x) => opacity.at(x, cy), box.x, 0, -1) * kx;
  const right = seen((x) => opacity.at(x, cy), box.x + box.width - 1, opacity.width - 1, 1) * kx;
  const above = seen((y) => opacity.at(cx, y), box.y, 0, -1) * ky;
  const below = seen((y) => opacity.at(cx, y), box.y + box.height - 1, opacity.height - 1, 1) * ky;
  // Half of the shadow's own opacity is left at its edge.
  const edge = opacity.at(cx, Math.min(opacity.height - 1, box.y + box.height + 1)) / 255;
  const radius = Math.round(radiusOf(opacity, box) * kx);
  // An edge within a pixel of the picture is only half opaque there.
  const whole = (edge: number, pixel: number) => {
    const near = Math.round(edge);
    return Math.abs(near - edge) < EDGE * pixel ? near : edge;
  };
  const [x, y] = [whole(place.x + box.x * kx, kx), whole(place.y + box.y * ky, ky)];
  const end = whole(place.x + (box.x + box.width) * kx, kx);
  const foot = whole(place.y + (box.y + box.height) * ky, ky);
  return {
    box: { x, y, width: end - x, height: foot - y },
    paint: {
      fill,
      ...(radius > 0 && { radius }),
      shadow: {
        dx: Math.round((right - left) / 2),
        dy: Math.round((below - above) / 2),
        // A blur of so many px is seen about as far as that.
        blur: Math.round((left + right + above + below) / 4),
        colour: `rgba(0, 0, 0, ${Math.min(1, Math.max(0.02, Math.round(edge * 150) / 100))})`,
      },
    },
  };
}
