import { beforeAll, describe, expect, test } from 'vitest';
import { readStructure } from '@tinfold/core/infer';
import { check, walk, type Part } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { style } from '../support/build.js';
import { draw, outline, partOf, rect, rulesOf, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

describe('the structure read from a drawing', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  const read = (width: number, height: number, body: string): Part => {
    const { root } = readStructure(draw(width, height, body, m), m);
    expect(check(root)).toEqual([]);
    return root;
  };

  const byFlow = (root: Part, flow: string): Part => {
    const found = [...walk(root)].find((p) => p.rules.flow === flow);
    if (!found) throw new Error(`no ${flow} in\n${outline(root)}`);
    return found;
  };

  test('a card holds a column with one gap and its padding', () => {
    const root = read(
      400,
      300,
      rect('card', 40, 40, 320, 116) +
        words('a', 56, 72, 'Marrow Isle') +
        words('b', 56, 104, 'Low Tarn') +
        words('c', 56, 136, 'Pier 2'),
    );
    expect(outline(partOf(root, 'card'))).toBe('column card\n  text a\n  text b\n  text c\n');
    expect(rulesOf(root, 'card')).toContain('gap 8 pad 14 16 w fill');
  });

  test('four alike cards are a grid that repeats as often as they fit', () => {
    const cards = [0, 1, 2, 3]
      .map(
        (i) => rect(`c${i}`, 40 + i * 300, 40, 280, 120) + words(`t${i}`, 60 + i * 300, 80, `Sailing ${i}`),
      )
      .join('');
    const root = read(1260, 200, cards);
    expect(byFlow(root, 'grid').rules).toMatchObject({
      flow: 'grid',
      gap: 20,
      columns: { kind: 'repeat', most: 4 },
    });
    expect(new Set(byFlow(root, 'grid').children.map((c) => c.pattern)).size).toBe(1);
    expect(rulesOf(root, 'c0')).toContain('w fill h fill');
  });

  test('two rows of alike cards are one grid', () => {
    const cards = [0, 1, 2, 3, 4]
      .map(
        (i) =>
          rect(`c${i}`, 40 + (i % 3) * 300, 40 + Math.floor(i / 3) * 160, 280, 140) +
          words(`t${i}`, 60 + (i % 3) * 300, 80 + Math.floor(i / 3) * 160, `Ferry ${i}`),
      )
      .join('');
    expect(byFlow(read(960, 400, cards), 'grid').rules).toMatchObject({
      flow: 'grid',
      gap: 20,
      columns: { kind: 'repeat' },
    });
  });

  test('a bar with ends apart', () => {
    const root = read(
      800,
      200,
      words('brand', 24, 40, 'Kittiwake Line') +
        words('help', 800 - 24 - m.width('Help', style()), 40, 'Help') +
        rect('below', 0, 80, 800, 120),
    );
    const bar = root.children.find((p) => outline(p).includes('text brand'));
    expect(outline(root)).toMatch(/row\n\s+text brand\n\s+text help/);
    expect(JSON.stringify(bar)).toContain('"gap":"between"');
  });

  test('fields in a row share it 1:1, their words do not', () => {
    const body =
      rect('frame', 0, 0, 640, 120) +
      rect('a', 20, 40, 290, 44, 'fill="#fff" stroke="#888"') +
      words('aw', 34, 67, 'Low Tarn') +
      rect('b', 330, 40, 290, 44, 'fill="#fff" stroke="#888"') +
      words('bw', 344, 67, 'Ellin Skerry, north');
    const root = read(640, 120, body);
    expect([rulesOf(root, 'a'), rulesOf(root, 'b')].every((r) => r.includes('w fill'))).toBe(true);
    expect(rulesOf(root, 'aw')).toContain('w fit');
  });

  test('a rail keeps its width beside what fills', () => {
    const root = read(
      1000,
      600,
      rect('rail', 0, 0, 220, 600) +
        words('nav', 24, 40, 'Sailings') +
        rect('main', 220, 0, 780, 600, 'fill="#fff"') +
        words('title', 252, 48, 'Departures'),
    );
    expect([rulesOf(root, 'rail'), rulesOf(root, 'main')]).toEqual([
      expect.stringContaining('w 220'),
      expect.stringContaining('w fill'),
    ]);
  });

  test('a list row: a face of its own size, words that fill, a time at the end', () => {
    const list = [0, 1, 2]
      .map(
        (i) =>
          `<circle id="f${i}" cx="40" cy="${40 + i * 64}" r="20" fill="#3f7f75"/>` +
          words(`n${i}`, 72, 46 + i * 64, 'Ines Thorne') +
          words(`t${i}`, 374 - m.width('09:20', style()), 46 + i * 64, '09:20'),
      )
      .join('');
    const root = read(390, 240, list);
    expect(outline(root)).toContain('row\n    shape f0\n    text n0\n    text t0\n');
    expect([rulesOf(root, 'f0'), rulesOf(root, 'n0'), rulesOf(root, 't0')]).toEqual([
      expect.stringContaining('w 40'),
      expect.stringContaining('w fill'),
      expect.stringContaining('w fit'),
    ]);
  });

  test('faces that overlap evenly are a row with a negative gap', () => {
    const root = read(
      390,
      120,
      [0, 1, 2, 3]
        .map((i) => `<circle id="f${i}" cx="${40 + i * 28}" cy="40" r="20" fill="#3f7f75"/>`)
        .join('') + words('n', 20, 100, 'Four crew aboard'),
    );
    expect(JSON.stringify(root)).toContain('"gap":-12');
  });

  test('a badge hangs on its corner, a floating button on the frame', () => {
    const badge = read(
      390,
      200,
      `<circle id="face" cx="60" cy="60" r="30" fill="#3f7f75"/><circle id="dot" cx="84" cy="84" r="8" fill="#c33"/>` +
        words('n', 120, 66, 'Ines Thorne'),
    );
    expect(partOf(badge, 'dot').rules.pin).toEqual({ right: -2, bottom: -2 });
    const rows = [0, 1, 2, 3, 4]
      .map((i) => rect(`r${i}`, 0, i * 80, 390, 79) + words(`w${i}`, 20, 46 + i * 80, `Sailing ${i}`))
      .join('');
    const floating = read(390, 400, rows + `<circle id="plus" cx="342" cy="312" r="28" fill="#b5562a"/>`);
    expect(partOf(floating, 'plus').rules.pin).toEqual({ right: 20, bottom: 60 });
  });

  test('a dialog over a scrim hangs in the middle of it', () => {
    const root = read(
      1000,
      600,
      words('under', 40, 60, 'Departures') +
        rect('scrim', 0, 0, 1000, 600, 'fill="#000" fill-opacity="0.4"') +
        rect('dialog', 300, 200, 400, 200, 'fill="#fff"') +
        words('ask', 324, 240, 'Cancel this sailing?'),
    );
    expect(partOf(root, 'scrim').rules.pin).toEqual({ left: 0, right: 0, top: 0, bottom: 0 });
    expect(outline(partOf(root, 'scrim'))).toContain('column dialog');
  });

  test('content between wide even margins has a limit, not paddings', () => {
    const root = read(
      1440,
      400,
      rect('band', 0, 0, 1440, 80) + rect('content', 240, 120, 960, 200) + words('w', 264, 160, 'Fares'),
    );
    expect(partOf(root, 'content').rules.maxWidth).toBe(960);
  });

  test('a picture across its card keeps its ratio, and a caption hangs on it', () => {
    const picture = `<image id="pic" x="20" y="20" width="352" height="198"/>`;
    const root = read(
      390,
      400,
      picture +
        rect('tag', 32, 180, 96, 28, 'fill="#000"') +
        words('tw', 42, 199, 'Low Tarn', 'fill="#fff"') +
        words('n', 20, 260, 'The night boat'),
    );
    expect(partOf(root, 'pic').rules.height).toEqual({ kind: 'ratio', width: 352, height: 198 });
    expect(partOf(root, 'tag').rules.pin).toEqual({ left: 12, bottom: 10 });
  });

  test('the filled part of a bar is a share of it', () => {
    const root = read(
      400,
      100,
      rect('track', 20, 40, 360, 8) +
        rect('bar', 20, 40, 90, 8, 'fill="#3f7f75"') +
        words('n', 20, 30, 'Car deck'),
    );
    expect(partOf(root, 'bar').rules.width).toEqual({ kind: 'share', percent: 25 });
  });

  test('equal tabs fill their bar whatever their words', () => {
    const tabs = ['Trips', 'Boarding', 'More']
      .map((t, i) => words(`t${i}`, 65 + i * 130 - m.width(t, style()) / 2, 40, t))
      .join('');
    const root = read(
      390,
      300,
      words('top', 20, 40, 'Trips') +
        `<g transform="translate(0 230)">${rect('bar', 0, 0, 390, 70)}${tabs}</g>`,
    );
    expect(['t0', 't1', 't2'].map((t) => rulesOf(root, t).includes('w fill'))).toEqual([true, true, true]);
  });
});
