import { existsSync, readFileSync } from 'node:fs';
import * as hb from 'harfbuzzjs';
import { SVGPathData } from 'svg-pathdata';
import { beforeAll, expect, test } from 'vitest';
import type { GlyphTable } from '@tinfold/core/drawing';
import { SHIPPED, toSfnt, type Face } from '@tinfold/core/text';
import { fontFile } from '../../../../host/src/fonts.js';
import { shippedGlyphs } from '../../../../host/src/glyphs.js';
import { closed, linesOfCommands } from '../../../src/drawing/outlined/contours.js';
import type { Tolerances } from '../../../src/drawing/outlined/glyphTable.js';
import { tolerancesOf } from '../../../src/drawing/outlined/recognise.js';

const MINUTES = 5 * 60_000;
/** Numbers of a table are kept in 32 bits, and shapes that differ by less than its own step are one. */
const EXACT: Tolerances = [3e-4, 3e-4, 3e-4, 3e-4, 3e-4, 3e-4, 3e-4];
/** Closed lines lower than this are where outlines cross or specks of a sign, px: rounding makes anything of them. */
const SPECK = 1;

let table: GlyphTable;
beforeAll(() => {
  table = shippedGlyphs();
});

/** The faces of a family, as its files have them. */
const filesOf = (family: (typeof SHIPPED)[number], weight: number, italic: boolean): string[] =>
  (family.subsets === 'whole' ? [] : family.subsets)
    .map((subset): Face => ({ family, weight, italic, subset }))
    .map(fontFile)
    .filter(existsSync);

const STYLES = SHIPPED.flatMap((family) =>
  [false, true].flatMap((italic) =>
    (italic ? family.italics : family.weights).map((weight) => ({ family, weight, italic })),
  ),
);

/** So much of the glyphs is tried, chosen by chance: all of them take minutes. */
const TRIED = 0.2;

/** Numbers from 0 to 1 that look like chance and are the same each time. */
function chance(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
}

test(
  'glyphs of every shipped face are found, scaled, moved, rounded to two decimals, their curves raised in degree',
  () => {
    let [lines, lost] = [0, 0];
    const missing: string[] = [];
    for (const [n, { family, weight, italic }] of STYLES.entries()) {
      const random = chance(n + 1);
      const style = table.styles.findIndex(
        (s) => s.family === family.family && s.weight === weight && s.italic === italic,
      );
      const isOwn = (shape: number) => table.styleOf(shape) === style;
      for (const file of filesOf(family, weight, italic)) {
        const face = new hb.Face(new hb.Blob(toSfnt(readFileSync(file))));
        const font = new hb.Font(face);
        const maxp = face.referenceTable('maxp');
        const count = maxp ? new DataView(maxp.buffer, maxp.byteOffset, maxp.byteLength).getUint16(4) : 0;
        for (let glyph = 0; glyph < count; glyph++) {
          if (random() > TRIED) continue;
          const path = font.glyphToPath(glyph);
          if (path === '') continue;
          const size = 12 + 36 * random();
          const scale = size / face.upem;
          const data = new SVGPathData(path).toAbs().normalizeHVZ(false, true, true);
          const drawn = new SVGPathData(data.commands.map((c) => ({ ...c })))
            .qtToC()
            .matrix(scale, 0, 0, -scale, 800 * random(), 600 * random())
            .round(100);
          const known = closed(linesOfCommands(data.commands, { x: (x) => x, y: (_, y) => -y }));
          const found = closed(linesOfCommands(drawn.commands));
          if (known.length !== found.length) continue;
          found.forEach((contour, i) => {
            const wanted = table.matches((known[i] as (typeof known)[number]).shape, EXACT).filter(isOwn);
            // Signs without a character are in no table.
            if (
              wanted.length === 0 ||
              contour.bottom - contour.top < SPECK ||
              contour.right - contour.left < SPECK
            )
              return;
            lines++;
            const matches = new Set(table.matches(contour.shape, tolerancesOf(contour)));
            if (wanted.some((w) => matches.has(w))) return;
            lost++;
            if (missing.length < 10)
              missing.push(`${family.family} ${weight} glyph ${glyph} at ${size.toFixed(1)}`);
          });
        }
      }
    }
    expect(lines).toBeGreaterThan(40_000);
    expect(lost / lines, `${lost} of ${lines}: ${missing.join(', ')}`).toBeLessThan(0.0005);
  },
  MINUTES,
);
