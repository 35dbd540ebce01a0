import { describe, expect, test } from 'vitest';
import { NO_DECISIONS, openDrawing, type Drawing, type DrawingDecisions } from '@tinfold/core/drawing';
import { openWithFonts } from '../support/fonts.js';

const svg = (body: string, size = 'width="1000" height="900"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${size} font-family="Inter" font-size="16">${body}</svg>`;
const screen = (name: string, x: number, words: string) =>
  `<g id="${name}" transform="translate(${x} 40)"><rect width="390" height="800" fill="#fff"/><text x="16" y="40">${words}</text><rect x="16" y="60" width="358" height="90" fill="#cde"/><circle cx="30" cy="780" r="9" fill="red"/></g>`;
const TWO = svg(
  `<text x="40" y="24">Board</text>${screen('Board', 40, 'Departures')}${screen('Pass', 480, 'Boarding pass')}`,
);

describe('several screens side by side in one file', () => {
  test('are found with their names, left to right', () => {
    expect(openDrawing(TWO, 'x').frames).toEqual([
      { name: 'Board', box: { x: 40, y: 40, width: 390, height: 800 } },
      { name: 'Pass', box: { x: 480, y: 40, width: 390, height: 800 } },
    ]);
  });

  test('one of them is read by itself, from its own corner', async () => {
    const [, pass] = openDrawing(TWO, 'x').frames;
    const d = await openWithFonts(TWO, { ...(pass && { frame: pass.box }) });
    expect([d.width, d.height]).toEqual([390, 800]);
    expect(d.items.filter((i) => i.kind === 'text')).toMatchObject([
      { content: { runs: [{ text: 'Boarding pass' }] } },
    ]);
    expect(d.items[1]?.box).toEqual({ x: 16, y: 60, width: 358, height: 90 });
    expect(d.background).toMatchObject({ fill: { colour: '#ffffff' } });
  });

  test.each([
    ['one screen', screen('Board', 40, 'Departures')],
    [
      'panes that touch',
      '<rect width="500" height="900" fill="#eee"/><rect x="500" width="500" height="900" fill="#fff"/><text x="9" y="30">A</text><text x="9" y="60">B</text><text x="9" y="90">C</text><text x="600" y="30">A</text><text x="600" y="60">B</text><text x="600" y="90">C</text>',
    ],
    [
      'cards below a heading and a menu',
      `${'<text x="500" y="20">Menu</text>'.repeat(6)}${screen('a', 40, 'One')}${screen('b', 480, 'Two')}`,
    ],
  ])('%s are one', (_, body) => {
    expect(openDrawing(svg(body), 'x').frames).toEqual([]);
  });
});

describe('what the device draws', () => {
  const PHONE =
    '<rect width="390" height="844" fill="#fff"/><text id="clock" x="32" y="34" font-weight="600">9:41</text><rect id="signal" x="300" y="22" width="18" height="12" rx="2" fill="#000"/><rect id="battery" x="340" y="22" width="25" height="12" rx="3" fill="#000"/><text id="title" x="16" y="90">Boarding pass</text><rect id="home" x="128" y="831" width="134" height="5" rx="2.5" fill="#000"/>';
  const read = (decisions: Partial<DrawingDecisions> = {}): Promise<Drawing> =>
    openWithFonts(svg(PHONE, 'width="390" height="844"'), decisions);

  test('is left out, told, and its strips are kept clear', async () => {
    const d = await read();
    expect(d.items.map((i) => i.id)).toEqual(['title']);
    expect(d.notes).toContainEqual(
      expect.objectContaining({ cleanUp: 'device', items: ['clock', 'signal', 'battery', 'home'] }),
    );
    expect(d.safeArea).toEqual({ top: 40, bottom: 21 });
  });

  test('can be taken back', async () => {
    const d = await read({ keepKinds: ['device'] });
    expect(d.items).toHaveLength(5);
    expect(d.safeArea).toBeUndefined();
  });

  test('a time on a wide screen is no clock of a device', async () => {
    const d = await openWithFonts(svg(PHONE, 'width="1280" height="844"'), NO_DECISIONS);
    expect(d.items.map((i) => i.id)).toContain('clock');
  });
});
