import type { TextMeasurer } from '@tinfold/core/text';
import { INK, kit, LINE, phone, QUIET, type, WASH, wide, type Kit } from './kit.js';
import type { Drawn, Sheet } from './sheet.js';

const FIELDS = [
  ['From', 'Low Tarn'],
  ['To', 'Marrow Isle'],
  ['Day', 'Thursday, 12 June'],
  ['Boat', '14:55, the Ellin'],
  ['Travellers', '2 adults, 1 child'],
  ['Vehicle', 'One car, under 5 m'],
] as const;
const COSTS = [
  ['2 adults', '18.00'],
  ['1 child', '4.50'],
  ['Car, under 5 m', '22.00'],
] as const;
const ADVICE =
  'Be on the quay twenty minutes before the boat leaves. You can change the boat until an hour before, once, and without a charge.';

/** What the crossing costs, in a card so many px wide; gives its height too. */
function summary(w: Kit, x: number, y: number, width: number): { items: Drawn[]; height: number } {
  const inner = width - 48;
  const advice = w.paragraph('Advice', 24, 244, ADVICE, inner, 20, type(14, 400, QUIET));
  const height = 244 + advice.height + 8;
  const rows = COSTS.flatMap(([label, cost], i): Drawn[] => [
    w.left(`Cost ${i + 1} label`, 24, 84 + i * 30, label, type(15, 400)),
    w.right(`Cost ${i + 1}`, width - 24, 84 + i * 30, cost, type(15, 500)),
  ]);
  const items = [
    w.box('Summary box', 0, 0, width, height, { fill: WASH, r: 8 }),
    w.left('Summary title', 24, 44, 'Your crossing', type(20, 600)),
    ...rows,
    w.box('Summary line', 24, 168, inner, 1, { fill: LINE }),
    w.left('Total label', 24, 204, 'To pay', type(18, 600)),
    w.right('Total', width - 24, 204, '44.50', type(18, 600)),
    advice.drawn,
  ];
  return { items: [w.group('Summary', x, y, items)], height };
}

/** The form in which a crossing is booked, at 1280. */
export function booking(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  const fields = FIELDS.map(([label, value], i) =>
    w.group(
      `Field ${label}`,
      32 + (i % 2) * 368,
      120 + Math.floor(i / 2) * 94,
      w.field(label, 0, 0, 344, label, value),
    ),
  );
  const form = [
    w.box('Form box', 0, 0, 776, 500, { fill: '#ffffff', stroke: LINE, r: 8 }),
    w.left('Form title', 32, 52, 'Who and what travels', type(22, 600)),
    w.left('Form words', 32, 82, 'All of it can be changed until the day before.', type(15, 400, QUIET)),
    ...fields,
    w.group('Acts', 32, 424, [
      ...w.button('Go on', 0, 0, 'Go on to payment'),
      ...w.quietButton('Back', w.width('Go on to payment', type(16, 600)) + 64, 0, 'Back'),
    ]),
  ];
  return wide(720, [
    w.bar(),
    w.left('Title', 40, 128, 'Book a crossing', type(32, 600)),
    w.group('Form', 40, 160, form),
    ...summary(w, 840, 160, 400).items,
  ]);
}

/** The same form on a phone. */
export function bookingPhone(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  const fields = FIELDS.map(([label, value], i) =>
    w.group(`Field ${label}`, 20, 116 + i * 90, w.field(label, 0, 0, 318, label, value)),
  );
  const acts = 116 + FIELDS.length * 90 + 4;
  const formHeight = acts + 44 + 12 + 44 + 20;
  const form = [
    w.box('Form box', 0, 0, 358, formHeight, { fill: '#ffffff', stroke: LINE, r: 8 }),
    w.left('Form title', 20, 46, 'Who and what travels', type(20, 600)),
    w.left('Form words', 20, 74, 'All of it can be changed until the day before.', type(15, 400, QUIET)),
    ...fields,
    w.group('Acts', 20, acts, [
      ...w.button('Go on', 0, 0, 'Go on to payment', INK, 318),
      ...w.quietButton('Back', 0, 56, 'Back', 318),
    ]),
  ];
  const card = summary(w, 16, 136 + formHeight + 16, 358);
  return phone(136 + formHeight + 16 + card.height + 24, [
    w.phoneBar(),
    w.left('Title', 16, 108, 'Book a crossing', type(28, 600)),
    w.group('Form', 16, 136, form),
    ...card.items,
  ]);
}
