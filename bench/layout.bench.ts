import { bench, describe } from 'vitest';
import { measureDrawing, readSvg } from '@tinfold/core/drawing';
import { readStructure } from '@tinfold/core/infer';
import { Engine, reflow } from '@tinfold/core/layout';
import { walk } from '@tinfold/core/model';
import { benchMeasurer, cardsDrawing } from './support.js';

const measurer = await benchMeasurer();

for (const items of [80, 800]) {
  const { root } = readStructure(measureDrawing(readSvg(cardsDrawing(items), 'bench'), measurer), measurer);
  const parts = [...walk(root)].length;
  describe(`layout of ${parts} parts`, () => {
    bench('cold', () => void reflow(root, 1024, new Engine(measurer)), { time: 500 });
    const engine = new Engine(measurer);
    let width = 320;
    bench(
      'another frame width',
      () => {
        width = width >= 1920 ? 320 : width + 1;
        reflow(root, width, engine);
      },
      { time: 500 },
    );
  });
}
