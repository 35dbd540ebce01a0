import { readFile } from 'node:fs/promises';
import { isPdf, pdfToSvg, type PdfLibrary } from '@tinfold/core/drawing';

/** The text of a drawing's file; a PDF comes as the SVG of its pages. Throws a DrawingError for a PDF that cannot be read. */
export async function sourceText(file: string): Promise<string> {
  const bytes = await readFile(file);
  if (!isPdf(bytes)) return bytes.toString('utf8');
  // It is large: only who reads a PDF loads it.
  const library = (await import('pdfjs-dist/legacy/build/pdf.mjs')) as unknown as PdfLibrary;
  return pdfToSvg(new Uint8Array(bytes), library);
}
