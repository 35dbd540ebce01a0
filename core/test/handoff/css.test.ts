import { describe, expect, test } from 'vitest';
import { layoutCss, paintRules } from '@tinfold/core/handoff';
import { FILL, pad, type Part } from '@tinfold/core/model';
import { column, grid, row, shape, text, wrap } from '../support/build.js';

const css = (part: Part, parent?: Part): string =>
  layoutCss(part, parent)
    .map(([p, v]) => `${p}: ${v}`)
    .join('; ');
const inside = (parent: Part, index = 0): string => css(parent.children[index] as Part, parent);

describe('rules as CSS', () => {
  test.each([
    [
      'a column',
      column({ gap: 8, padding: pad(4, 6) }),
      'display: flex; flex-direction: column; gap: 8px; align-items: flex-start; padding: 4px 6px 4px 6px; width: 100%',
    ],
    [
      'a row with ends apart',
      row({ gap: 'between', align: 'centre' }),
      'display: flex; align-items: center; justify-content: space-between; width: 100%',
    ],
    [
      'a wrap',
      wrap({ gap: 8, crossGap: 4 }),
      'display: flex; flex-wrap: wrap; align-content: flex-start; gap: 4px 8px; align-items: flex-start; width: 100%',
    ],
    ['what is hidden', column({ hidden: true }), 'display: none'],
  ])('%s', (_, part, expected) => {
    expect(css(part)).toBe(expected);
  });

  test('a grid that repeats keeps its share of the most columns', () => {
    const part = grid({ gap: 20, columns: { kind: 'repeat', min: 240, most: 3 } });
    expect(css(part)).toContain(
      'grid-template-columns: repeat(auto-fill, minmax(min(max(240px, (100% - 40px) / 3), 100%), 1fr))',
    );
    expect(css(part)).toContain('contain: inline-size; contain-intrinsic-inline-size: 240px');
  });

  test.each([
    [
      'fill in a row',
      row({}, shape(1, 9, { width: { kind: 'fill', weight: 2 } })),
      'flex: 2 1 0; min-width: 0; height: 9px',
    ],
    ['fixed in a row', row({}, shape(30, 9)), 'flex: none; width: 30px; height: 9px'],
    [
      'fill in a column',
      column({}, text('a', { width: FILL, maxWidth: 300, alignSelf: 'centre' })),
      'flex: none; width: 100%; align-self: center; max-width: 300px',
    ],
    [
      'fill across a row',
      row({}, shape(5, 0, { height: FILL })),
      'flex: none; width: 5px; align-self: stretch',
    ],
    [
      'a ratio',
      column({}, shape(0, 0, { width: FILL, height: { kind: 'ratio', width: 16, height: 9 } })),
      'flex: none; aspect-ratio: 16 / 9; width: 100%',
    ],
    [
      'a min in a wrap',
      wrap({}, shape(0, 9, { width: FILL, minWidth: 240 })),
      'flex: 1 1 0; height: 9px; min-width: min(240px, 100%)',
    ],
    [
      'a pin in the corner',
      column({}, shape(9, 9, { pin: { right: -2, bottom: 4 } })),
      'position: absolute; right: -2px; width: 9px; bottom: 4px; height: 9px',
    ],
    [
      'a pin in the middle',
      column({}, text('a', { pin: { centreX: 0, top: 3 } })),
      'position: absolute; left: 0; right: 0; margin-inline: auto; width: fit-content; top: 3px',
    ],
    [
      'a pin to both sides',
      column({}, shape(0, 9, { width: FILL, pin: { left: 4, right: 6, top: 0 } })),
      'position: absolute; left: 4px; right: 6px; top: 0; height: 9px',
    ],
  ])('%s', (_, parent, expected) => {
    expect(inside(parent)).toBe(expected);
  });

  test('an odd gap is a margin, and so is an overlap', () => {
    expect(inside(column({ gap: 8 }, shape(1, 1), shape(1, 1, { gapBefore: 20 })), 1)).toContain(
      'margin-top: 12px',
    );
    expect(inside(row({ gap: -6 }, shape(1, 1), shape(1, 1)), 1)).toContain('margin-left: -6px');
    expect(inside(column({ gap: 8 }, shape(1, 1, { gapBefore: 20 }), shape(1, 1)), 0)).not.toContain(
      'margin',
    );
  });

  test('a stroke takes no room', () => {
    const rules = paintRules({
      stroke: { colour: '#888', width: 1 },
      radius: 'round',
      shadow: { dx: 0, dy: 2, blur: 6, colour: '#000' },
    });
    expect(rules).toEqual([
      ['box-shadow', 'inset 0 0 0 1px #888, 0 2px 6px #000'],
      ['border-radius', '50%'],
    ]);
    expect(rules.some(([p]) => p === 'border')).toBe(false);
    expect(paintRules({ radius: [8, 8, 0, 0] })).toEqual([['border-radius', '8px 8px 0 0']]);
  });
});
