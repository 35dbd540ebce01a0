import type { Face, Family, TextMeasurer } from '../text/index.js';
import { bounded } from './bounded.js';
import type { DrawingDecisions } from './cleanUp.js';
import { foreignFaces, withForeign } from './foreign.js';
import { framesIn, type ScreenFrame } from './frames.js';
import { readHtml } from './html/html.js';
import { DrawingError, type Drawing } from './items.js';
import { readJsonDrawing } from './jsonItems.js';
import { facesOf, measureDrawing } from './measure.js';
import type { GlyphTable } from './outlined/glyphTable.js';
import { withDrawnWords } from './outlined/drawnWords.js';
import { withIcons } from './outlined/icons.js';
import { withWords } from './outlined/outlined.js';
import { mayHaveOutlines } from './outlined/pieces.js';
import { withSaid } from './outlined/said.js';
import type { RawDrawing } from './raw.js';
import { readable } from './source.js';
import { parseSvg, readSvgTree } from './svg.js';

/** A drawing file that was parsed; its words are still to be measured. */
export interface OpenedDrawing {
  /** The screens in the file where there are several side by side; empty for one. */
  readonly frames: readonly ScreenFrame[];
  /** Whether it may have words as outlines, which {@link withGlyphs} reads. */
  readonly outlined: boolean;
  /** The same with words that are outlines as texts: of these glyphs, or as they are drawn. */
  withGlyphs(tables: readonly GlyphTable[]): OpenedDrawing;
  /** The font files that measuring needs, among the shipped ones and the user's own. */
  faces(own?: readonly Family[], decisions?: DrawingDecisions): Face[];
  /** The items, cleaned up as far as the designer has not taken it back. The measurer must hold the faces. */
  measure(m: TextMeasurer, decisions: DrawingDecisions): Drawing;
}

/** Outlines as what they are: words of known glyphs, drawn words, icons. */
function readOutlines(raw: RawDrawing, tables: readonly GlyphTable[]): RawDrawing {
  const worded = withDrawnWords(tables.reduce(withWords, raw));
  return { ...worded, items: withIcons(worded.items) };
}

/** Reads SVG source; see {@link parseSvg} and {@link readSvgTree}. */
export const readSvg = (source: string, name: string): RawDrawing =>
  readSvgTree(parseSvg(readable(source)), name, { readPage: readHtml });

function openSvg(text: string, name: string): OpenedDrawing {
  const root = parseSvg(text);
  const whole = readSvgTree(root, name, { readPage: readHtml });
  const opened = (tables?: readonly GlyphTable[]): OpenedDrawing => {
    const worded = (raw: RawDrawing): RawDrawing => bounded(tables ? readOutlines(raw, tables) : raw);
    const all = worded(whole);
    return {
      frames: framesIn(all),
      outlined: mayHaveOutlines(whole),
      withGlyphs: opened,
      faces: (own = [], decisions) => [
        ...facesOf(decisions ? withSaid(all, decisions) : all, own),
        ...foreignFaces(all, own),
      ],
      measure: (m, decisions) => {
        const raw = decisions.frame
          ? worded(readSvgTree(root, name, { frame: decisions.frame, readPage: readHtml }))
          : all;
        const whole = raw.foreign ? bounded(withForeign(raw, m)) : raw;
        return measureDrawing(withSaid(whole, decisions), m, decisions);
      },
    };
  };
  return opened();
}

function openLater(reader: {
  faces: (own: readonly Family[]) => Face[];
  layOut: (m: TextMeasurer) => RawDrawing;
}): OpenedDrawing {
  const opened: OpenedDrawing = {
    frames: [],
    outlined: false,
    withGlyphs: () => opened,
    faces: (own = []) => reader.faces(own),
    measure: (m, decisions) => measureDrawing(bounded(reader.layOut(m)), m, decisions),
  };
  return opened;
}

const isHtml = (head: string): boolean =>
  /<!doctype\s+html|<html[\s>]|<body[\s>]|<head[\s>]/i.test(head) ||
  /^\s*<(?:div|main|section|table|style|p|h[1-6])[\s>]/i.test(head);

/** What kind of drawing a text is, by its content; undefined for what is none. */
export function kindOfSource(text: string): 'svg' | 'html' | 'json' | undefined {
  const head = text.slice(0, 20_000);
  if (/^\s*\{/.test(head)) return 'json';
  if (isHtml(head)) return 'html';
  return /<(?:[\w-]+:)?svg[\s>/]/i.test(text.slice(0, 100_000)) ? 'svg' : undefined;
}

/**
 * Opens a drawing of any kind that is read, told by its content: SVG, HTML at fixed positions, or the JSON of items.
 * Throws a {@link DrawingError} whose sentence says what is wrong with the file; what is merely not understood is listed
 * in the drawing's notes.
 */
export function openDrawing(source: string, name: string): OpenedDrawing {
  const text = readable(source);
  const kind = kindOfSource(text);
  if (kind === 'json') return openLater(readJsonDrawing(text, name));
  if (kind === 'html') return openLater(readHtml(text, name));
  if (kind === 'svg') return openSvg(text, name);
  throw new DrawingError(
    'The file is no drawing: export the screen as SVG, save the page as HTML, or write its items as JSON.',
  );
}
