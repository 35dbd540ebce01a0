import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Engine } from '@tinfold/core/layout';
import { prove, type Fault } from '@tinfold/core/proof';
import { soundRoot, anyStructure } from '../support/arbitrary.js';
import { structure } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';
const said = (faults: readonly Fault[]) =>
  faults
    .map((f) => JSON.stringify([f.kind, f.severity, f.answerable, f.runs, f.count, [...f.parts].sort()]))
    .sort();
const same = (doc: any, m: any) => {
  const r = { range: { from: 320, to: 760 } };
  expect(said(prove(doc, new Engine(m), r).faults)).toEqual(
    said(prove(doc, new Engine(m), { ...r, blindly: true }).faults),
  );
};
test('seed', async () => {
  const m = await testMeasurer();
  fc.assert(
    fc.property(soundRoot(4), fc.constantFrom(360, 700, 1000), (root, drawn) =>
      same(structure(root, drawn), m),
    ),
    { numRuns: 60, seed: 128411343 },
  );
});
test('many', async () => {
  const m = await testMeasurer();
  fc.assert(
    fc.property(soundRoot(4), fc.constantFrom(360, 700, 1000), (root, drawn) =>
      same(structure(root, drawn), m),
    ),
    { numRuns: Number(process.env.N ?? 1500) },
  );
}, 600000);
test('structures', async () => {
  const m = await testMeasurer();
  fc.assert(
    fc.property(anyStructure(3), (doc) => same(doc, m)),
    { seed: process.env.S ? Number(process.env.S) : undefined, numRuns: Number(process.env.N ?? 1500) },
  );
}, 600000);
