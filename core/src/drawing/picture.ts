import type { PictureContent } from '../model/index.js';

const BITMAP = /^data:image\/(?:png|jpeg|jpg|gif|webp);base64,[A-Za-z0-9+/=\s]+$/;

function decodeHead(href: string): Uint8Array {
  const base64 = href.slice(href.indexOf(',') + 1, href.indexOf(',') + 1 + 400).replace(/\s/g, '');
  const usable = base64.slice(0, base64.length & ~3);
  const table = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
  const bytes: number[] = [];
  for (let i = 0; i < usable.length; i += 4) {
    const bits = [0, 1, 2, 3].reduce(
      (sum, k) => (sum << 6) | Math.max(0, table.indexOf(usable[i + k] ?? 'A')),
      0,
    );
    bytes.push((bits >> 16) & 255, (bits >> 8) & 255, bits & 255);
  }
  return new Uint8Array(bytes);
}

/** The pixel size in the head of a PNG, GIF or extended WebP; other kinds tell nothing here. */
function naturalSize(href: string): { width: number; height: number } | undefined {
  const b = decodeHead(href);
  if (b.length < 30) return undefined;
  const view = new DataView(b.buffer);
  const tag = String.fromCharCode(...b.subarray(0, 4));
  if (tag === '\u0089PNG') return { width: view.getUint32(16), height: view.getUint32(20) };
  if (tag === 'GIF8') return { width: view.getUint16(6, true), height: view.getUint16(8, true) };
  return undefined;
}

/**
 * A picture from the `href` of an image element. Only bitmap data URIs are kept: nothing is ever fetched, and SVG
 * pictures could carry scripts. Anything else becomes a placeholder, which `kept: false` tells.
 */
export function pictureContent(
  href: string | undefined,
  fit: PictureContent['fit'],
): { content: PictureContent; kept: boolean } {
  const clean = href?.trim();
  if (!clean || !BITMAP.test(clean)) return { content: { kind: 'picture', fit }, kept: false };
  const natural = naturalSize(clean);
  return { content: { kind: 'picture', href: clean, fit, ...(natural && { natural }) }, kept: true };
}

/** `preserveAspectRatio` as an object-fit. */
export const fitOf = (preserve: string | undefined): PictureContent['fit'] =>
  preserve?.includes('none') ? 'fill' : preserve?.includes('slice') ? 'cover' : 'contain';
