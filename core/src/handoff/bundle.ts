import { zipSync, strToU8 } from 'fflate';
import type { Engine } from '../layout/index.js';
import type { Structure } from '../model/index.js';
import type { TextMeasurer } from '../text/index.js';
import { toDesignTokens } from '../tokens/index.js';
import { exportElements } from './customElements.js';
import { exportJson } from './document.js';
import type { FontFace } from './fonts.js';
import { exportHtml, type OutputFile } from './html.js';
import { exportReact } from './react.js';
import { specSheet } from './spec.js';
import { exportSvg } from './svg.js';

/** What a screen leaves as, with what each is. */
export const FORMATS = {
  html: 'a page that stands: index.html, styles.css, pictures and fonts',
  react: 'React function components (TSX), one for each pattern',
  elements: 'a page whose patterns are custom elements',
  svg: 'drawings at chosen widths',
  tokens: 'design tokens (JSON of the community group)',
  json: 'the structure with its schema',
  spec: 'a specification to read and print',
} as const;

export type Format = keyof typeof FORMATS;
export const FORMAT_NAMES = Object.keys(FORMATS) as readonly Format[];

/** Those that come with font files. */
export const WITH_FONTS: ReadonlySet<Format> = new Set(['html', 'react', 'elements']);

/** What is needed to write a screen's files. */
export interface Tools {
  readonly engine: Engine;
  readonly measurer: TextMeasurer;
  /** The faces whose files lie beside what is written. */
  readonly fonts: readonly FontFace[];
  /** The widths at which drawings are made, px. */
  readonly widths: readonly number[];
}

/** The files of a screen in a format, but for those of its fonts. They are the same each time, byte for byte. */
export function exportAs(format: Format, structure: Structure, tools: Tools): OutputFile[] {
  const { engine, measurer, fonts, widths } = tools;
  switch (format) {
    case 'html':
      return exportHtml(structure, fonts, measurer);
    case 'react':
      return exportReact(structure, fonts, measurer);
    case 'elements':
      return exportElements(structure, fonts, measurer);
    case 'svg':
      return widths.map((width) => exportSvg(structure, width, engine, measurer));
    case 'tokens':
      return [{ name: 'tokens.json', text: toDesignTokens(structure.tokens ?? []) }];
    case 'json':
      return exportJson(structure);
    case 'spec':
      return [specSheet(structure, engine)];
  }
}

/** The date of every file in a zip, so that the same files give the same bytes: the first that a zip can say. */
const ZIP_DATE = '1980-01-01T00:00:00';

/** Files as one zip, each under its path. */
export const zipOf = (files: readonly OutputFile[]): Uint8Array =>
  zipSync(
    Object.fromEntries(
      files.map(({ name, text }) => [name, typeof text === 'string' ? strToU8(text) : text]),
    ),
    { level: 9, mtime: new Date(ZIP_DATE) },
  );
