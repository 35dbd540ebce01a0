import { Base64 } from 'js-base64';
import { walk, type Part } from '../model/index.js';
import { fresh, slug } from './names.js';

/** A picture as a file beside the page. */
export interface PictureFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

const BITMAP = /^data:image\/(png|jpe?g|gif|webp);base64,([A-Za-z0-9+/=\s]+)$/;
const VECTOR = /^data:image\/svg\+xml(?:;charset=[\w-]+)?(;base64)?,(.*)$/is;

/** The ending and the bytes of a data URI; undefined for what is no picture. Drawn ones were cleaned when they were read. */
function fileOf(href: string): { readonly ending: string; readonly bytes: Uint8Array } | undefined {
  const [, kind, data] = BITMAP.exec(href) ?? [];
  if (kind !== undefined && data !== undefined)
    return { ending: kind.replace('jpeg', 'jpg'), bytes: Base64.toUint8Array(data) };
  const [whole, inBase64, source] = VECTOR.exec(href) ?? [];
  if (whole === undefined || source === undefined) return undefined;
  return {
    ending: 'svg',
    bytes: inBase64
      ? Base64.toUint8Array(source)
      : Base64.toUint8Array(Base64.encode(decodeURIComponent(source))),
  };
}

/** The pictures of a screen, each once, by their data URI; what is no picture has no file and is not shown. */
export function picturesOf(root: Part): ReadonlyMap<string, PictureFile> {
  const found = new Map<string, PictureFile>();
  const taken = new Set<string>();
  for (const { name, content } of walk(root)) {
    const href = content?.kind === 'picture' ? content.href : undefined;
    if (href === undefined || found.has(href)) continue;
    const file = fileOf(href.trim());
    if (!file) continue;
    const { ending, bytes } = file;
    found.set(href, { name: `pictures/${fresh(slug(name), taken)}.${ending}`, bytes });
  }
  return found;
}
