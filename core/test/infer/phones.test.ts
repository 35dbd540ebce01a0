import { beforeAll, describe, expect, test } from 'vitest';
import { readSeveral, readStructure } from '@tinfold/core/infer';
import { Engine, standingBoxes } from '@tinfold/core/layout';
import { checkAll, right, standing, walk, type Structure } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { draw, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

const LINKS = ['Sailings', 'Fares', 'Piers', 'The fleet', 'Crew', 'Contact'];

/** A bar across the top: a name, links and a button. */
const bar = (width: number, links = LINKS): string =>
  rect('bar', 0, 0, width, 64) +
  words('name', 32, 40, 'Kittiwake Line', 'font-weight="600"') +
  links.map((t, i) => words(`l${i}`, 360 + i * 104, 40, t)).join('') +
  rect('book', width - 152, 14, 120, 36, 'fill="#1f5f57" rx="6"') +
  words('bookw', width - 136, 38, 'Book a boat', 'fill="#fff"');

const body = (width: number): string =>
  words('h', 48, 140, 'Boats to every pier', 'font-size="28"') +
  rect('card', 48, 180, width - 96, 200) +
  words('p', 72, 220, 'Times of high and low water by day and night.');

describe('what a screen drawn wide does on phones', () => {
  let m: ShapedMeasurer;
  let engine: Engine;
  beforeAll(async () => {
    m = await testMeasurer();
    engine = new Engine(m);
  });
  const read = (width: number, height: number, svg: string): Structure => {
    const structure = readStructure(draw(width, height, svg, m), m);
    expect(checkAll(structure)).toEqual([]);
    return structure;
  };
  const shownAt = (structure: Structure, width: number): string[] =>
    [...walk(standing(structure, { width }))].flatMap((p) => (p.rules.hidden ? [] : [p.name]));

  test('its bar stays one line, and a menu button takes the place of links and button', () => {
    const structure = read(1280, 420, bar(1280) + body(1280));
    const phone = standingBoxes(structure, 390, engine);
    expect(phone.get('bar')?.height).toBeCloseTo(64, 0);
    expect(phone.has('name')).toBe(true);
    for (const id of ['l0', 'l5', 'bookw']) expect(phone.has(id)).toBe(false);
    expect(shownAt(structure, 390)).toContain('Menu button');
    expect(shownAt(structure, 1280)).not.toContain('Menu button');
    const menu = [...walk(structure.root)].find((p) => p.name === 'Menu button');
    expect(menu?.children).toHaveLength(3);
  });

  test('nothing gives way in a bar that has room for all on a phone', () => {
    const few =
      rect('bar', 0, 0, 1280, 64) + words('name', 32, 40, 'Kittiwake') + words('l0', 1200, 40, 'Fares');
    const structure = read(1280, 420, few + body(1280));
    expect(standingBoxes(structure, 390, engine).has('l0')).toBe(true);
    expect(shownAt(structure, 390)).not.toContain('Menu button');
  });

  test('content comes nearer to the sides, and no nearer than phones keep it', () => {
    const structure = read(1280, 420, bar(1280) + body(1280));
    const phone = standingBoxes(structure, 390, engine).get('card');
    expect(phone?.x).toBeGreaterThanOrEqual(12);
    expect(phone?.x).toBeLessThanOrEqual(24);
    expect(390 - right(phone ?? { x: 0, y: 0, width: 0, height: 0 })).toBeLessThanOrEqual(24);
  });

  test('a picture that fills one side makes room for what stands beside it', () => {
    const form =
      words('h', 200, 220, 'Your account', 'font-size="24"') +
      rect('f1', 200, 250, 320, 44) +
      words('w1', 212, 278, 'Name of the boat') +
      rect('f2', 200, 310, 320, 44) +
      words('w2', 212, 338, 'Number of the pier');
    const structure = read(1440, 600, `${form}<image id="pic" x="720" y="0" width="720" height="600"/>`);
    expect(standingBoxes(structure, 1440, engine).get('pic')?.x).toBeCloseTo(720, 0);
    const phone = standingBoxes(structure, 390, engine);
    expect(phone.has('pic')).toBe(false);
    expect(phone.get('f1')?.width).toBeGreaterThan(280);
  });

  test('links of a rail stand side by side in a strip above the content', () => {
    const rail =
      rect('rail', 0, 0, 220, 700) +
      words('name', 24, 40, 'Kittiwake Line', 'font-weight="600"') +
      LINKS.map((t, i) => words(`l${i}`, 24, 96 + i * 40, t)).join('');
    const content = rect('card', 252, 32, 996, 300) + words('p', 276, 70, 'Every boat of today.');
    const structure = read(1280, 700, rail + content);
    const phone = standingBoxes(structure, 390, engine);
    expect(phone.get('l0')?.y).toBeCloseTo(phone.get('l1')?.y ?? 0, 0);
    expect(phone.get('rail')?.height).toBeLessThan(260);
    expect(phone.get('card')?.y).toBeGreaterThanOrEqual(phone.get('rail')?.height ?? 0);
    expect(phone.get('card')?.x).toBeGreaterThan(8);
  });

  test('a phone’s own drawing tells, and nothing is guessed beside it', () => {
    const small =
      rect('bar', 0, 0, 390, 64) +
      words('name', 32, 40, 'Kittiwake Line', 'font-weight="600"') +
      LINKS.slice(0, 2)
        .map((t, i) => words(`l${i}`, 200 + i * 90, 40, t))
        .join('') +
      words('h', 48, 140, 'Boats to every pier', 'font-size="28"') +
      rect('card', 48, 180, 294, 200) +
      words('p', 72, 220, 'Times of high and low');
    const wide = draw(1280, 420, bar(1280) + body(1280), m);
    const structure = readSeveral([wide, draw(390, 420, small, m)], m);
    expect(shownAt(structure, 390)).not.toContain('Menu button');
    expect(standingBoxes(structure, 390, engine).get('card')?.x).toBeCloseTo(48, 0);
  });
});
