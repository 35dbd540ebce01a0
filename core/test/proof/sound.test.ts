import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { facesOf, measureDrawing, readSvg } from '@tinfold/core/drawing';
import { readStructure } from '@tinfold/core/infer';
import { Engine, standingBoxes } from '@tinfold/core/layout';
import { isAt, prove } from '@tinfold/core/proof';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { pageCases, patternCases } from '../support/benchmark.js';
import { isPlainlyBroken, JUDGED_WIDTHS } from '../support/plainly.js';

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
      for (const width of JUDGED_WIDTHS) {
        const here = faults.filter((f) => isAt(f, width));
        const isSilent = here.every((f) => f.severity === 'note');
        const isPlainly = isPlainlyBroken(drawing, standingBoxes(structure, width, engine), width);
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
