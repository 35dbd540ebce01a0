import type { TextMeasurer } from '@tinfold/core/text';
import { COPPER, kit, LINE, phone, QUIET, renamed, SEA, type, WASH, wide, type Kit } from './kit.js';
import type { Drawn, Sheet } from './sheet.js';

const CREW = [
  ['Ines Thorne', 'Skipper', 'The Ellin', '05:30–13:30'],
  ['Odo Marsh', 'Engines', 'The Ellin', '05:30–13:30'],
  ['Wren Ashby', 'Deck', 'The Marrow', '06:00–14:00'],
  ['Pell Carrow', 'Deck', 'The Nether', '12:00–20:00'],
  ['Tamsin Roe', 'Tickets', 'Low Tarn quay', '06:30–14:30'],
  ['Hale Dunning', 'Skipper', 'The Marrow', '13:30–21:30'],
] as const;
const HEADS = ['Who', 'Does', 'Where', 'Shift'] as const;
/** Where the columns of the table begin, px. */
const AT = [24, 420, 640, 920] as const;
const ROW = 64;

const letters = (name: string): string =>
  name
    .split(' ')
    .map((word) => word.charAt(0))
    .join('');

function row(w: Kit, i: number, y: number): Drawn {
  const [name, does, where, shift] = CREW[i] ?? ['', '', '', ''];
  return w.group(`Row ${i + 1}`, 0, y, [
    w.box(`Row ${i + 1} line`, 0, 0, 1200, 1, { fill: LINE }),
    { kind: 'disc', id: `Face ${i + 1}`, cx: 44, cy: 32, r: 20, fill: i % 2 === 0 ? SEA : COPPER },
    w.middle(`Face ${i + 1} letters`, 44, 37, letters(name), type(14, 600, '#ffffff')),
    w.left(`Who ${i + 1}`, 80, 37, name, type(16, 600)),
    w.left(`Does ${i + 1}`, AT[1], 37, does, type(15, 400)),
    w.left(`Where ${i + 1}`, AT[2], 37, where, type(15, 400)),
    w.left(`Shift ${i + 1}`, AT[3], 37, shift, type(15, 500)),
  ]);
}

/** The crew of a day as a table, at 1280. */
export function roster(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  const add = 'Add a shift';
  return wide(668, [
    w.bar(),
    w.group('Head', 40, 92, [
      w.left('Title', 0, 36, 'Crew on Thursday', type(32, 600)),
      ...w.button('Add', 1200 - w.width(add, type(16, 600)) - 48, 2, add),
    ]),
    w.group('Table', 40, 164, [
      w.box('Table box', 0, 0, 1200, 48 + CREW.length * ROW, { fill: '#ffffff', stroke: LINE, r: 8 }),
      w.group(
        'Heads',
        0,
        0,
        HEADS.map((head, i) => w.left(`Head ${head}`, AT[i] ?? 0, 30, head, type(13, 600, QUIET))),
      ),
      ...CREW.map((_, i) => row(w, i, 48 + i * ROW)),
    ]),
    w.left(
      'Foot',
      40,
      640,
      'Shifts are kept to the hour until noon of the day before.',
      type(14, 400, QUIET),
    ),
  ]);
}

/** The crew on a phone: a card for each. */
export function rosterPhone(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  const card = (i: number, y: number): Drawn => {
    const [name, does, where, shift] = CREW[i] ?? ['', '', '', ''];
    return w.group(`Card ${i + 1}`, 0, y, [
      w.box(`Card ${i + 1} box`, 0, 0, 358, 108, { fill: '#ffffff', stroke: LINE, r: 8 }),
      { kind: 'disc', id: `Face ${i + 1}`, cx: 36, cy: 36, r: 20, fill: i % 2 === 0 ? SEA : COPPER },
      w.middle(`Face ${i + 1} letters`, 36, 41, letters(name), type(14, 600, '#ffffff')),
      w.left(`Who ${i + 1}`, 72, 32, name, type(16, 600)),
      w.left(`Does ${i + 1}`, 72, 52, does, type(14, 400, QUIET)),
      w.left(`Where ${i + 1}`, 16, 88, where, type(15, 400)),
      w.right(`Shift ${i + 1}`, 342, 88, shift, type(15, 500)),
    ]);
  };
  return phone(196 + CREW.length * 120 + 12, [
    w.phoneBar(),
    w.left('Title', 16, 108, 'Crew on Thursday', type(28, 600)),
    w.group('Add act', 16, 128, w.button('Add', 0, 0, 'Add a shift', COPPER, 358)),
    w.group(
      'Cards',
      16,
      196,
      CREW.map((_, i) => card(i, i * 120)),
    ),
  ]);
}

const ASKS =
  'Wren Ashby asks to give this shift away. Whoever takes it is told at once, and the roster changes for all.';

/** What is asked before a shift changes hands, in a card so many px wide. */
function swap(w: Kit, width: number, buttonsBelow: boolean): { items: Drawn[]; height: number } {
  const inner = width - 48;
  const words = w.paragraph('Swap words', 24, 82, ASKS, inner, 22, type(15, 400, QUIET));
  const shift = 82 + words.height;
  const acts = shift + 88;
  const take = w.width('Take the shift', type(16, 600)) + 48;
  const buttons = buttonsBelow
    ? [
        ...w.button('Take', 24, acts, 'Take the shift', COPPER, inner),
        ...w.quietButton('Leave', 24, acts + 56, 'Leave it', inner),
      ]
    : [
        ...w.quietButton(
          'Leave',
          width - 24 - take - 12 - w.width('Leave it', type(16, 600)) - 48,
          acts,
          'Leave it',
        ),
        ...w.button('Take', width - 24 - take, acts, 'Take the shift'),
      ];
  const height = acts + (buttonsBelow ? 100 : 44) + 24;
  return {
    height,
    items: [
      w.box('Swap box', 0, 0, width, height, { fill: '#ffffff', r: 10 }),
      w.left('Swap title', 24, 46, 'Take over a shift?', type(22, 600)),
      words.drawn,
      w.group('Swap shift', 24, shift, [
        w.box('Swap shift box', 0, 0, inner, 64, { fill: WASH, r: 6 }),
        w.left('Swap shift where', 16, 27, 'The Marrow, deck', type(16, 600)),
        w.left('Swap shift when', 16, 48, 'Thursday, 06:00–14:00', type(14, 400, QUIET)),
      ]),
      ...buttons,
    ],
  };
}

const SCRIM = 'rgba(29, 47, 58, 0.55)';

/** The roster with a dialog over it, at 1280. */
export function rosterDialog(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  const page = roster(measurer);
  const card = swap(w, 480, false);
  return {
    ...page,
    items: [
      ...page.items,
      w.box('Scrim', 0, 0, page.width, page.height, { fill: SCRIM }),
      w.group('Dialog', 400, Math.round((page.height - card.height) / 2), card.items),
    ],
  };
}

/** The same on a phone, where the dialog rises from the foot. */
export function rosterDialogPhone(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  const page = rosterPhone(measurer);
  const card = swap(w, 358, true);
  return {
    ...page,
    items: [
      ...page.items,
      ...[
        w.box('Scrim', 0, 0, page.width, page.height, { fill: SCRIM }),
        w.group('Dialog', 16, page.height - card.height - 16, card.items),
      ].map(renamed),
    ],
  };
}
