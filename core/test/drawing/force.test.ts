import { describe, expect, test } from 'vitest';
import {
  joinRefusal,
  kindOfItem,
  otherKinds,
  type Drawing,
  type DrawingDecisions,
  type Item,
} from '@tinfold/core/drawing';
import { plainText } from '@tinfold/core/model';
import { openWithFonts } from '../support/fonts.js';

const BODY =
  '<rect id="box" x="10" y="10" width="90" height="40" rx="6" fill="#223344"/><text id="words" x="20" y="100">Low Tarn</text><path id="art" d="M200 10h40v20z" fill="#556677"/><path id="art2" d="M250 10h40v20z" fill="#556677"/><text id="more" x="20" y="130">Mondays</text><image id="photo" x="300" y="10" width="50" height="50"/>';
const read = (decisions: Partial<DrawingDecisions> = {}): Promise<Drawing> =>
  openWithFonts(
    `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300" font-family="Inter" font-size="16">${BODY}</svg>`,
    decisions,
  );
const item = (d: Drawing, id: string): Item => {
  const found = d.items.find((i) => i.id === id);
  if (!found) throw new Error(`no item ${id}`);
  return found;
};

describe('an item is taken for another kind', () => {
  const ALL = ['box', 'words', 'art', 'photo'];
  test.each(ALL)('%s for everything that it can be, in its place', async (id) => {
    const plain = item(await read(), id);
    expect(otherKinds(plain).length).toBeGreaterThanOrEqual(2);
    for (const kind of otherKinds(plain)) {
      const d = await read({ force: [{ id, kind, words: 'Ellin Skerry' }] });
      const taken = item(d, id);
      expect(kindOfItem(taken)).toBe(kind);
      expect(taken.box.x).toBeCloseTo(plain.box.x, 3);
      if (kind !== 'text') expect(taken.box).toEqual(plain.box);
      expect(d.items.map((i) => i.id)).toEqual((await read()).items.map((i) => i.id));
    }
  });

  test('outlines that are words get their words, as wide as they were drawn', async () => {
    const taken = item(await read({ force: [{ id: 'art', kind: 'text', words: 'Pier' }] }), 'art');
    if (taken.kind !== 'text') throw new Error('no text');
    expect(plainText(taken.content)).toBe('Pier');
    expect(taken.box.width).toBeLessThanOrEqual(40.1);
  });

  test('words that are an icon keep their outlines', async () => {
    const taken = item(await read({ force: [{ id: 'words', kind: 'icon' }] }), 'words');
    if (taken.kind !== 'art' || taken.content.kind !== 'art') throw new Error('no icon');
    expect(taken.content.paths[0]?.d).toMatch(/^M[\d.]/);
  });

  test('outlines that are a picture are one by data URI', async () => {
    const taken = item(await read({ force: [{ id: 'art', kind: 'picture' }] }), 'art');
    expect(taken.kind === 'picture' && taken.content.href).toMatch(/^data:image\/svg\+xml;base64,/);
  });
});

describe('several are made one', () => {
  test('shapes to an icon that has the first name and all outlines', async () => {
    const d = await read({ join: [['art', 'art2']] });
    const whole = item(d, 'art');
    expect(whole.box).toEqual({ x: 200, y: 10, width: 90, height: 20 });
    expect(whole.kind === 'art' && whole.content.kind === 'art' && whole.content.paths).toHaveLength(2);
    expect(d.items.some((i) => i.id === 'art2')).toBe(false);
  });

  test('texts to a paragraph with its lines', async () => {
    const whole = item(await read({ join: [['words', 'more']] }), 'words');
    if (whole.kind !== 'text') throw new Error('no text');
    expect(plainText(whole.content)).toBe('Low Tarn\nMondays');
    expect(whole.lines).toHaveLength(2);
  });

  test('words and shapes are refused with a sentence, and nothing changes', async () => {
    const plain = await read();
    expect(joinRefusal([item(plain, 'words'), item(plain, 'art')])).toMatch(
      /^Words and shapes cannot be made one/,
    );
    expect(joinRefusal([item(plain, 'photo'), item(plain, 'art')])).toMatch(/picture/);
    expect((await read({ join: [['words', 'art']] })).items).toEqual(plain.items);
  });
});
