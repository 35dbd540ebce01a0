import { faceFor } from '@tinfold/core/text';
import { loadMeasurer } from '../cli/src/fonts.js';

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
