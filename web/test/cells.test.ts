import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { applyStep, RULE_NAMES, type Part } from '@tinfold/core/model';
import { column, grid, structure, text } from '../../core/test/support/build.js';
import { CELLS, isTyped, nextWord, stepped } from '../src/workbench/cells';
import { nearestValid } from '../src/workbench/nearestValid';

describe('cells', () => {
  test('every rule of a part has its cell', () => {
    const said = new Set<string>(CELLS.flatMap((c) => c.rules));
    expect(RULE_NAMES.filter((rule) => !said.has(rule))).toEqual([]);
  });

  test('what a cell shows it takes again', () => {
    const parts: readonly [string, Part][] = [
      ['lines', grid({ alignLines: 'between' })],
      ['items', grid({ justifyItems: 'centre' })],
      [
        'rows',
        grid({
          rows: [
            { kind: 'fixed', px: 80 },
            { kind: 'fr', weight: 2 },
          ],
        }),
      ],
      ['further', grid({ autoRows: { kind: 'fit' } })],
      [
        'areas',
        grid({
          areas: [
            ['head', 'head'],
            ['side', '.'],
          ],
        }),
      ],
      ['safe', column({ safeArea: ['top', 'bottom'] })],
      ['most', text('a', { maxLines: 2 })],
      ['direction', column({ direction: 'rtl' })],
      ['stay', column({ stay: { side: 'bottom', at: 16 } })],
      ['breaks', column({ newLine: true })],
    ];
    for (const [key, part] of parts) {
      const cell = CELLS.find((c) => c.key === key);
      const shown = cell?.show(part) ?? '';
      const [rule = 'flow'] = cell?.rules ?? [];
      expect(shown, key).not.toBe('');
      expect(cell?.parse?.(shown), key).toEqual({ ok: true, value: { [rule]: part.rules[rule] } });
      expect(cell?.parse?.(''), key).toEqual({ ok: true, value: { [rule]: null } });
      expect(cell?.parse?.('no such thing, at all!').ok, key).toBe(false);
    }
  });

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

describe('what is refused', () => {
  const near = (key: string, typed: string) => {
    const cell = CELLS.find((c) => c.key === key);
    return cell && nearestValid(cell, typed);
  };

  test('offers the nearest that is taken', () => {
    expect(near('align', 'midle')).toBe('middle');
    expect(near('gap', 'betwen')).toBe('between');
    expect(near('limits', '300-200')).toBe('200–300');
    expect(near('width', '-20')).toBe('20');
    expect(near('width', '20 px wide')).toBe('20');
    expect(near('most', '2.6')).toBe('3');
  });

  test('and nothing where nothing is near', () => {
    expect(near('align', 'over there')).toBeUndefined();
    expect(near('words', '')).toBeUndefined();
  });
});
