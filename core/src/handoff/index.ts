export { escapeHtml, exportHtml, type OutputFile } from './html.js';
export { layoutCss, paintRules } from './css.js';
export { fontFaces, fontPath, fontsReadme, type FontFace } from './fonts.js';
