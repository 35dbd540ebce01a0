import { describe, expect, test } from 'vitest';
import type { Drawing } from '@tinfold/core/drawing';
import { plainText } from '@tinfold/core/model';
import { openWithFonts } from '../support/fonts.js';

const svg = (body: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="300"><style>.board { color: #123456; font-family: Inter }</style>${body}</svg>`;
const html = (content: string) => `<div xmlns="http://www.w3.org/1999/xhtml" class="board">${content}</div>`;

const read = (body: string): Promise<Drawing> => openWithFonts(svg(body));

describe('HTML within an SVG', () => {
  test('is laid out as a page of its own, where it stands', async () => {
    const drawing = await read(
      `<rect id="card" x="40" y="20" width="300" height="200" fill="#eee"/><foreignObject id="words" x="40" y="20" width="300" height="200">${html(
        '<div style="position:absolute;left:16px;top:24px;width:200px;font-size:20px;line-height:28px">Low Tarn<br/>from pier 2</div><div style="position:absolute;left:16px;top:100px;width:120px;height:40px;background:#0a4f55;border-radius:8px"></div>',
      )}</foreignObject>`,
    );
    const [card, words, button] = drawing.items;
    expect(drawing.items).toHaveLength(3);
    expect(card?.id).toBe('card');
    if (words?.kind !== 'text') throw new Error('The words are no text.');
    expect(plainText(words.content)).toBe('Low Tarn from pier 2');
    expect(words.content.runs[0]?.style).toMatchObject({ family: 'Inter', size: 20, colour: '#123456' });
    expect(words.box.x).toBeCloseTo(56, 1);
    expect(words.box.y).toBeCloseTo(44, 1);
    expect(button).toMatchObject({
      kind: 'shape',
      box: { x: 56, y: 120, width: 120, height: 40 },
      paint: { radius: 8 },
    });
  });

  test('grows with what it stands in', async () => {
    const drawing = await read(
      `<g transform="translate(100 50) scale(2)"><foreignObject x="10" y="0" width="200" height="100">${html(
        '<div style="position:absolute;left:0;top:0;width:80px;height:20px;background:#0a4f55"></div><div style="position:absolute;left:0;top:30px;font-size:10px">Deck</div>',
      )}</foreignObject></g>`,
    );
    const [box, words] = drawing.items;
    expect(box?.box).toEqual({ x: 120, y: 50, width: 160, height: 40 });
    expect(words?.kind === 'text' && words.content.runs[0]?.style.size).toBe(20);
  });

  test('is left out and told where it lays itself out', async () => {
    const drawing = await read(
      `<rect id="card" width="300" height="200" fill="#eee"/><foreignObject id="words" width="300" height="200">${html('<p>One</p><p>Two</p>')}</foreignObject>`,
    );
    expect(drawing.items.map((i) => i.id)).toEqual(['card']);
    expect(drawing.notes.map((n) => n.text).join()).toMatch(/^The page lays itself out at “board”: open it/);
  });

  test('is what is read of a choice where it comes first, and runs nothing', async () => {
    const drawing = await read(
      `<switch><foreignObject x="0" y="0" width="300" height="100">${html(
        '<p style="margin:0;font-size:16px">Sailings</p><script>document.title = "run"</script>',
      )}</foreignObject><text y="20">This cannot be shown</text></switch>`,
    );
    expect(drawing.items.flatMap((i) => (i.kind === 'text' ? [plainText(i.content)] : []))).toEqual([
      'Sailings',
    ]);
    expect(drawing.notes.map((n) => n.text)).toContain('scripts, which are never run');
  });
});
