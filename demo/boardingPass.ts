import type { TextMeasurer } from '@tinfold/core/text';
import { ferryPicture } from './png.js';
import { words, type Drawn, type Sheet, type Type } from './sheet.js';

const INK = '#1d2f3a';
const QUIET = '#5b6b73';
const COPPER = '#b5562a';
const type = (size: number, weight: number, colour = INK): Type => ({ size, weight, colour });

/** The boarding pass of Kittiwake Line on a phone, with its tab bar. */
export function boardingPass(measurer: TextMeasurer): Sheet {
  const family = 'Inter';
  const w = words(measurer, family);
  const fact = (id: string, x: number, y: number, label: string, value: string): Drawn[] => [
    w.left(`${id} label`, x, y, label, type(12, 400, QUIET)),
    w.left(`${id} value`, x, y + 22, value, type(16, 600)),
  ];
  const tabs = ['Trips', 'Board', 'Pass', 'More'];
  const glyphs = [
    'M3 7h14M3 13h14M6 3v14',
    'M3 4h14v12H3zM3 8h14',
    'M4 3h12v14H4zM8 8h4M8 12h4',
    'M4 10h.01M10 10h.01M16 10h.01',
  ];
  const tabItems = tabs.flatMap((text, i): Drawn[] => {
    const centre = 97.5 * i + 48.75;
    const colour = text === 'Pass' ? COPPER : QUIET;
    return [
      {
        kind: 'path',
        id: `Tab ${text} glyph`,
        x: centre - 10,
        y: 772,
        d: glyphs[i] ?? '',
        stroke: colour,
        width: 1.8,
      },
      w.middle(`Tab ${text}`, centre, 810, text, type(12, text === 'Pass' ? 600 : 500, colour)),
    ];
  });
  return {
    width: 390,
    height: 844,
    background: '#f3f1ea',
    family,
    items: [
      w.left('Title', 20, 78, 'Boarding pass', type(28, 700)),
      { kind: 'disc', id: 'Face', cx: 350, cy: 68, r: 20, fill: '#3f7f75' },
      w.middle('Face letters', 350, 73, 'IT', type(14, 600, '#ffffff')),
      { kind: 'rect', id: 'Pass', x: 20, y: 112, w: 350, h: 448, fill: '#ffffff', r: 14 },
      { kind: 'image', id: 'Pass picture', x: 20, y: 112, w: 350, h: 150, href: ferryPicture(350, 150) },
      w.left('From', 40, 302, 'Low Tarn', type(20, 700)),
      w.right('To', 350, 302, 'Ellin Skerry', type(20, 700)),
      w.left('From time', 40, 324, '15:40', type(14, 400, QUIET)),
      w.right('To time', 350, 324, '16:45', type(14, 400, QUIET)),
      { kind: 'rect', id: 'Fold', x: 40, y: 344, w: 310, h: 1, fill: '#d9d5c8' },
      ...fact('Passenger', 40, 374, 'Passenger', 'Ines Thorne'),
      ...fact('Deck', 250, 374, 'Deck', 'B, aft'),
      ...fact('Vehicle', 40, 430, 'Vehicle', 'One bicycle'),
      ...fact('Pier', 250, 430, 'Pier', '3'),
      { kind: 'rect', id: 'Show', x: 40, y: 488, w: 310, h: 52, fill: INK, r: 10 },
      w.middle('Show words', 195, 520, 'Show the code', type(16, 600, '#ffffff')),
      {
        kind: 'text',
        id: 'Advice',
        x: 20,
        y: 594,
        lines: [
          'Be at the north ramp ten minutes before the',
          'boat leaves. Bicycles board after the cars and',
          'ride on the aft deck.',
        ],
        pitch: 22,
        type: type(15, 400, QUIET),
      },
      { kind: 'rect', id: 'Tab bar', x: 0, y: 760, w: 390, h: 84, fill: '#ffffff' },
      { kind: 'rect', id: 'Tab line', x: 0, y: 760, w: 390, h: 1, fill: '#d9d5c8' },
      ...tabItems,
    ],
  };
}
