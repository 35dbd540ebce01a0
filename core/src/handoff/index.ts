export { exportHtml, type OutputFile, type TextFile } from './html.js';
export { escapeHtml } from './elements.js';
export { exportReact } from './react.js';
export { exportElements } from './customElements.js';
export { exportSvg } from './svg.js';
export { layoutCss, paintRules } from './css.js';
export { fontFaces, fontPath, fontsReadme, type FontFace } from './fonts.js';
