import { describe, expect, test } from 'vitest';
import { readStructure } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import { applyStep, walk } from '@tinfold/core/model';
import { draw, rect } from '../../core/test/support/drawing.js';
import { testMeasurer } from '../../core/test/support/fonts.js';
import { differencesOf, furthest } from '../src/workbench/differences';
import { marksOf } from '../src/workbench/marks';

const measurer = await testMeasurer();
const engine = new Engine(measurer);
const drawing = draw(
  400,
  300,
  ['a', 'b', 'c'].map((id, i) => rect(id, 20, 20 + i * 76, 360, 60)).join(''),
  measurer,
);

describe('what differs from the drawing', () => {
  const structure = readStructure(drawing, measurer);
  const gapped = [...walk(structure.root)].find((p) => p.rules.gap === 16);

  test('is nothing after reading, and after an edit what has moved, with how far', () => {
    expect(differencesOf(structure, [drawing], engine)).toEqual([]);
    const result = applyStep(structure, {
      kind: 'setRules',
      parts: [{ id: gapped?.id ?? '', set: { gap: 20 } }],
    });
    if (!result.ok) throw new Error(result.reason);
    const differences = differencesOf(result.doc, [drawing], engine);
    expect(differences.map((d) => d.by)).toEqual([4, 8]);
    const astray = furthest(differences);
    const last = [...walk(result.doc.root)].find((p) => astray.get(p.id)?.by === 8);
    expect(last && marksOf(result.doc.root, last, { changed: new Set(), differs: astray })).toEqual([
      { kind: 'differs', says: 'At 400 it stands 8 px from where it was drawn' },
    ]);
  });
});
