import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { readSource } from '../host/src/reading.js';
import { demoMeasurer, DIALECTS, DRAWINGS } from './screens.js';

const kept = (name: string) => readFileSync(new URL(name, import.meta.url), 'utf8');

describe('the demo drawings', () => {
  test.each(DRAWINGS)('$file is what its script draws', async ({ file, dialect, draw }) => {
    expect(DIALECTS[dialect](draw(await demoMeasurer()))).toBe(kept(file));
  });

  test.each(DRAWINGS)('$file says the same in every dialect', async ({ draw }) => {
    const sheet = draw(await demoMeasurer());
    const [first = [], ...others] = await Promise.all(
      Object.values(DIALECTS).map(async (write) => {
        const { items } = (await readSource(write(sheet), 'Demo')).drawing;
        return items.map(({ kind, id, box: { x, y, width, height } }) => ({
          what: `${kind} ${id}`,
          box: [x, y, width, height],
        }));
      }),
    );
    expect(first.length).toBeGreaterThan(10);
    for (const other of others) {
      expect(other.map((i) => i.what)).toEqual(first.map((i) => i.what));
      for (const [i, { box }] of other.entries())
        for (const [n, px] of box.entries()) expect(px).toBeCloseTo(first[i]?.box[n] ?? NaN, 1);
    }
  });
});
