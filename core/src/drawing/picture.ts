import { imageSize } from 'image-size';
import { Base64 } from 'js-base64';
import type { PictureContent, Rect } from '../model/index.js';
import { elementsOf, parseXml, serializeXml, type XmlElement } from './xml.js';

const BITMAP = /^data:image\/(?:png|jpeg|jpg|gif|webp);base64,[A-Za-z0-9+/=\s]+$/;
const VECTOR = /^data:image\/svg\+xml(;charset=[\w-]+)?(;base64)?,/i;
/** So much of a file holds its size, base64 characters. */
const HEAD = 200_000;

/** The pixel size in the head of a picture file; undefined where it does not tell. */
function naturalSize(href: string): { width: number; height: number } | undefined {
  const data = href
    .slice(href.indexOf(',') + 1)
    .replace(/\s/g, '')
    .slice(0, HEAD);
  try {
    const { width, height } = imageSize(Base64.toUint8Array(data.slice(0, data.length & ~3)));
    return width > 0 && height > 0 ? { width, height } : undefined;
  } catch {
    return undefined;
  }
}

/** What may stand in a picture that is an SVG itself: no scripts, no foreign markup, nothing that loads. */
function cleanElement(el: XmlElement): XmlElement | undefined {
  if (/^(script|foreignObject|iframe|object|embed|audio|video|animate.*|set|handler|a)$/i.test(el.name))
    return undefined;
  const attributes = Object.entries(el.attributes).filter(([name, value]) => {
    if (/^on/i.test(name)) return false;
    if (name === 'href') return /^#|^data:image\/(?:png|jpeg|jpg|gif|webp);base64,/.test(value.trim());
    return !/url\(\s*['"]?(?!#)/i.test(value);
  });
  const children = el.children.flatMap((c) => {
    if (typeof c !== 'string') return cleanElement(c) ?? [];
    return el.name === 'style' && /@import|url\(\s*['"]?(?!#)/i.test(c) ? [] : c;
  });
  return { name: el.name, attributes: Object.fromEntries(attributes), children };
}

/** An SVG picture by data URI, with everything that could run or load taken out; undefined for what is no SVG. */
function vectorPicture(href: string): PictureContent['href'] {
  const [head = ''] = VECTOR.exec(href) ?? [];
  const body = href.slice(head.length);
  try {
    const source = /;base64,$/i.test(head) ? Base64.decode(body) : decodeURIComponent(body);
    const root = parseXml(source);
    const clean = root.name === 'svg' ? cleanElement(root) : undefined;
    if (!clean || elementsOf(clean).length === 0) return undefined;
    const whole = { ...clean, attributes: { ...clean.attributes, xmlns: 'http://www.w3.org/2000/svg' } };
    return svgDataUri(serializeXml(whole));
  } catch {
    return undefined;
  }
}

/** SVG source as a data URI. */
export const svgDataUri = (source: string): string => `data:image/svg+xml;base64,${Base64.encode(source)}`;

/**
 * A picture from the `href` of an image element. Only data URIs are kept, SVG ones cleaned: nothing is ever fetched.
 * Anything else becomes a placeholder, which `kept: false` tells.
 */
export function pictureContent(
  href: string | undefined,
  fit: PictureContent['fit'],
): { content: PictureContent; kept: boolean } {
  const clean = href?.trim() ?? '';
  const kept = BITMAP.test(clean) ? clean : VECTOR.test(clean) ? vectorPicture(clean) : undefined;
  if (kept === undefined) return { content: { kind: 'picture', fit }, kept: false };
  const natural = naturalSize(kept);
  return { content: { kind: 'picture', href: kept, fit, ...(natural && { natural }) }, kept: true };
}

/** What is cut away on two sides may differ by this for the picture to be cut in its middle, px. */
const EVENLY = 1;

/**
 * The `href` of a picture of which only a part is seen. Where its middle is seen, over its whole width or height, an
 * object-fit of cover cuts it alike, and it stays as it is.
 */
export function seenPart(
  href: string | undefined,
  whole: Rect,
  seen: Rect,
  preserve: string,
): string | undefined {
  if (href === undefined || !BITMAP.test(href.trim())) return href;
  const [left, top] = [seen.x - whole.x, seen.y - whole.y];
  const [right, bottom] = [whole.width - seen.width - left, whole.height - seen.height - top];
  const [level, upright] = [Math.abs(left - right), Math.abs(top - bottom)];
  const isWhole = Math.max(left + right, top + bottom) < EVENLY;
  const isMiddle = Math.max(level, upright) < EVENLY && Math.min(left + right, top + bottom) < EVENLY;
  if (isWhole || isMiddle) return href;
  const image = `<image x="${-left}" y="${-top}" width="${whole.width}" height="${whole.height}" preserveAspectRatio="${preserve}" href="${href.trim()}"/>`;
  return svgDataUri(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${seen.width}" height="${seen.height}" viewBox="0 0 ${seen.width} ${seen.height}">${image}</svg>`,
  );
}

/** `preserveAspectRatio` as an object-fit. */
export const fitOf = (preserve: string | undefined): PictureContent['fit'] =>
  preserve?.includes('none') ? 'fill' : preserve?.includes('slice') ? 'cover' : 'contain';
