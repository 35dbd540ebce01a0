import { readFileSync } from 'node:fs';
import { bench, describe } from 'vitest';
import { GlyphTable, NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import { glyphFile } from '../host/src/glyphs.js';
import { benchMeasurer } from './support.js';

const once = { iterations: 3, time: 300, warmupIterations: 1, warmupTime: 0 };
const measurer = await benchMeasurer();
const table = GlyphTable.fromBytes(readFileSync(glyphFile()));
const LINE = 'Leaves pier 2 every day but Sunday, with room for eighteen cars ';
const style = { family: 'Inter', size: 16, weight: 400, italic: false, letterSpacing: 0, colour: '#000' };

/** Lines of words as outlines, about so many glyphs in all, a path each or a use for each glyph. */
function drawing(glyphs: number, uses: boolean): string {
  const letters = Array.from(LINE);
  const inked = letters.filter((ch) => ch !== ' ').length;
  const lines = Math.ceil(glyphs / inked);
  const defs = [...new Set(letters)].map((ch) => {
    const d = measurer.outline(ch, style, { x: 0, y: 0 });
    return `<symbol id="g${ch.codePointAt(0)}" overflow="visible"><path d="${d}"/></symbol>`;
  });
  const body = Array.from({ length: lines }, (_, i) => {
    const y = 40 + i * 24;
    if (!uses) return `<path d="${measurer.outline(LINE, style, { x: 40, y })}"/>`;
    let x = 40;
    return letters
      .map((ch) => {
        const at = x;
        x += measurer.width(ch, style);
        return ch === ' ' ? '' : `<use href="#g${ch.codePointAt(0)}" x="${at}" y="${y}"/>`;
      })
      .join('');
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="${80 + lines * 24}"><defs>${uses ? defs.join('') : ''}</defs>${body.join('')}</svg>`;
}

describe('the table of the shipped fonts', () => {
  bench('read from its file', () => void GlyphTable.fromBytes(readFileSync(glyphFile())), once);
});

describe('importing 20,000 glyphs as outlines', () => {
  const read = (source: string) =>
    void openDrawing(source, 'x').withGlyphs([table]).measure(measurer, NO_DECISIONS);
  const [uses, paths] = [drawing(20_000, true), drawing(20_000, false)];
  bench('a use for each', () => read(uses), once);
  bench('a path for each line', () => read(paths), once);
});
