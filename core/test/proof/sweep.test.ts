import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { facesOf, measureDrawing, readSvg } from '@tinfold/core/drawing';
import { readStructure } from '@tinfold/core/infer';
import { Engine, reflow } from '@tinfold/core/layout';
import { standing, walk, type Structure } from '@tinfold/core/model';
import { prove, USUAL_RANGE, type Fault } from '@tinfold/core/proof';
import type { TextMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { Layouts, stretches } from '../../src/proof/sweep.js';
import { anyStructure, soundRoot } from '../support/arbitrary.js';
import { everyPage, patternCases } from '../support/benchmark.js';
import { structure } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

/** What is said of a fault, whatever the order. */
const said = (faults: readonly Fault[]) =>
  faults
    .map((f) => JSON.stringify([f.kind, f.severity, f.answerable, f.runs, f.count, [...f.parts].sort()]))
    .sort();

function expectSameAsBlindly(
  doc: Structure,
  measurer: TextMeasurer,
  range?: { from: number; to: number },
): void {
  const options = range ? { range } : {};
  const swept = prove(doc, new Engine(measurer), options);
  const { from, to } = range ?? USUAL_RANGE;
  const each = Array.from({ length: to - from + 1 }, (_, i) => from + i);
  const blind = prove(doc, new Engine(measurer), { ...options, only: each });
  expect(said(swept.faults)).toEqual(said(blind.faults));
}

describe('a sweep finds what looking at every width finds', () => {
  test('in random trees', async () => {
    const m = await testMeasurer();
    fc.assert(
      fc.property(soundRoot(4), fc.constantFrom(360, 700, 1000), (root, drawn) => {
        expectSameAsBlindly(structure(root, drawn), m, { from: 320, to: 760 });
      }),
      { numRuns: 60 },
    );
  });

  test('in random structures with breakpoints and tokens', async () => {
    const m = await testMeasurer();
    fc.assert(
      fc.property(anyStructure(3), (doc) => {
        expectSameAsBlindly(doc, m, { from: 320, to: 760 });
      }),
      { numRuns: 40 },
    );
  });

  // All real pages take minutes: one in eight stands for them.
  const cases = [...patternCases, ...everyPage(8)];
  test.each(cases)('$name', async ({ files: [source] }) => {
    const raw = readSvg(readFileSync(source as URL, 'utf8'), 'Screen');
    const m = await loadMeasurer(facesOf(raw));
    expectSameAsBlindly(readStructure(measureDrawing(raw, m), m), m);
  });
});

describe('stretches', () => {
  test('cover each whole width once, and every box between their ends lies on a line', async () => {
    const m = await testMeasurer();
    fc.assert(
      fc.property(anyStructure(3), (doc) => {
        const engine = new Engine(m);
        const ids = [...walk(doc.root)].map((p) => p.id);
        let next = 320;
        for (const s of stretches(doc, new Layouts(doc, engine), { from: 320, to: 700 })) {
          expect(s.from).toBe(next);
          next = s.to + 1;
          for (let width = s.from; width <= s.to; width++) {
            const { parts } = reflow(standing(doc, { width }), width, engine);
            const share = s.to === s.from ? 0 : (width - s.from) / (s.to - s.from);
            ids.forEach((id, i) => {
              const box = parts.get(id);
              const [a, b] = [s.first.box.left[i] ?? NaN, s.last.box.left[i] ?? NaN];
              if (!box) expect(a).toBeNaN();
              else expect(Math.abs(box.x - a - (b - a) * share)).toBeLessThan(0.02);
            });
          }
        }
        expect(next).toBe(701);
      }),
      { numRuns: 25 },
    );
  });

  test('are few where nothing happens', async () => {
    const m = await testMeasurer();
    const doc = structure({ id: 'r', name: 'r', kind: 'container', rules: {}, children: [], source: [] });
    const all = [...stretches(doc, new Layouts(doc, new Engine(m)), { from: 320, to: 1920 })];
    expect(all.length).toBeLessThan(40);
  });
});
