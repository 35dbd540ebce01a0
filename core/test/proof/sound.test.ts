import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { facesOf, measureDrawing, readSvg, type Drawing } from '@tinfold/core/drawing';
import { readStructure } from '@tinfold/core/infer';
import { Engine, standingBoxes } from '@tinfold/core/layout';
import { bottom, overlap, right, type Rect } from '@tinfold/core/model';
import { prove } from '@tinfold/core/proof';
import { loadMeasurer } from '../../../cli/src/fonts.js';
import { pageCases, patternCases } from '../support/benchmark.js';

const WIDTHS = [
  320, 360, 414, 480, 560, 640, 720, 800, 900, 1000, 1100, 1200, 1280, 1366, 1440, 1600, 1760, 1920,
];

const clash = (a: Rect, b: Rect, by: number): boolean => Math.min(...overlap(a, b)) > by;

/** Whether boxes alone say that a frame is plainly broken, whatever the rules: an independent judge. */
function isBroken(drawing: Drawing, now: ReadonlyMap<string, Rect>, width: number): boolean {
  const shown = drawing.items.flatMap((item) => {
    const box = now.get(item.id);
    return box ? [{ item, was: item.box, is: box }] : [];
  });
  if (shown.length < drawing.items.length * 0.6) return true;
  for (const { item, was, is } of shown) {
    const stuckOut = was.x < -1 || right(was) > drawing.width + 1;
    if (!stuckOut && (is.x < -1 || right(is) > width + 1)) return true;
    if (item.kind === 'text' && is.width < was.width * 0.4 && is.height >= was.height * 3) return true;
    const grown = is.width * is.height > 5 * was.width * was.height;
    if (item.kind !== 'text' && was.height > 8 && width <= drawing.width && grown) return true;
  }
  return shown.some((a, i) =>
    shown
      .slice(i + 1)
      .some((b) => !clash(a.was, b.was, 0.5) && bottom(a.is) > b.is.y && clash(a.is, b.is, 3)),
  );
}

test.runIf(patternCases.length > 0)(
  'the proof and a judge of boxes alone agree on the benchmark, both ways',
  async () => {
    let [broken, told, silent, rightly] = [0, 0, 0, 0];
    const missed: string[] = [];
    for (const { name, files } of [...patternCases, ...pageCases]) {
      const raw = readSvg(readFileSync(files[0] as URL, 'utf8'), 'Screen');
      const m = await loadMeasurer(facesOf(raw));
      const drawing = measureDrawing(raw, m);
      const structure = readStructure(drawing, m);
      const engine = new Engine(m);
      const { faults } = prove(structure, engine, { drawings: [drawing] });
      for (const width of WIDTHS) {
        const here = faults.filter((f) => f.runs.some((r) => r.from <= width && width <= r.to));
        const isSilent = here.every((f) => f.severity === 'note');
        const isPlainly = isBroken(drawing, standingBoxes(structure, width, engine), width);
        if (isPlainly) {
          broken++;
          if (here.length > 0) told++;
          else missed.push(`${name} at ${width}`);
        }
        if (isSilent) {
          silent++;
          if (!isPlainly) rightly++;
        }
      }
    }
    expect(told / broken, missed.join('\n')).toBeGreaterThanOrEqual(0.98);
    expect(rightly / silent, missed.join('\n')).toBeGreaterThanOrEqual(0.98);
  },
  300_000,
);
