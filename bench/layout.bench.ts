import { bench, describe } from 'vitest';
import { Engine, reflow } from '@tinfold/core/layout';
import { walk } from '@tinfold/core/model';
import { benchMeasurer, cardsStructure } from './support.js';

const measurer = await benchMeasurer();

for (const wanted of [100, 1_000, 10_000]) {
  const { root } = cardsStructure(wanted);
  describe(`layout of ${[...walk(root)].length} parts`, () => {
    bench('cold', () => void reflow(root, 1024, new Engine(measurer)), { time: 500, iterations: 3 });
    const engine = new Engine(measurer);
    let width = 320;
    bench(
      'another frame width',
      () => {
        width = width >= 1920 ? 320 : width + 1;
        reflow(root, width, engine);
      },
      { time: 500, iterations: 3 },
    );
  });
}

describe('sweep of all widths from 240 to 1920', () => {
  const { root } = cardsStructure(300);
  bench(
    `${[...walk(root)].length} parts`,
    () => {
      const engine = new Engine(measurer);
      for (let width = 240; width <= 1920; width++) engine.frame(root, width);
    },
    { time: 500, iterations: 2 },
  );
});
