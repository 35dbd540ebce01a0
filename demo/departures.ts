import type { TextMeasurer } from '@tinfold/core/text';
import { FAMILY, INK, kit, phone, QUIET, SEA, type, wide } from './kit.js';
import { ferryPicture } from './png.js';
import { words, type Drawn, type Sheet } from './sheet.js';

interface Sailing {
  readonly port: string;
  readonly time: string;
  readonly lasts: string;
  readonly fill: number;
  readonly full?: boolean;
}

const SAILINGS: readonly Sailing[] = [
  { port: 'Marrow Isle', time: '14:20', lasts: '38 min', fill: 0.45 },
  { port: 'Low Tarn', time: '14:55', lasts: '52 min', fill: 1, full: true },
  { port: 'Nether Quay', time: '15:10', lasts: '24 min', fill: 0.3 },
  { port: 'Ellin Skerry', time: '15:40', lasts: '1 h 5 min', fill: 0.6 },
];

const LEAD = [
  'Leaves 14:20 from pier 2. Deck space for 18 cars; foot passengers',
  'board by the north ramp until five minutes before.',
];
const NOTICE = 'Pier 1 is closed for repairs until Friday. Sailings to Low Tarn leave from pier 3.';

/** Draws the card of a sailing so many px wide. */
function cards(
  measurer: TextMeasurer,
  width: number,
): (s: Sailing, i: number, x: number, y: number) => Drawn {
  const w = words(measurer, FAMILY);
  return (s, i, x, y) => {
    const id = `Card ${i + 1}`;
    const end = width - 16;
    const items: Drawn[] = [
      {
        kind: 'rect',
        id: `${id} box`,
        x: 0,
        y: 0,
        w: width,
        h: 132,
        fill: '#ffffff',
        stroke: '#c9d3d1',
        r: 6,
      },
      w.left(`${id} port`, 16, 34, s.port, type(18, 600)),
      w.left(`${id} time`, 16, 66, s.time, type(22, 600)),
      w.right(`${id} lasts`, end, 66, s.lasts, type(14, 400, QUIET)),
      { kind: 'rect', id: `${id} track`, x: 16, y: 86, w: end - 16, h: 6, fill: '#dfe7e4', r: 3 },
      { kind: 'rect', id: `${id} bar`, x: 16, y: 86, w: (end - 16) * s.fill, h: 6, fill: SEA, r: 3 },
      w.left(
        `${id} deck`,
        16,
        114,
        s.full ? 'Car deck full, foot passengers only' : 'Space on the car deck',
        type(13, 400, QUIET),
      ),
    ];
    if (s.full) {
      const label = w.width('full', type(12, 600));
      items.push(
        {
          kind: 'rect',
          id: `${id} badge`,
          x: width - 12 - label - 16,
          y: 12,
          w: label + 16,
          h: 20,
          fill: INK,
          r: 3,
        },
        w.left(`${id} badge words`, width - 12 - label - 8, 26, 'full', type(12, 600, '#ffffff')),
      );
    }
    return { kind: 'group', id, x, y, items };
  };
}

