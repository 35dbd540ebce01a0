import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Token } from '@tinfold/core/model';
import { fromDesignTokens, toDesignTokens } from '@tinfold/core/tokens';

const name = fc.stringMatching(/^[a-z][a-z0-9]{0,8}(?:-[a-z0-9]{1,5})?$/);
const colour = fc
  .tuple(fc.nat(255), fc.nat(255), fc.nat(255))
  .map((rgb) => `#${rgb.map((n) => n.toString(16).padStart(2, '0')).join('')}`);
const widths = fc.uniqueArray(fc.integer({ min: 320, max: 1400 }), { minLength: 1, maxLength: 3 });
const length = fc
  .tuple(name, fc.nat(400), fc.option(widths, { nil: undefined }))
  .map(([n, value, at]): Token => ({
    kind: 'length',
    name: n,
    value,
    ...(at && { below: at.sort((a, b) => b - a).map((width, i) => ({ width, value: i })) }),
  }));
const coloured = fc
  .tuple(name, colour, fc.option(colour, { nil: undefined }))
  .map(([n, value, dark]): Token => ({
    kind: 'colour',
    name: n,
    value,
    ...(dark !== undefined && { modes: { dark } }),
  }));
const tokens = fc.uniqueArray(fc.oneof(length, coloured), {
  minLength: 1,
  maxLength: 8,
  selector: (t) => t.name,
});

describe('design tokens', () => {
  test('what is written is read again', () => {
    fc.assert(
      fc.property(tokens, (all) => {
        const read = fromDesignTokens(toDesignTokens(all));
        expect(read.left).toEqual([]);
        // An object’s names that are numbers come first; tokens begin with letters.
        expect(read.tokens).toEqual(all);
      }),
    );
  });

  test('groups, inherited types, aliases and older values', () => {
    const file = JSON.stringify({
      space: { $type: 'dimension', Small: { $value: '0.5rem' }, wide: { $value: '{space.Small}' } },
      seaGreen: { $type: 'color', $value: '#0B6B6B' },
      tide: { $type: 'color', $value: { colorSpace: 'oklch', components: [0.5, 0, 0] } },
      word: { $type: 'fontFamily', $value: 'Inter' },
    });
    const { tokens: read, left } = fromDesignTokens(file);
    expect(read).toEqual([
      { kind: 'length', name: 'space-small', value: 8 },
      { kind: 'length', name: 'space-wide', value: 8 },
      { kind: 'colour', name: 'sea-green', value: '#0b6b6b' },
      { kind: 'colour', name: 'tide', value: '#636363' },
    ]);
    expect(left).toEqual(['“word” is no length in px or rem and no colour.']);
  });

  test.each([
    ['no JSON', '{', /not JSON/],
    ['nothing in it', '{"a":{"b":1}}', /no design tokens/],
    ['too deep', `${'{"a":'.repeat(60)}{"$value":1}${'}'.repeat(60)}`, /nested deeper/],
  ])('%s is refused with a sentence', (_, file, reason) => {
    expect(() => fromDesignTokens(file)).toThrow(reason);
  });

  test('aliases that lead in a circle are left', () => {
    const { tokens: read, left } = fromDesignTokens(
      '{"a":{"$type":"dimension","$value":"{b}"},"b":{"$type":"dimension","$value":"{a}"}}',
    );
    expect([read, left.length]).toEqual([[], 2]);
  });
});
