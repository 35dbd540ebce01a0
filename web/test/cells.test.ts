import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { applyStep } from '@tinfold/core/model';
import { column, structure, text } from '../../core/test/support/build.js';
import { CELLS, isTyped, nextWord, stepped } from '../src/workbench/cells';

describe('cells', () => {
  test('the few words of a cell come one after another, and all of them are taken', () => {
    expect(nextWord(['start', 'end'], 'start', 1)).toBe('end');
    expect(nextWord(['start', 'end'], 'end', 1)).toBe('start');
    expect(nextWord(['start', 'end'], 'sta', -1)).toBe('end');
    for (const { key, words = [], parse } of CELLS)
      for (const word of words) expect(parse?.(word).ok, `${word} in ${key}`).toBe(true);
  });

  test('the number at the caret is stepped, else the first, and nothing else changes', () => {
    expect(stepped('16 24', 4, 1)).toBe('16 25');
    expect(stepped('16 24', 1, 10)).toBe('26 24');
    expect(stepped('fill 2', 0, 1)).toBe('fill 3');
    expect(stepped('240-360', 7, -10)).toBe('240-370');
    expect(stepped('between', 3, 1)).toBe('between');
    expect(stepped('12.5', 4, 1)).toBe('13.5');
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999 }), fc.integer({ min: -9, max: 9 }), (n, by) => {
        expect(stepped(stepped(String(n), 0, by), 0, -by)).toBe(String(n));
      }),
    );
  });

  test('words are said of the text alone, and an empty text is not', () => {
    const words = CELLS.find((c) => c.key === 'words');
    const part = text('Low Tarn');
    const doc = structure(column({}, part, text('Pier 2')));
    const step = words?.say?.(part, 'Marrow Isle');
    const result = step && applyStep(doc, step);
    expect(result?.ok && result.doc.root.children.map((c) => words?.show(c))).toEqual([
      'Marrow Isle',
      'Pier 2',
    ]);
    expect(words?.say?.(part, '')).toBeUndefined();
    expect(words && isTyped(words)).toBe(true);
  });
});
