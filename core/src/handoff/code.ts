import { desugar } from '../layout/index.js';
import { findPart, standing, walk, type Structure, type TextStyle } from '../model/index.js';
import type { TextMeasurer } from '../text/index.js';
import { elementOf, escapeHtml, printHtml } from './elements.js';
import { meaningsOf } from './meaning.js';
import { picturesOf, type PictureFile } from './pictures.js';
import { styleSheet, WIDEST } from './sheet.js';

/** What of the files is about one part. */
export interface PartCode {
  readonly html: string;
  readonly css: string;
}

/** The code of a part with what is in it, and the rules of its own class; empty for one that is not there. */
export function codeOf(structure: Structure, id: string): PartCode {
  const root = desugar(standing(structure, { width: WIDEST }));
  const part = findPart(root, id);
  if (!part) return { html: '', css: '' };
  const { css, names } = styleSheet(structure, id);
  const dressed = { names, meanings: meaningsOf(root), pictures: picturesOf(root) };
  return { html: printHtml(elementOf(part, dressed), '', () => []), css };
}

/**
 * The page in one piece, for looking at before it leaves: the style sheet in it, pictures by their data, every element with its
 * part's id. `fonts` are the rules of its faces.
 */
export function previewPage(structure: Structure, fonts: string, measurer: TextMeasurer): string {
  const root = desugar(standing(structure, { width: WIDEST }));
  const { css, names } = styleSheet(structure);
  const pictures = new Map<string, PictureFile>();
  for (const { content } of walk(root))
    if (content?.kind === 'picture' && content.href !== undefined)
      pictures.set(content.href, { name: content.href, bytes: new Uint8Array() });
  const dressed = {
    names,
    meanings: meaningsOf(root),
    pictures,
    uncovered: (text: string, style: TextStyle) => measurer.uncovered(text, style),
  };
  const body = printHtml(elementOf(root, dressed), '', (part) => [['data-part', part.id]]);
  return `<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>${escapeHtml(structure.name)}</title><style>${(fonts + css).replace(/<\//g, '<\\/')}</style></head><body><div class="frame">${body}</div></body></html>`;
}
