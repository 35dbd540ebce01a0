import { FILL, fixed, pad, type Part, type Structure } from '@tinfold/core/model';
import { faceFor } from '@tinfold/core/text';
import { loadMeasurer } from '../host/src/fonts.js';

export const benchMeasurer = () =>
  loadMeasurer([400, 600].map((weight) => faceFor({ family: 'Inter', weight, italic: false })));

/** A list of cards as a flat drawing of about `items` items. */
export function cardsDrawing(items: number): string {
  const per = 4;
  const cards = Math.ceil(items / per);
  const body = Array.from({ length: cards }, (_, i) => {
    const [x, y] = [40 + (i % 4) * 300, 40 + Math.floor(i / 4) * 140];
    return `<rect x="${x}" y="${y}" width="280" height="120" fill="#e3ecea"/><text x="${x + 16}" y="${y + 32}" font-weight="600">Sailing ${i}</text><text x="${x + 16}" y="${y + 60}">From pier ${i % 5}</text><rect x="${x + 16}" y="${y + 84}" width="248" height="6" fill="#3f7f75"/>`;
  }).join('');
  const height = 80 + Math.ceil(cards / 4) * 140;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="1260" height="${height}" font-family="Inter" font-size="16">${body}</svg>`;
}

let made = 0;
const part = (kind: Part['kind'], rules: Part['rules'], children: Part[] = [], words?: string): Part => ({
  id: `b${++made}`,
  name: kind,
  kind,
  rules,
  children,
  source: [],
  ...(words !== undefined && {
    content: {
      kind: 'text',
      lineHeight: 24,
      align: 'start',
      runs: [
        {
          text: words,
          style: { family: 'Inter', size: 16, weight: 400, italic: false, letterSpacing: 0, colour: '#123' },
        },
      ],
    },
  }),
});

/** A screen of about so many parts: wraps of cards that hold a heading, words that break, and a row with ends apart. */
export function cardsStructure(parts: number): Structure {
  const card = (i: number): Part =>
    part('container', { width: FILL, minWidth: 220, padding: pad(16), gap: 8 }, [
      part('text', { width: FILL }, [], `Sailing ${i} to Ellin Skerry`),
      part(
        'text',
        { width: FILL },
        [],
        `Leaves pier ${i % 5} every day but Sunday, with room for eighteen cars`,
      ),
      part('container', { flow: 'row', width: FILL, gap: 'between', align: 'centre' }, [
        part('text', {}, [], `${i % 24}:20`),
        part('shape', { width: fixed(24), height: fixed(24) }),
      ]),
    ]);
  const cards = Math.max(1, Math.round(parts / 6.2));
  const sections = Array.from({ length: Math.ceil(cards / 8) }, (_, s) =>
    part(
      'container',
      { flow: 'wrap', width: FILL, gap: 16, align: 'stretch' },
      Array.from({ length: Math.min(8, cards - s * 8) }, (_, i) => card(s * 8 + i)),
    ),
  );
  return {
    version: 1,
    name: 'Bench',
    drawn: { width: 1280, height: 900 },
    snap: 0,
    root: part('container', { width: FILL, padding: pad(24), gap: 32 }, sections),
  };
}
