import { beforeAll, describe, expect, test } from 'vitest';
import { readSeveral } from '@tinfold/core/infer';
import { Engine, standingBoxes } from '@tinfold/core/layout';
import { right, walk, type Part, type Structure } from '@tinfold/core/model';
import { faultsIn } from '@tinfold/core/proof';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { draw, outline, partOf, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

describe('numbers that only repeat what was drawn are no rules', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });
  const read = (width: number, height: number, body: string): Structure =>
    readSeveral([draw(width, height, body, m)], m);
  const scrolls = (structure: Structure, from: number): boolean =>
    faultsIn(structure, new Engine(m), { range: { from, to: structure.drawn.width } }).some(
      (f) => f.kind === 'side-scroll',
    );
  const rowWith = (root: Part, item: string): Part | undefined =>
    [...walk(root)].find((p) => p.rules.flow === 'row' && p.children.some((c) => c.source.includes(item)));

  /** A bar of three groups: a name, links, an icon and a button at the end, with what is left shared evenly. */
  const bar = (): string => {
    const wide = (text: string) =>
      m.width(text, {
        family: 'Inter',
        size: 16,
        weight: 400,
        italic: false,
        letterSpacing: 0,
        colour: '#000',
      });
    // The icon's strokes begin 3 px within its box.
    const [nameEnd, icon] = [24 + wide('Kittiwake Line'), 1108];
    const linksWide = 140 + wide('Help');
    const start = nameEnd + (icon - 3 - nameEnd - linksWide) / 2;
    const links = ['Boats', 'Fares', 'Help'].map((w, i) => words(`l${i}`, start + i * 70, 40, w)).join('');
    const drawn = `<path id="i" d="M${icon} 24h14v14h-14zM${icon + 4} 28h6v6h-6z" fill="#123"/>`;
    const label = { family: 'Inter', size: 14, weight: 400, italic: false, letterSpacing: 0, colour: '#000' };
    const inside = m.width('Book a seat', label);
    const button =
      rect('b', 1256 - inside - 32, 16, inside + 32, 32) +
      words('bw', 1240 - inside, 37, 'Book a seat', 'font-size="14"');
    return words('name', 24, 40, 'Kittiwake Line') + links + drawn + button;
  };

  test('three groups of a bar are held apart by what is left, not by wide gaps', () => {
    const structure = read(1280, 200, rect('ground', 0, 0, 1280, 64) + bar());
    const { root } = structure;
    expect(outline(root)).toContain('row');
    expect(rowWith(root, 'l0')?.children).toHaveLength(3);
    const gaps = [...walk(root)].flatMap((p) => [p.rules.gap, p.rules.gapBefore]);
    expect(gaps.filter((g) => typeof g === 'number' && g > 96)).toEqual([]);
    expect(scrolls(structure, 700)).toBe(false);
  });

  test('equal columns beside a wider one share the row with it', () => {
    const column = (x: number, names: readonly string[]) =>
      names.map((n, i) => words(`c${x}-${i}`, x, 120 + i * 30, n)).join('');
    const foot =
      words('brand', 40, 120, 'Kittiwake Line') +
      words('claim', 40, 150, 'Ferries between the skerries since the first pier.') +
      column(620, ['Boats', 'Piers', 'Crew']) +
      column(840, ['Fares', 'Passes', 'Groups']) +
      column(1060, ['Help', 'Contact', 'Lost']);
    const structure = read(1280, 240, foot);
    const fills = [...walk(structure.root)].filter(
      (p) =>
        ['row', 'wrap'].includes(p.rules.flow ?? '') &&
        p.children.filter((c) => c.rules.width?.kind === 'fill').length === 4,
    );
    expect(fills, outline(structure.root)).toHaveLength(1);
    expect(scrolls(structure, 700)).toBe(false);
  });

  test('bars of one width that fill their row share it', () => {
    const bars = Array.from({ length: 8 }, (_, i) => {
      const height = 40 + ((i * 37) % 90);
      return rect(`bar${i}`, 40 + i * 100, 200 - height, 90, height, 'fill="#3f7f75"');
    });
    const structure = read(870, 260, rect('card', 20, 20, 830, 220) + bars.join(''));
    const widths = Array.from({ length: 8 }, (_, i) => partOf(structure.root, `bar${i}`).rules.width?.kind);
    expect(new Set(widths)).toEqual(new Set(['fill']));
    const narrow = standingBoxes(structure, 500, new Engine(m));
    expect(right(narrow.get('bar7') ?? { x: 0, y: 0, width: 0, height: 0 })).toBeLessThanOrEqual(500);
  });

  test('by a gap wider than itself a track says that it keeps its size, and the gap is what is left', () => {
    const structure = read(
      900,
      120,
      words('w', 20, 66, 'Room on deck') +
        rect('track', 680, 50, 200, 20, 'rx="10" fill="#d9e4e2"') +
        rect('part', 680, 50, 60, 20, 'rx="10" fill="#3f7f75"'),
    );
    const { root } = structure;
    expect(rowWith(root, 'w')?.rules.gap, outline(root)).toBe('between');
    expect(standingBoxes(structure, 600, new Engine(m)).get('track')).toMatchObject({ x: 380, width: 200 });
  });
});