/** The departures board of Kittiwake Line at 1280. */
export function departures(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  const card = cards(measurer, 285);
  return wide(640, [
    w.bar(),
    {
      kind: 'group',
      id: 'Lead',
      x: 40,
      y: 84,
      items: [
        { kind: 'rect', id: 'Lead box', x: 0, y: 0, w: 1200, h: 260, fill: '#e3ecea', r: 8 },
        {
          kind: 'text',
          id: 'Lead title',
          x: 40,
          y: 82,
          lines: ['Next boat to Marrow Isle'],
          pitch: 0,
          type: type(40, 600),
        },
        {
          kind: 'text',
          id: 'Lead words',
          x: 40,
          y: 122,
          lines: LEAD,
          pitch: 26,
          type: type(17, 400, QUIET),
        },
        {
          kind: 'rect',
          id: 'Book box',
          x: 40,
          y: 174,
          w: w.width('Book this sailing', type(16, 600)) + 48,
          h: 44,
          fill: '#b5562a',
          r: 6,
        },
        w.left('Book', 64, 201, 'Book this sailing', type(16, 600, '#ffffff')),
        {
          kind: 'image',
          id: 'Boat picture',
          x: 800,
          y: 24,
          w: 376,
          h: 212,
          href: ferryPicture(376, 212),
          r: 6,
        },
      ],
    },
    w.left('Sailings title', 40, 392, 'Next sailings', type(24, 600)),
    { kind: 'group', id: 'Sailings', x: 40, y: 416, items: SAILINGS.map((s, i) => card(s, i, i * 305, 0)) },
    {
      kind: 'group',
      id: 'Notice',
      x: 40,
      y: 572,
      items: [
        { kind: 'rect', id: 'Notice box', x: 0, y: 0, w: 1200, h: 44, fill: '#f4e6cf', r: 6 },
        {
          kind: 'path',
          id: 'Notice mark',
          x: 16,
          y: 13,
          d: 'M9 1l8 16H1zM9 7v5M9 14.5v.5',
          stroke: '#8a5a12',
          width: 1.6,
        },
        w.left('Notice words', 48, 27, NOTICE, type(15, 400)),
      ],
    },
  ]);
}

/** The same board on a phone, 390 wide, as its designer drew it a week later: other ids, links behind a menu button. */
export function departuresPhone(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  const { lines } = w;
  const card = cards(measurer, 358);
  const lead = lines(LEAD.join(' '), 318, type(15, 400));
  const notice = lines(NOTICE, 294, type(15, 400));
  const button = 124 + lead.length * 22;
  const leadHeight = button + 44 + 20 + 168 + 20;
  const sailings = 76 + leadHeight + 28;
  const end = sailings + 44 + SAILINGS.length * 144 - 12 + 20;
  const noticeHeight = notice.length * 22 + 20;
  const items: Drawn[] = [
    w.phoneBar(),
    {
      kind: 'group',
      id: 'Lead',
      x: 16,
      y: 76,
      items: [
        { kind: 'rect', id: 'Lead box', x: 0, y: 0, w: 358, h: leadHeight, fill: '#e3ecea', r: 8 },
        {
          kind: 'text',
          id: 'Lead title',
          x: 20,
          y: 50,
          lines: lines('Next boat to Marrow Isle', 318, type(32, 600)),
          pitch: 38,
          type: type(32, 600),
        },
        { kind: 'text', id: 'Lead words', x: 20, y: 122, lines: lead, pitch: 22, type: type(15, 400, QUIET) },
        {
          kind: 'rect',
          id: 'Book box',
          x: 20,
          y: button,
          w: w.width('Book this sailing', type(16, 600)) + 48,
          h: 44,
          fill: '#b5562a',
          r: 6,
        },
        w.left('Book', 44, button + 27, 'Book this sailing', type(16, 600, '#ffffff')),
        {
          kind: 'image',
          id: 'Boat picture',
          x: 20,
          y: button + 64,
          w: 318,
          h: 168,
          href: ferryPicture(376, 212),
          r: 6,
        },
      ],
    },
    w.left('Sailings title', 16, sailings + 20, 'Next sailings', type(22, 600)),
    {
      kind: 'group',
      id: 'Sailings',
      x: 16,
      y: sailings + 44,
      items: SAILINGS.map((s, i) => card(s, i, 0, i * 144)),
    },
    {
      kind: 'group',
      id: 'Notice',
      x: 16,
      y: end,
      items: [
        { kind: 'rect', id: 'Notice box', x: 0, y: 0, w: 358, h: noticeHeight, fill: '#f4e6cf', r: 6 },
        {
          kind: 'path',
          id: 'Notice mark',
          x: 16,
          y: noticeHeight / 2 - 9,
          d: 'M9 1l8 16H1zM9 7v5M9 14.5v.5',
          stroke: '#8a5a12',
          width: 1.6,
        },
        { kind: 'text', id: 'Notice words', x: 48, y: 26, lines: notice, pitch: 22, type: type(15, 400) },
      ],
    },
  ];
  return phone(end + noticeHeight + 24, items);
}
