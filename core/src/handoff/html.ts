import { desugar } from '../layout/index.js';
import { standing, type Structure } from '../model/index.js';
import { elementOf, escapeHtml, printHtml, type Element } from './elements.js';
import { fontFaceCss, type FontFace } from './fonts.js';
import { meaningsOf } from './meaning.js';
import { picturesOf } from './pictures.js';
import { styleSheet, WIDEST } from './sheet.js';
import type { TextMeasurer } from '../text/index.js';

/** A file of the handoff. */
export interface OutputFile {
  readonly name: string;
  readonly text: string | Uint8Array;
}

/** A file of words. */
export interface TextFile extends OutputFile {
  readonly text: string;
}

/** A screen as elements, with its style sheet and the files of its pictures. */
export interface Page {
  readonly root: Element;
  readonly css: string;
  readonly pictures: readonly OutputFile[];
}

/** What of a structure is written, in whatever language. `fonts` are the faces whose files lie beside it. */
export function pageOf(structure: Structure, fonts: readonly FontFace[] = [], measurer?: TextMeasurer): Page {
  const root = desugar(standing(structure, { width: WIDEST }));
  const { css, names } = styleSheet(structure);
  const pictures = picturesOf(root);
  return {
    root: elementOf(root, {
      names,
      meanings: meaningsOf(root),
      pictures,
      uncovered: measurer && ((text, style) => measurer.uncovered(text, style)),
    }),
    css: fontFaceCss(fonts) + css,
    pictures: [...pictures.values()].map(({ name, bytes }) => ({ name, text: bytes })),
  };
}

/** The whole of an HTML page around a frame's inside. */
export const wholePage = (name: string, body: string, more = ''): string => `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <title>${escapeHtml(name)}</title>
  <link rel="stylesheet" href="styles.css">
${more}</head>
<body>
  <div class="frame">
    ${body}
  </div>
</body>
</html>
`;

/**
 * `index.html`, `styles.css` and the pictures of a structure: flex and grid, no script, every element with its part's id. `fonts`
 * are the faces whose files lie beside them; `measurer` knows which characters have none.
 */
export function exportHtml(
  structure: Structure,
  fonts: readonly FontFace[] = [],
  measurer?: TextMeasurer,
): [page: TextFile, style: TextFile, ...pictures: OutputFile[]] {
  const { root, css, pictures } = pageOf(structure, fonts, measurer);
  return [
    {
      name: 'index.html',
      text: wholePage(
        structure.name,
        printHtml(root, '    ', (part) => [['data-part', part.id]]),
      ),
    },
    { name: 'styles.css', text: css },
    ...pictures,
  ];
}
