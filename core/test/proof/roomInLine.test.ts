import { beforeAll, describe, expect, test } from 'vitest';
import { Engine } from '@tinfold/core/layout';
import { applyStep, findPart, FILL, standing, type Rules } from '@tinfold/core/model';
import { faultsIn, waysAgainst } from '@tinfold/core/proof';
import { column, named, row, shape, structure } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

describe('the distances of what breaks out of its line', () => {
  let engine: Engine;
  beforeAll(async () => {
    engine = new Engine(await testMeasurer());
  });

  /** What a row with such a gap, too wide for a phone, says there after each of the ways to break it. */
  function broken(gap: number): Rules[] {
    const line = named('line', row({ gap }, shape(200, 40), shape(200, 40), shape(200, 40)));
    const of = structure(column({ width: FILL }, line), 1600);
    const fault = faultsIn(of, engine, {}).find((f) => f.kind === 'side-scroll');
    if (!fault) throw new Error('The row has room everywhere.');
    return waysAgainst(of, fault, () => 200)
      .map(({ step }) => applyStep(of, step))
      .flatMap((r) => (r.ok ? [findPart(standing(r.doc, { width: 320 }), 'line')?.rules ?? {}] : []));
  }

  test.each([
    [8, 8],
    [32, 32],
    [40, 32],
    [200, 16],
  ])('beside each other by %i, below each other by %i', (gap, under) => {
    const said = broken(gap);
    expect(said.filter((r) => r.flow === 'column').map((r) => r.gap)).toEqual([under]);
    const [wrap, ...more] = said.filter((r) => r.flow === 'wrap');
    expect(more).toEqual([]);
    expect([wrap?.gap, wrap?.crossGap ?? wrap?.gap]).toEqual([gap, under]);
  });
});
