import { breakLines, type TextMeasurer } from '@tinfold/core/text';
import { styleOf, words, type Drawn, type Sheet, type Type } from './sheet.js';

/** What all screens of Kittiwake Line are drawn with. */
export const FAMILY = 'Barlow';
export const INK = '#1d2f3a';
export const QUIET = '#5b6b73';
export const SEA = '#3f7f75';
export const COPPER = '#b5562a';
export const LINE = '#c9d3d1';
export const WASH = '#e3ecea';

export const type = (size: number, weight: number, colour = INK): Type => ({ size, weight, colour });
const ON_DARK = type(16, 600, '#ffffff');

const MARK = 'M2 24l10-20 8 14 4-7 6 13z';

/** A pencil that measures as it draws. */
export function kit(measurer: TextMeasurer) {
  const w = words(measurer, FAMILY);

  const box = (
    id: string,
    x: number,
    y: number,
    width: number,
    height: number,
    look: { readonly fill?: string; readonly stroke?: string; readonly r?: number } = {},
  ): Drawn => ({ kind: 'rect', id, x, y, w: width, h: height, ...look });

  const group = (id: string, x: number, y: number, items: readonly Drawn[]): Drawn => ({
    kind: 'group',
    id,
    x,
    y,
    items,
  });

  /** A text as it breaks in so many px. */
  const lines = (text: string, width: number, t: Type): string[] =>
    breakLines(
      {
        kind: 'text',
        runs: [{ text, style: styleOf(FAMILY, t) }],
        lineHeight: t.size,
        align: 'start',
      },
      width,
      measurer,
    ).map((l) =>
      l.runs
        .map((r) => r.text)
        .join('')
        .trim(),
    );

  /** A paragraph, with the height that it takes. */
  const paragraph = (
    id: string,
    x: number,
    y: number,
    text: string,
    width: number,
    pitch: number,
    t: Type,
  ) => {
    const broken = lines(text, width, t);
    const drawn: Drawn = { kind: 'text', id, x, y, lines: broken, pitch, type: t };
    return { drawn, height: broken.length * pitch };
  };

  /** A button as wide as its word, or as wide as is said. */
  const button = (
    id: string,
    x: number,
    y: number,
    label: string,
    fill = COPPER,
    width = w.width(label, ON_DARK) + 48,
  ): Drawn[] => [
    box(`${id} box`, x, y, width, 44, { fill, r: 6 }),
    w.middle(id, x + width / 2, y + 27, label, ON_DARK),
  ];

  /** A quiet button, with a line round it. */
  const quietButton = (id: string, x: number, y: number, label: string, width?: number): Drawn[] => {
    const t = type(16, 600);
    const wide = width ?? w.width(label, t) + 48;
    return [
      box(`${id} box`, x, y, wide, 44, { fill: '#ffffff', stroke: LINE, r: 6 }),
      w.middle(id, x + wide / 2, y + 27, label, t),
    ];
  };

  /** A labelled field, 70 high. */
  const field = (id: string, x: number, y: number, width: number, label: string, value: string): Drawn[] => [
    w.left(`${id} label`, x, y + 13, label, type(14, 500, QUIET)),
    box(`${id} box`, x, y + 22, width, 48, { fill: '#ffffff', stroke: LINE, r: 6 }),
    w.left(`${id} value`, x + 16, y + 52, value, type(16, 400)),
  ];

  /** The bar on top of a wide screen. */
  const bar = (): Drawn => {
    const links = ['Sailings', 'Fares', 'Fleet', 'Help'];
    let x = 0;
    const linkItems = links.map((text): Drawn => {
      const item = w.left(`Link ${text}`, x, 0, text, type(15, 500));
      x += w.width(text, type(15, 500)) + 28;
      return item;
    });
    const linksWidth = x - 28;
    const sign = w.width('Sign in', type(15, 600));
    const brandEnd = 42 + w.width('Kittiwake Line', type(20, 600));
    const account = 1200 - sign - 40;
    return group('Top bar', 40, 20, [
      { kind: 'path', id: 'Mark', x: 0, y: 4, d: MARK, stroke: SEA, width: 2 },
      w.left('Brand', 42, 27, 'Kittiwake Line', type(20, 600)),
      // Ends apart with an even gap on both sides of the links.
      group('Links', brandEnd + (account - brandEnd - linksWidth) / 2, 25, linkItems),
      box('Sign in box', account, 0, sign + 40, 40, { fill: INK, r: 6 }),
      w.left('Sign in', account + 20, 25, 'Sign in', type(15, 600, '#ffffff')),
    ]);
  };

  /** The bar on top of a phone. */
  const phoneBar = (): Drawn =>
    group('Bar', 16, 12, [
      { kind: 'path', id: 'Mark', x: 0, y: 4, d: MARK, stroke: SEA, width: 2 },
      w.left('Brand', 42, 27, 'Kittiwake Line', type(20, 600)),
      { kind: 'path', id: 'Menu', x: 334, y: 8, d: 'M1 4h22M1 12h22M1 20h22', stroke: INK, width: 2 },
    ]);

  return { ...w, box, group, lines, paragraph, button, quietButton, field, bar, phoneBar };
}

export type Kit = ReturnType<typeof kit>;

/** The same things by other names, as a designer draws them anew for phones. */
export const renamed = (item: Drawn): Drawn =>
  item.kind === 'group'
    ? { ...item, id: `m ${item.id}`, items: item.items.map(renamed) }
    : { ...item, id: `m ${item.id}` };

/** A wide screen of these things, so many px high. */
export const wide = (height: number, items: readonly Drawn[]): Sheet => ({
  width: 1280,
  height,
  background: '#ffffff',
  family: FAMILY,
  items,
});

/** A phone's screen of these things, so many px high. */
export const phone = (height: number, items: readonly Drawn[]): Sheet => ({
  ...wide(height, items.map(renamed)),
  width: 390,
});
