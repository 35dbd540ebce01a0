export * from './items.js';
export { MAX_BYTES } from './source.js';
export { kindOfSource, openDrawing, readSvg, type OpenedDrawing } from './open.js';
export { type ScreenFrame } from './frames.js';
export type { RawDrawing } from './raw.js';
export type { SafeArea } from './device.js';
export { measureDrawing, facesOf } from './measure.js';
export {
  CLEAN_UP_KINDS,
  ITEM_KINDS,
  NO_DECISIONS,
  type CleanUpKind,
  type DrawingDecisions,
  type ForcedKind,
  type ItemKind,
} from './cleanUp.js';
export { joinRefusal, kindOfItem, otherKinds } from './force.js';
export { containmentOf, coreBox, type Held } from './contain.js';
export { factsOf, gridOf, type DrawingFacts, type DrawingGrid } from './facts.js';
export { normalColour } from './colour.js';
export { GlyphTable, glyphTable, type GlyphStyle } from './outlined/glyphTable.js';
export { glyphsOfFont, tableOfFonts } from './outlined/fontGlyphs.js';
export { drawnFontsIn, isDrawn, teach, type SetIn } from './outlined/said.js';
export { isPdf, pdfToSvg } from './pdf/pdf.js';
export type { PdfLibrary } from './pdf/pdfjs.js';
export { cased } from './html/inline.js';
export { paintOrder } from './html/page.js';
