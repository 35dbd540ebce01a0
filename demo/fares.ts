import type { TextMeasurer } from '@tinfold/core/text';
import { COPPER, INK, kit, LINE, phone, QUIET, SEA, type, WASH, wide, type Kit } from './kit.js';
import type { Drawn, Sheet } from './sheet.js';

const FARES = [
  {
    name: 'Single',
    price: '9.00',
    per: 'each way',
    holds: ['Any boat of the day', 'A bicycle goes along free', 'Given back until an hour before'],
  },
  {
    name: 'Ten crossings',
    price: '72.00',
    per: 'for a year',
    holds: ['Any boat, any day', 'Several may use it', 'One bicycle with each', 'Never runs out on a Sunday'],
  },
  {
    name: 'Islander',
    price: '31.00',
    per: 'a month',
    holds: ['For who lives on an island', 'All boats', 'A car at half the fare'],
  },
] as const;
const NOTE =
  'Children under six travel free. Fares are the same at the counter, on board and here, and are kept until the end of September.';
const CARD_HEIGHT = 336;

/** The card of a fare, so many px wide. */
function card(w: Kit, i: number, x: number, y: number, width: number): Drawn {
  const fare = FARES[i];
  if (!fare) throw new Error(`There is no fare ${i}.`);
  const isLiked = i === 1;
  const id = `Fare ${i + 1}`;
  const ticks = fare.holds.flatMap((text, n): Drawn[] => [
    {
      kind: 'path',
      id: `${id} tick ${n + 1}`,
      x: 24,
      y: 133 + n * 30,
      d: 'M2 8l4 4 8-9',
      stroke: SEA,
      width: 2,
    },
    w.left(`${id} holds ${n + 1}`, 50, 146 + n * 30, text, type(15, 400)),
  ]);
  return w.group(id, x, y, [
    w.box(`${id} box`, 0, 0, width, CARD_HEIGHT, {
      fill: isLiked ? WASH : '#ffffff',
      stroke: isLiked ? SEA : LINE,
      r: 8,
    }),
    w.left(`${id} name`, 24, 44, fare.name, type(18, 600)),
    w.left(`${id} price`, 24, 96, fare.price, type(36, 600)),
    w.left(`${id} per`, 24 + w.width(fare.price, type(36, 600)) + 10, 96, fare.per, type(15, 400, QUIET)),
    ...ticks,
    ...(isLiked
      ? w.button(`${id} take`, 24, 268, 'Choose this', COPPER, width - 48)
      : w.quietButton(`${id} take`, 24, 268, 'Choose this', width - 48)),
  ]);
}

/** The fares, at 1280. */
export function fares(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  return wide(664, [
    w.bar(),
    w.middle('Title', 640, 136, 'Fares', type(36, 600)),
    w.middle('Words', 640, 170, 'One price for every crossing, however far.', type(17, 400, QUIET)),
    w.group(
      'Fares',
      40,
      208,
      FARES.map((_, i) => card(w, i, i * 408, 0, 384)),
    ),
    w.group('Note', 40, 576, [
      w.box('Note box', 0, 0, 1200, 56, { fill: INK, r: 8 }),
      w.left('Note words', 24, 33, NOTE, type(15, 400, '#ffffff')),
    ]),
  ]);
}

/** The fares on a phone. */
export function faresPhone(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  const note = w.paragraph('Note words', 20, 34, NOTE, 318, 22, type(15, 400, '#ffffff'));
  const end = 168 + FARES.length * (CARD_HEIGHT + 16);
  const noteHeight = note.height + 32;
  return phone(end + noteHeight + 24, [
    w.phoneBar(),
    w.middle('Title', 195, 110, 'Fares', type(30, 600)),
    w.middle('Words', 195, 140, 'One price for every crossing, however far.', type(15, 400, QUIET)),
    w.group(
      'Fares',
      16,
      168,
      FARES.map((_, i) => card(w, i, 0, i * (CARD_HEIGHT + 16), 358)),
    ),
    w.group('Note', 16, end, [w.box('Note box', 0, 0, 358, noteHeight, { fill: INK, r: 8 }), note.drawn]),
  ]);
}
