import { bench, describe } from 'vitest';
import { measureDrawing, readSvg } from '@tinfold/core/drawing';
import { readStructure } from '@tinfold/core/infer';
import { benchMeasurer, cardsDrawing } from './support.js';

const measurer = await benchMeasurer();

describe('import: SVG to measured items', () => {
  for (const items of [500, 5_000, 50_000]) {
    const source = cardsDrawing(items);
    bench(`${items} items`, () => void measureDrawing(readSvg(source, 'bench'), measurer), {
      time: 500,
      iterations: 2,
    });
  }
});

describe('reading: items to structure', () => {
  for (const items of [100, 1_000, 10_000]) {
    const drawing = measureDrawing(readSvg(cardsDrawing(items), 'bench'), measurer);
    bench(`${items} items`, () => void readStructure(drawing, measurer), { time: 500, iterations: 2 });
  }
});
