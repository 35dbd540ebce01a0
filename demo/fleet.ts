import type { TextMeasurer } from '@tinfold/core/text';
import { INK, kit, LINE, phone, QUIET, SEA, type, WASH, wide, type Kit } from './kit.js';
import { ferryPicture } from './png.js';
import type { Drawn, Sheet } from './sheet.js';

const LEAD =
  'The Ellin is our largest boat, with two car decks, a kitchen that bakes on board, and a bow that opens on to the quay in under a minute.';
const COUNTS = [
  ['4', 'boats, the oldest built in 1988'],
  ['112', 'cars a day in summer'],
] as const;
const BOATS = [
  ['The Marrow', 'Foot passengers and bicycles, 24 minutes to the isle'],
  ['The Nether', 'Sails when the wind keeps the others in'],
] as const;
const WORKS = 'From October each boat spends three weeks on the slip at Nether Quay, one after another.';

/** A tile with a large number. */
const count = (w: Kit, i: number, x: number, y: number, width: number): Drawn => {
  const [number, words] = COUNTS[i] ?? ['', ''];
  const says = w.paragraph(`Count ${i + 1} words`, 24, 112, words, width - 48, 20, type(15, 400, QUIET));
  return w.group(`Count ${i + 1}`, x, y, [
    w.box(`Count ${i + 1} box`, 0, 0, width, 170, { fill: WASH, r: 8 }),
    w.left(`Count ${i + 1} number`, 24, 76, number, type(48, 600, SEA)),
    says.drawn,
  ]);
};

/** A tile that tells of a boat. */
const boat = (w: Kit, i: number, x: number, y: number, width: number): Drawn => {
  const [name, words] = BOATS[i] ?? ['', ''];
  const says = w.paragraph(`Boat ${i + 1} words`, 24, 74, words, width - 48, 20, type(15, 400, QUIET));
  return w.group(`Boat ${i + 1}`, x, y, [
    w.box(`Boat ${i + 1} box`, 0, 0, width, 170, { fill: '#ffffff', stroke: LINE, r: 8 }),
    w.left(`Boat ${i + 1} name`, 24, 44, name, type(20, 600)),
    says.drawn,
  ]);
};

/** The tile of the largest boat: a picture with words below it. */
const ellin = (w: Kit, x: number, y: number, width: number, picture: number, height: number): Drawn =>
  w.group('Ellin', x, y, [
    w.box('Ellin box', 0, 0, width, height, { fill: '#ffffff', stroke: LINE, r: 8 }),
    {
      kind: 'image',
      id: 'Ellin picture',
      x: 16,
      y: 16,
      w: width - 32,
      h: picture,
      href: ferryPicture(558, 180),
      r: 4,
    },
    w.left('Ellin name', 16, picture + 52, 'The Ellin', type(24, 600)),
    w.paragraph('Ellin words', 16, picture + 82, LEAD, width - 32, 24, type(16, 400, QUIET)).drawn,
  ]);

const works = (w: Kit, x: number, y: number, width: number, height: number): Drawn =>
  w.group('Works', x, y, [
    w.box('Works box', 0, 0, width, height, { fill: INK, r: 8 }),
    w.left('Works title', 24, 44, 'In winter', type(20, 600, '#ffffff')),
    w.paragraph('Works words', 24, 76, WORKS, width - 48, 24, type(16, 400, '#dbe5e3')).drawn,
  ]);

/** The fleet as tiles of several sizes, at 1280. */
export function fleet(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  return wide(712, [
    w.bar(),
    w.left('Title', 40, 128, 'Our boats', type(32, 600)),
    w.group('Tiles', 40, 160, [
      ellin(w, 0, 0, 590, 212, 360),
      count(w, 0, 610, 0, 285),
      count(w, 1, 915, 0, 285),
      boat(w, 0, 610, 190, 285),
      boat(w, 1, 915, 190, 285),
      works(w, 0, 380, 1200, 108),
    ]),
  ]);
}

/** The fleet on a phone. */
export function fleetPhone(measurer: TextMeasurer): Sheet {
  const w = kit(measurer);
  return phone(1456, [
    w.phoneBar(),
    w.left('Title', 16, 108, 'Our boats', type(28, 600)),
    w.group('Tiles', 16, 136, [
      ellin(w, 0, 0, 358, 160, 372),
      count(w, 0, 0, 388, 358),
      count(w, 1, 0, 574, 358),
      boat(w, 0, 0, 760, 358),
      boat(w, 1, 0, 946, 358),
      works(w, 0, 1132, 358, 164),
    ]),
  ]);
}
