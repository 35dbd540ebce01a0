import { compose } from 'transformation-matrix';
import { DrawingError } from '../items.js';
import { PageWriter } from './page.js';
import type { PdfDocument, PdfLibrary } from './pdfjs.js';

/** No more pages of a file are offered. */
const MOST_PAGES = 24;
/** A point of PDF is a 72nd of an inch, a px of CSS a 96th. */
const PX = 96 / 72;
/** Pages stand beside each other so far apart, px. */
const BETWEEN = 80;
/** Larger pictures are left out, pixels. */
const MAX_PIXELS = 16_000_000;
/** What pages may come to in all, characters. */
const MAX_LENGTH = 18 * 1024 * 1024;

/** Whether bytes are a PDF: its mark may stand in the first 1024 of them (ISO 32000-1 Annex H). */
export function isPdf(bytes: Uint8Array): boolean {
  const head = String.fromCharCode(...bytes.subarray(0, 1024));
  return head.includes('%PDF-');
}

async function opened(bytes: Uint8Array, library: PdfLibrary): Promise<PdfDocument> {
  const loading = library.getDocument({
    // It takes the bytes over.
    data: bytes.slice(),
    isEvalSupported: false,
    disableFontFace: true,
    useSystemFonts: false,
    isOffscreenCanvasSupported: false,
    fontExtraProperties: true,
    verbosity: 0,
    maxImageSize: MAX_PIXELS,
  });
  try {
    return await loading.promise;
  } catch (error) {
    const name = error instanceof Error ? error.name : '';
    throw new DrawingError(
      name === 'PasswordException'
        ? 'The PDF is locked with a password: save it without one and choose that file.'
        : 'The PDF is damaged and cannot be read: export it again.',
    );
  }
}

/**
 * The pages of a PDF side by side as one SVG, with its words as texts; scripts and forms in it are not looked at. Throws a
 * {@link DrawingError} for a file that cannot be read.
 */
export async function pdfToSvg(bytes: Uint8Array, library: PdfLibrary): Promise<string> {
  const document = await opened(bytes, library);
  const count = Math.min(document.numPages, MOST_PAGES);
  if (count === 0) throw new DrawingError('The PDF has no page: export it again.');
  const pages: string[] = [];
  let [x, height, length] = [0, 0, 0];
  for (let number = 1; number <= count; number++) {
    let page: string;
    const found = await document.getPage(number).catch(() => undefined);
    if (!found) throw new DrawingError(`Page ${number} of the PDF is damaged: export it again.`);
    const view = found.getViewport({ scale: PX });
    // One page keeps its size as it is: how much of it printing has added is told by what it paints.
    const [w, h] =
      count === 1
        ? [Math.round(view.width * 1e3) / 1e3, Math.round(view.height * 1e3) / 1e3]
        : [Math.round(view.width), Math.round(view.height)];
    const [a = 1, b = 0, c = 0, d = 1, e = 0, f = 0] = view.transform;
    const to = compose({ a: 1, b: 0, c: 0, d: 1, e: x, f: 0 }, { a, b, c, d, e, f });
    try {
      page = await new PageWriter(found, library, `p${number}`, to).write();
    } catch {
      throw new DrawingError(`Page ${number} of the PDF cannot be read: export it again, or as SVG.`);
    }
    length += page.length;
    if (length > MAX_LENGTH)
      throw new DrawingError(
        'What the PDF paints is over 18 MB: shrink its pictures or split it into one file for each screen.',
      );
    const ground = `<rect x="${x}" width="${w}" height="${h}" fill="#ffffff"/>`;
    pages.push(count === 1 ? page : `<g id="Page ${number}">${ground}${page}</g>`);
    x += w + BETWEEN;
    height = Math.max(height, h);
  }
  const width = x - BETWEEN;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${pages.join('')}</svg>`;
}
