import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { readPart, readSeveral } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import { findPart, parentOf, updatePart, walk, type Structure } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { draw, partOf, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

const stroke = 'fill="#ffffff" stroke="#8aa3a0"';

describe('what parts are called', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });
  const read = (body: string, width = 1000, height = 700): Structure =>
    readSeveral([draw(width, height, body, m)], m);
  const holderOf = (structure: Structure, item: string): string =>
    parentOf(structure.root, partOf(structure.root, item).id)?.name ?? '';
  const nameOf = (structure: Structure, item: string): string => partOf(structure.root, item).name;

  const bar =
    rect('bar', 0, 0, 1000, 64) +
    words('line', 32, 39, 'Kittiwake Line') +
    ['Sailings', 'Fares', 'Piers'].map((t, i) => words(`l${i}`, 700 + i * 90, 39, t)).join('') +
    words('title', 32, 140, 'Next sailings', 'font-size="28"') +
    words('para', 32, 180, 'Boats leave from pier 2 in all weathers but fog.');

  test('a bar at the top by its place, words by themselves', () => {
    const structure = read(bar);
    expect(nameOf(structure, 'bar')).toBe('Top bar');
    expect(nameOf(structure, 'l1')).toBe('Fares');
  });

  test('short words of one style as links', () => {
    const links = ['Piers', 'Fares', 'Crew'].map((t, i) => words(`l${i}`, 640, 60 + i * 36, t)).join('');
    const structure = read(rect('picture', 40, 40, 500, 400) + links);
    expect(holderOf(structure, 'l1')).toBe('Piers links');
  });

  test('a box with words by the words that stand out, and what it is', () => {
    const structure = read(
      rect('card', 40, 100, 360, 300) +
        words('small', 64, 140, 'Leaves 14:20') +
        words('name', 64, 190, 'Marrow Isle', 'font-size="26" font-weight="600"') +
        rect('btn', 64, 320, 120, 40, 'fill="#0b4f4a"') +
        words('book', 98, 345, 'Book'),
    );
    expect(nameOf(structure, 'card')).toBe('Marrow Isle panel');
    expect(nameOf(structure, 'btn')).toBe('Book button');
  });

  test('a field by the label above it', () => {
    const structure = read(
      words('label', 40, 60, 'Passengers', 'font-size="13"') +
        rect('field', 40, 72, 400, 44, stroke) +
        words('value', 56, 99, '2 grown-ups') +
        words('label2', 40, 150, 'Vehicle', 'font-size="13"') +
        rect('field2', 40, 162, 400, 44, stroke) +
        words('value2', 56, 189, 'No vehicle'),
      480,
      260,
    );
    expect(nameOf(structure, 'field')).toBe('Passengers input');
    expect(nameOf(structure, 'field2')).toBe('Vehicle input');
  });

  test('alike things in a list as entries; numbers are only among real equals', () => {
    const entry = (i: number, text: string) =>
      `<circle id="dot${i}" cx="56" cy="${80 + i * 64}" r="16" fill="#2c7a73"/>` +
      words(`n${i}`, 88, 78 + i * 64, text) +
      words(`t${i}`, 88, 98 + i * 64, 'Runs daily', 'font-size="13"');
    const structure = read(['Skua', 'Petrel', 'Tern', 'Auk'].map((t, i) => entry(i, t)).join(''), 400, 360);
    const names = [...walk(structure.root)].map((p) => p.name);
    expect(names).toEqual(expect.arrayContaining(['Skua entry', 'Petrel entry', 'Tern entry', 'Auk entry']));
    expect(names.filter((n) => /^(Skua|Petrel|Tern|Auk) .*\d$/.test(n))).toEqual([]);
  });

  test('every name is given once, whatever is drawn', () => {
    const word = fc.constantFrom('Sailings', 'Fares', 'Pier 2', '14', '');
    fc.assert(
      fc.property(fc.array(fc.tuple(word, fc.boolean()), { minLength: 2, maxLength: 9 }), (things) => {
        const body = things
          .map(([text, boxed], i) => {
            const y = 20 + i * 60;
            return (
              (boxed || text === '' ? rect(`b${i}`, 20, y, 300, 44) : '') +
              (text ? words(`w${i}`, 40, y + 28, text) : '')
            );
          })
          .join('');
        const names = [...walk(read(body, 400, 600).root)].map((p) => p.name);
        expect(new Set(names).size).toBe(names.length);
        expect(names.every((n) => n.trim() === n && n !== '')).toBe(true);
      }),
      { numRuns: 25 },
    );
  });

  test('a part that is read again takes no name that another has', () => {
    const drawing = draw(1000, 700, bar, m);
    const structure = readSeveral([drawing], m);
    const id = partOf(structure.root, 'bar').id;
    const again = readPart(structure, id, [drawing], m, new Engine(m));
    if ('reason' in again || again.step.kind !== 'replace') throw new Error('It was not read again.');
    const { part } = again.step;
    const root = updatePart(structure.root, id, () => part);
    const names = [...walk(root)].map((p) => p.name);
    expect(new Set(names).size).toBe(names.length);
    expect(findPart(root, id)?.name).toBe('Top bar');
  });
});
