import { beforeAll, describe, expect, test } from 'vitest';
import { Engine } from '@tinfold/core/layout';
import {
  FILL,
  FIT,
  fixed,
  pad,
  withOverride,
  type Part,
  type Rules,
  type Structure,
} from '@tinfold/core/model';
import { FAULT_KINDS, KINDS, prove, type Fault, type FaultKind } from '@tinfold/core/proof';
import { maxContentWidth, minContentWidth, type ShapedMeasurer } from '@tinfold/core/text';
import { column, grid, row, structure, style, text, words, wrap } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';
import { art, box, card, frame, painted, picture, pinned } from '../support/screens.js';

const FROM = 320;
const TO = 1920;

let m: ShapedMeasurer;
beforeAll(async () => {
  m = await testMeasurer();
});

const free = (height: number, ...children: Part[]): Part =>
  column({ flow: 'free', width: FILL, height: fixed(height) }, ...children);
const hiddenBelow = (part: Part, width: number): Part => withOverride(part, width, { hidden: true });
const shownBelow = (part: Part, width: number): Part =>
  withOverride({ ...part, rules: { ...part.rules, hidden: true } }, width, { hidden: null });
const cards = (n: number, rules: Rules = {}): Part[] =>
  Array.from({ length: n }, () => ({ ...card({ ...rules }, text('Low Tarn')), pattern: 'Sailing' }));

/** The widest whole frame at which words do not fit on one line, when so much of the frame is not theirs, px. */
const lastBroken = (value: string, taken: number): number =>
  Math.ceil(maxContentWidth(words(value), m) - 1 / 64 + taken) - 1;
/** The same for the longest word: it sticks out by more than a px. */
const lastStickingOut = (value: string, taken: number): number =>
  Math.ceil(minContentWidth(words(value), m) + taken - 1.003) - 1;

type Widths = readonly [from: number, to: number];
const isOne = (at: Widths | readonly Widths[]): at is Widths => typeof at[0] === 'number';

interface Case {
  readonly name: string;
  readonly drawn?: number;
  readonly root: () => Part;
  /** The widths at which the fault is, by hand; empty where there is none. */
  readonly at: () => readonly Widths[];
}
const found = (name: string, root: () => Part, at: () => Widths | readonly Widths[], drawn = 1000): Case => ({
  name,
  root,
  at: () => [at()].flatMap((a) => (isOne(a) ? [a] : [...a])),
  drawn,
});
const silent = (name: string, root: () => Part, drawn = 1000): Case => ({ name, root, at: () => [], drawn });

const TITLE = 'Next boat to Marrow Isle';
const LEAD = 'Leaves 14:20 from pier 2 with deck space for eighteen cars';
/** Ten alike words: so many fit on a line as have room, whatever the line. */
const TEN = Array.from({ length: 10 }, () => 'ferry').join(' ');
const FORTY = [TEN, TEN, TEN, TEN].join(' ');
const roomFor = (count: number): number =>
  maxContentWidth(words(Array.from({ length: count }, () => 'ferry').join(' ')), m);

const CASES: Readonly<Record<FaultKind, readonly Case[]>> = {
  'side-scroll': [
    found(
      'a fixed box in a padded column',
      () => frame({ padding: pad(0, 0, 0, 20) }, box(500, 40)),
      () => [FROM, 518],
    ),
    found(
      'two fixed boxes in a row',
      () => frame({}, row({ gap: 16 }, box(300, 40), box(300, 40))),
      () => [FROM, 614],
    ),
    found(
      'a pin that is wider than the frame',
      () => frame({}, free(100, pinned(box(700, 40), { right: 0, top: 0 }))),
      () => [FROM, 698],
    ),
    silent('a box as wide as the narrowest frame', () => frame({}, box(320, 40))),
    silent('a wide box in a part that scrolls', () =>
      frame({}, column({ width: FILL, scroll: true }, box(700, 40))),
    ),
    silent('a wide box that is cut off', () => frame({}, column({ width: FILL, clip: true }, box(700, 40)))),
  ],
  overlap: [
    found(
      'boxes pinned to both edges',
      () =>
        frame(
          {},
          free(100, pinned(box(200, 40), { left: 0, top: 0 }), pinned(box(200, 40), { right: 0, top: 0 })),
        ),
      () => [FROM, 396],
    ),
    found(
      'one in the middle, one at the edge',
      () =>
        frame(
          {},
          free(100, pinned(box(100, 40), { left: 0, top: 0 }), pinned(box(300, 40), { centreX: 0, top: 0 })),
        ),
      () => [FROM, 493],
    ),
    found(
      'a box that grows with the frame over one below',
      () =>
        frame(
          {},
          free(
            900,
            pinned(box(10, 10, { width: FILL, height: { kind: 'ratio', width: 1, height: 1 } }), {
              left: 0,
              right: 0,
              top: 0,
            }),
            pinned(box(50, 40), { left: 0, top: 600 }),
          ),
        ),
      () => [604, TO],
      500,
    ),
    found(
      'what is left of a box that two containers cut off',
      () => {
        const inner = column({ clip: true, width: fixed(400), height: fixed(40) }, box(400, 40));
        const outer = column({ clip: true, width: fixed(100), height: fixed(40) }, inner);
        return frame(
          {},
          free(100, pinned(outer, { right: 60, top: 0 }), pinned(box(40, 40), { left: 330, top: 0 })),
        );
      },
      () => [394, 526],
    ),
    silent('boxes that lie over each other in the drawing', () =>
      frame(
        {},
        free(100, pinned(box(600, 40), { left: 0, top: 0 }), pinned(box(600, 40), { right: 0, top: 0 })),
      ),
    ),
    silent('boxes that touch', () =>
      frame(
        {},
        free(100, pinned(box(160, 40), { left: 0, top: 0 }), pinned(box(160, 40), { right: 0, top: 0 })),
      ),
    ),
    silent('a box that is cut off before it gets there', () =>
      frame(
        {},
        free(
          100,
          pinned(column({ clip: true, width: fixed(100), height: fixed(40) }, box(300, 40)), {
            left: 0,
            top: 0,
          }),
          pinned(box(200, 40), { right: 0, top: 0 }),
        ),
      ),
    ),
  ],
  outside: [
    found(
      'a fixed box in a card',
      () => frame({}, card({}, box(400, 40))),
      () => [FROM, 398],
    ),
    found(
      'words that break in a card of fixed height',
      () => frame({}, card({ height: fixed(40) }, text(TITLE.repeat(3), { width: FILL }))),
      () => [FROM, lastBroken(TITLE.repeat(3), 0)],
    ),
    found(
      'a pin at half of the width',
      () => frame({}, card({ height: fixed(80) }, pinned(box(300, 40), { left: 0, leftShare: 50, top: 0 }))),
      () => [FROM, 597],
    ),
    silent('a box that just fits', () => frame({}, card({ padding: pad(0, 10) }, box(300, 40)))),
    silent('a card that scrolls', () => frame({}, card({ scroll: true }, box(400, 40)))),
    silent('a badge that sticks out in the drawing', () =>
      frame({ padding: pad(20) }, card({ height: fixed(80) }, pinned(box(20, 20), { right: -10, top: -10 }))),
    ),
  ],
  'cut-off': [
    found(
      'a fixed box',
      () => frame({}, column({ width: FILL, clip: true }, box(400, 40))),
      () => [FROM, 398],
    ),
    found(
      'words of a second line',
      () =>
        frame(
          {},
          column({ width: FILL, height: fixed(30), clip: true }, text(TITLE.repeat(2), { width: FILL })),
        ),
      () => [FROM, lastBroken(TITLE.repeat(2), 0)],
    ),
    found(
      'the end of a row',
      () => frame({}, row({ width: FILL, clip: true, gap: 10 }, box(300, 40), box(190, 40))),
      () => [FROM, 498],
    ),
    silent('what scrolls', () => frame({}, column({ width: FILL, clip: true, scroll: true }, box(400, 40)))),
    silent('what fits', () => frame({}, column({ width: FILL, clip: true }, box(320, 40)))),
    silent('what is cut off in the drawing', () =>
      frame({}, column({ width: fixed(300), clip: true }, box(400, 40))),
    ),
  ],
  'text-over': [
    found(
      'one line of room',
      () => frame({}, text(TITLE.repeat(2), { width: FILL, height: fixed(24) })),
      () => [FROM, lastBroken(TITLE.repeat(2), 0)],
    ),
    found(
      'a largest height',
      () => frame({}, text(TITLE.repeat(3), { width: FILL, maxHeight: 24 })),
      () => [FROM, lastBroken(TITLE.repeat(3), 0)],
    ),
    found(
      'beside a rail',
      () => frame({}, row({ width: FILL }, box(200, 40), text(TITLE, { width: FILL, height: fixed(24) }))),
      () => [FROM, lastBroken(TITLE, 200)],
    ),
    silent('a height that fits', () => frame({}, text(TITLE.repeat(2), { width: FILL, height: FIT }))),
    silent('lines that are cut', () =>
      frame({}, text(TITLE.repeat(2), { width: FILL, height: fixed(24), maxLines: 1 })),
    ),
    silent('room for what comes', () => frame({}, text(TITLE.repeat(2), { width: FILL, height: fixed(96) }))),
  ],
  'long-word': [
    found(
      'beside fixed paddings',
      () => frame({ padding: pad(0, 150) }, text('Unbookmarkable', { width: FILL })),
      () => [FROM, lastStickingOut('Unbookmarkable', 300)],
    ),
    found(
      'beside a rail',
      () => frame({}, row({ width: FILL }, box(280, 40), text('Skerrywards bound', { width: FILL }))),
      () => [FROM, lastStickingOut('Skerrywards bound', 280)],
    ),
    found(
      'in a column of half the width',
      () =>
        frame(
          {},
          grid({ columns: { kind: 'count', count: 4 }, width: FILL }, text('Skerrywards', { width: FILL })),
        ),
      () => [FROM, Math.ceil((minContentWidth(words('Skerrywards'), m) - 1.003) * 4) - 1],
    ),
    silent('words that break', () => frame({ padding: pad(0, 100) }, text(LEAD, { width: FILL }))),
    silent('a word in a part as wide as it', () => frame({}, text('Unbookmarkable'))),
    silent('a word that sticks out in the drawing', () =>
      frame({}, text('Unbookmarkable', { width: fixed(60) })),
    ),
  ],
  sliver: [
    found(
      'words beside a picture that keeps its width',
      () => frame({}, row({ width: FILL }, text(TEN, { width: FILL }), picture(200, 100, {}))),
      () => [FROM, Math.ceil(roomFor(5) - 1 / 64 + 200) - 1],
    ),
    found(
      'words between paddings',
      () => frame({ padding: pad(0, 100) }, text(TEN, { width: FILL })),
      () => [FROM, Math.ceil(roomFor(5) - 1 / 64 + 200) - 1],
    ),
    found(
      'words in a third',
      () =>
        frame({}, grid({ columns: { kind: 'count', count: 3 }, width: FILL }, text(TEN, { width: FILL }))),
      () => [FROM, Math.ceil((roomFor(5) - 1 / 64) * 3) - 1],
      1800,
    ),
    silent('words that take two lines', () => frame({}, text(TEN, { width: FILL }))),
    silent('words that are narrow in the drawing', () => frame({}, text(TEN, { width: fixed(90) }))),
    silent('one word', () => frame({ padding: pad(0, 130) }, text('ferry', { width: FILL }))),
  ],
  'blown-up': [
    found(
      'the last card that stretches',
      () =>
        frame(
          {},
          wrap({ width: FILL }, ...[1, 2, 3, 4, 5, 6].map(() => box(10, 60, { width: FILL, minWidth: 300 }))),
        ),
      () => [1501, 1799],
      1800,
    ),
    found(
      'a picture that fills a column, and its height with it',
      () =>
        frame(
          {},
          withOverride(
            picture(100, 50, { width: fixed(100), height: { kind: 'ratio', width: 2, height: 1 } }),
            800,
            { width: FILL },
          ),
        ),
      () => [FROM, 799],
    ),
    found(
      'what is left of a row',
      () =>
        frame(
          {},
          row(
            { width: FILL },
            box(10, 40, { width: FILL }),
            hiddenBelow(box(10, 40, { width: { kind: 'fill', weight: 9 } }), 700),
          ),
        ),
      () => [501, 699],
    ),
    silent(
      'a box five times as wide',
      () => frame({}, withOverride(box(384, 60), 2000, { width: FILL })),
      1999,
    ),
    silent('a rule', () => frame({}, withOverride(box(40, 8, {}), 900, { width: FILL }))),
    silent(
      'a picture in a wider frame',
      () => frame({}, picture(100, 50, { width: FILL, height: { kind: 'ratio', width: 2, height: 1 } })),
      400,
    ),
  ],
  distorted: [
    found(
      'an icon that grows with its button',
      () => frame({}, art(24, 24, { width: { kind: 'share', percent: 2.4 }, height: fixed(24) })),
      () => [
        [FROM, 928],
        [1072, TO],
      ],
    ),
    found(
      'a picture that fills',
      () =>
        frame({}, picture(400, 200, { width: { kind: 'share', percent: 40 }, height: fixed(200) }, 'fill')),
      () => [
        [FROM, 967],
        [1033, TO],
      ],
    ),
    found(
      'art beside words that give way',
      () =>
        frame({}, row({ width: FILL }, art(100, 100, { width: FILL }), box(900, 40, { givesWay: 'never' }))),
      () => [
        [FROM, 995],
        [1005, TO],
      ],
    ),
    silent('a picture that covers', () =>
      frame({}, picture(400, 200, { width: { kind: 'share', percent: 40 }, height: fixed(200) }, 'cover')),
    ),
    silent('an icon of fixed size', () => frame({}, art(24, 24))),
    silent('a picture that keeps its ratio', () =>
      frame({}, picture(400, 200, { width: FILL, height: { kind: 'ratio', width: 2, height: 1 } }, 'fill')),
    ),
  ],
  'text-cut': [
    found(
      'a title on one line',
      () => frame({}, text(TITLE.repeat(2), { width: FILL, maxLines: 1 })),
      () => [FROM, Math.ceil(maxContentWidth(words(TITLE.repeat(2)), m) - 1.003) - 1],
    ),
    found(
      'a title on one line beside a rail',
      () => frame({}, row({ width: FILL }, box(200, 40), text(TITLE, { width: FILL, maxLines: 1 }))),
      () => [FROM, Math.ceil(maxContentWidth(words(TITLE), m) + 200 - 1.003) - 1],
    ),
    found(
      'more than two lines',
      () => frame({ padding: pad(0, 100) }, text(TEN, { width: FILL, maxLines: 2 })),
      () => [FROM, Math.ceil(roomFor(5) - 1 / 64 + 200) - 1],
    ),
    silent('two lines that suffice', () => frame({}, text(TITLE, { width: FILL, maxLines: 2 }))),
    silent('what is cut in the drawing', () => frame({}, text(TITLE, { width: fixed(60), maxLines: 1 }))),
    silent('a short word', () => frame({}, text('Fares', { width: FILL, maxLines: 1 }))),
  ],
  'out-of-line': [
    found(
      'halves that ended alike',
      () =>
        frame(
          {},
          row(
            { width: FILL, align: 'start' },
            box(10, 10, {
              width: { kind: 'share', percent: 50 },
              height: { kind: 'ratio', width: 5, height: 1 },
            }),
            box(10, 100, { width: FILL }),
          ),
        ),
      () => [
        [FROM, 959],
        [1041, TO],
      ],
    ),
    found(
      'a strip under a picture',
      () =>
        frame(
          {},
          card(
            { height: fixed(100) },
            picture(100, 100, { width: FILL, height: { kind: 'ratio', width: 10, height: 1 } }),
          ),
        ),
      () => [FROM, 959],
    ),
    found(
      'a strip beside a bar',
      () => frame({}, card({}, box(10, 20, { width: FILL, maxWidth: 1000 }))),
      () => [1005, TO],
    ),
    silent('halves that are stretched', () =>
      frame(
        {},
        row(
          { width: FILL, align: 'stretch' },
          box(10, 10, {
            width: { kind: 'share', percent: 50 },
            height: { kind: 'ratio', width: 5, height: 1 },
          }),
          box(10, 100, { width: FILL, height: FILL }),
        ),
      ),
    ),
    silent('halves that end unlike in the drawing', () =>
      frame(
        {},
        row(
          { width: FILL, align: 'start' },
          box(10, 10, {
            width: { kind: 'share', percent: 50 },
            height: { kind: 'ratio', width: 5, height: 1 },
          }),
          box(10, 140, { width: FILL }),
        ),
      ),
    ),
    silent('halves that stand one above another', () =>
      frame(
        {},
        column(
          { width: FILL, gap: 8 },
          box(10, 10, {
            width: { kind: 'share', percent: 50 },
            height: { kind: 'ratio', width: 5, height: 1 },
          }),
          box(10, 100, { width: FILL }),
        ),
      ),
    ),
  ],
  'uneven-gaps': [
    found(
      'a gap of its own in narrow frames',
      () =>
        frame(
          {},
          row(
            { width: FILL, gap: 8 },
            box(20, 40),
            withOverride(box(20, 40), 600, { gapBefore: 30 }),
            box(20, 40),
          ),
        ),
      () => [FROM, 599],
    ),
    found(
      'in a column',
      () =>
        frame(
          {},
          column(
            { width: FILL, gap: 8 },
            box(20, 40),
            box(20, 40),
            withOverride(box(20, 40), 700, { gapBefore: 20 }),
          ),
        ),
      () => [FROM, 699],
    ),
    found(
      'between two breakpoints',
      () =>
        frame(
          {},
          row(
            { width: FILL, gap: 8 },
            box(20, 40),
            withOverride(withOverride(box(20, 40), 900, { gapBefore: 30 }), 500, { gapBefore: null }),
            box(20, 40),
          ),
        ),
      () => [500, 899],
    ),
    silent('gaps that grow together', () =>
      frame({}, row({ width: FILL, gap: 'between' }, box(20, 40), box(20, 40), box(20, 40))),
    ),
    silent('uneven in the drawing', () =>
      frame({}, row({ width: FILL, gap: 8 }, box(20, 40), box(20, 40, { gapBefore: 30 }), box(20, 40))),
    ),
    silent('in two lines', () =>
      frame({}, wrap({ width: FILL, gap: 8, crossGap: 20 }, box(150, 40), box(150, 40), box(150, 40))),
    ),
  ],
  'lonely-card': [
    found(
      'three in two columns',
      () => frame({}, grid({ columns: { kind: 'repeat', min: 300, most: 3 }, width: FILL }, ...cards(3))),
      () => [600, 899],
    ),
    found(
      'four in a wrap',
      () => frame({}, wrap({ width: FILL }, ...cards(4, { minWidth: 240 }))),
      () => [720, 959],
    ),
    found(
      'five in four and two',
      () => frame({}, grid({ columns: { kind: 'repeat', min: 400, most: 5 }, width: FILL }, ...cards(5))),
      () => [
        [800, 1199],
        [1600, TO],
      ],
      2400,
    ),
    silent('four in two columns', () =>
      frame({}, grid({ columns: { kind: 'count', count: 2 }, width: FILL }, ...cards(4))),
    ),
    silent('one below another', () =>
      frame({}, grid({ columns: { kind: 'count', count: 1 }, width: FILL }, ...cards(3))),
    ),
    silent('alone in the drawing', () =>
      frame({}, grid({ columns: { kind: 'count', count: 2 }, width: FILL }, ...cards(3))),
    ),
  ],
  squashed: [
    found(
      'a card with a fixed box',
      () => frame({}, card({ padding: pad(10) }, box(400, 40))),
      () => [FROM, 418],
    ),
    found(
      'a button with a word',
      () =>
        frame(
          {},
          grid(
            { columns: { kind: 'count', count: 4 }, width: FILL },
            card({ padding: pad(0, 20) }, text('Skerrywards')),
          ),
        ),
      () => [FROM, Math.ceil((minContentWidth(words('Skerrywards'), m) + 40 - 1.003) * 4) - 1],
    ),
    found(
      'two in a row of shares',
      () => frame({}, card({ width: { kind: 'share', percent: 50 } }, row({}, box(100, 40), box(100, 40)))),
      () => [FROM, 397],
    ),
    silent('a card that fits', () => frame({}, card({ padding: pad(10) }, box(300, 40)))),
    silent('what is not painted', () => frame({}, column({ width: FILL, padding: pad(10) }, box(400, 40)))),
    silent('a card that scrolls', () => frame({}, card({ padding: pad(10), scroll: true }, box(400, 40)))),
  ],
  'long-lines': [
    found(
      'a paragraph across the frame',
      () => frame({}, text(FORTY, { width: FILL })),
      () => [Math.ceil(roomFor(15) - 1 / 64), TO],
      400,
    ),
    found(
      'a paragraph in a half',
      () =>
        frame({}, grid({ columns: { kind: 'count', count: 2 }, width: FILL }, text(FORTY, { width: FILL }))),
      () => [Math.ceil((roomFor(15) - 1 / 64) * 2), TO],
      800,
    ),
    found(
      'a paragraph beside a rail',
      () => frame({}, row({ width: FILL }, box(200, 40), text(FORTY, { width: FILL }))),
      () => [Math.ceil(roomFor(15) - 1 / 64 + 200), TO],
      600,
    ),
    silent('a limited paragraph', () => frame({}, text(LEAD.repeat(8), { width: FILL, maxWidth: 500 })), 600),
    silent('one line', () => frame({}, text(LEAD, { width: FILL }))),
    silent('short lines in the drawing and elsewhere', () =>
      frame({}, text(LEAD.repeat(2), { width: fixed(300) })),
    ),
  ],
  order: [
    found(
      'turned below 600',
      () => frame({}, withOverride(row({ width: FILL }, box(100, 40), box(100, 40)), 600, { reverse: true })),
      () => [FROM, 599],
    ),
    found(
      'ranks below 500',
      () => frame({}, column({ width: FILL }, withOverride(box(100, 40), 500, { order: 2 }), box(100, 40))),
      () => [FROM, 499],
    ),
    found(
      'a column from below',
      () =>
        frame(
          {},
          withOverride(row({ width: FILL }, box(100, 40), box(100, 40)), 700, {
            flow: 'column',
            reverse: true,
          }),
        ),
      () => [FROM, 699],
    ),
    silent('a row that becomes a column', () =>
      frame({}, withOverride(row({ width: FILL }, box(100, 40), box(100, 40)), 700, { flow: 'column' })),
    ),
    silent('turned in the drawing', () =>
      frame({}, row({ width: FILL, reverse: true }, box(100, 40), box(100, 40))),
    ),
    silent('read from the right', () =>
      frame({}, row({ width: FILL, direction: 'rtl' }, box(100, 40), box(100, 40))),
    ),
  ],
  enlarged: [
    found(
      'a picture of 400 px across the frame',
      () => frame({}, picture(400, 200, { width: FILL, height: fixed(100) })),
      () => [442, TO],
      400,
    ),
    found(
      'a placeholder of half the width',
      () => frame({}, picture(400, 200, { width: { kind: 'share', percent: 50 }, height: fixed(100) })),
      () => [883, TO],
      800,
    ),
    found(
      'a picture that is too high for its pixels',
      () =>
        frame(
          {},
          picture(400, 200, { width: fixed(100), height: fixed(100) }),
          withOverride(picture(100, 50, { height: fixed(50) }), 500, { height: fixed(80) }),
        ),
      () => [FROM, 499],
    ),
    silent(
      'a limited picture',
      () => frame({}, picture(400, 200, { width: FILL, maxWidth: 440, height: fixed(100) })),
      400,
    ),
    silent('a picture of fixed size', () => frame({}, picture(400, 200, {}))),
    silent('a placeholder', () => frame({}, box(10, 10, { width: FILL }))),
  ],
  'small-target': [
    found(
      'a button that is a share',
      () =>
        frame(
          {},
          row(
            { width: FILL },
            card({ width: { kind: 'share', percent: 4 }, height: fixed(40) }, art(10, 10)),
          ),
        ),
      () => [FROM, 574],
    ),
    found(
      'a button of a share of the rest',
      () =>
        frame(
          { padding: pad(0, 100) },
          row(
            { width: FILL },
            card({ width: { kind: 'share', percent: 5 }, height: fixed(40) }, art(10, 10)),
          ),
        ),
      () => [FROM, 659],
    ),
    found(
      'a field that is low',
      () =>
        frame(
          {},
          withOverride(
            card({ width: fixed(200), height: fixed(40) }, text('Fares', { pin: { left: 0, top: 0 } })),
            500,
            { height: fixed(20) },
          ),
        ),
      () => [FROM, 499],
    ),
    silent('a button of 24', () => frame({}, card({ width: fixed(24), height: fixed(24) }, art(10, 10)))),
    silent('a small box with nothing in it', () => frame({}, card({ width: fixed(12), height: fixed(12) }))),
    silent('small in the drawing', () =>
      frame({}, card({ width: fixed(16), height: fixed(16) }, art(10, 10))),
    ),
  ],
  'empty-area': [
    found(
      'a panel whose content stops growing',
      () => frame({ padding: pad(1) }, card({}, box(10, 40, { width: FILL, maxWidth: 600 }))),
      () => [1503, TO],
      600,
    ),
    found(
      'a panel with a fixed box',
      () => frame({ padding: pad(1) }, card({}, box(400, 40))),
      () => [1003, TO],
      500,
    ),
    found(
      'a row with two at its start',
      () => frame({ padding: pad(1) }, painted(row({ width: FILL }, box(200, 40), box(200, 40)))),
      () => [1003, TO],
      500,
    ),
    silent(
      'a panel that is filled',
      () => frame({ padding: pad(1) }, card({}, box(10, 40, { width: FILL }))),
      500,
    ),
    silent(
      'a panel that is empty in the drawing',
      () => frame({ padding: pad(1) }, card({}, box(100, 40))),
      500,
    ),
    silent(
      'what is not painted',
      () => frame({ padding: pad(1) }, column({ width: FILL }, box(400, 40))),
      500,
    ),
  ],
  'small-type': [
    found(
      'type that steps down to 10',
      () => frame({}, { ...text('Fares'), bound: { 'text.size': 'fine' } }),
      () => [FROM, 599],
    ),
    found(
      'type that steps down to 10 below another breakpoint',
      () => frame({}, { ...text('Fares'), bound: { 'text.size': 'tiny' } }),
      () => [FROM, 449],
    ),
    found(
      'one word of several',
      () => frame({}, text('Fleet'), { ...text('Fares'), bound: { 'text.size': 'fine' } }),
      () => [FROM, 599],
    ),
    silent('type of 11', () => frame({}, text('Fares', {}, 16, style(11)))),
    silent('small in the drawing', () => frame({}, text('Fares', {}, 12, style(9)))),
    silent('nothing to read', () => frame({}, text(' ', {}, 12, style(9)))),
  ],
  hidden: [
    found(
      'links that go',
      () => frame({}, hiddenBelow(box(200, 40), 600), box(200, 40), box(200, 40)),
      () => [FROM, 599],
    ),
    found(
      'a rail that goes',
      () =>
        frame(
          {},
          row(
            { width: FILL },
            hiddenBelow(column({}, text('Fares')), 700),
            box(200, 40),
            box(10, 10),
            text('Fleet'),
          ),
        ),
      () => [FROM, 699],
    ),
    found(
      'only in the middle',
      () =>
        frame(
          {},
          withOverride(hiddenBelow(box(200, 40), 800), 500, { hidden: null }),
          box(200, 40),
          box(200, 40),
        ),
      () => [500, 799],
    ),
    silent('links with a stand-in', () =>
      frame(
        {},
        row({ width: FILL }, hiddenBelow(text('Fares'), 600), shownBelow(art(24, 18), 600)),
        box(200, 40),
        box(10, 10),
      ),
    ),
    silent('what is always hidden', () => frame({}, box(200, 40, { hidden: true }), box(200, 40))),
    silent('what comes in narrow frames', () => frame({}, shownBelow(box(200, 40), 600), box(200, 40))),
  ],
  lost: [
    found(
      'nearly all goes',
      () => frame({}, hiddenBelow(box(200, 40), 600), hiddenBelow(box(200, 40), 600), box(200, 40)),
      () => [FROM, 599],
    ),
    found(
      'a section with all in it',
      () => frame({}, hiddenBelow(column({}, text('Fares'), text('Fleet'), text('Help')), 500), box(200, 40)),
      () => [FROM, 499],
    ),
    found(
      'two of three',
      () => frame({}, hiddenBelow(box(200, 40), 400), hiddenBelow(box(200, 40), 400), box(200, 40)),
      () => [FROM, 399],
    ),
    silent('one of three', () => frame({}, hiddenBelow(box(200, 40), 600), box(200, 40), box(200, 40))),
    silent('hidden in the drawing as well', () =>
      frame({}, box(200, 40, { hidden: true }), box(200, 40, { hidden: true }), box(200, 40)),
    ),
    silent('nothing', () => frame({}, box(200, 40), box(200, 40))),
  ],
};

function screen(root: Part, drawn: number): Structure {
  return {
    ...structure(root, drawn),
    tokens: [
      { kind: 'length', name: 'fine', value: 14, below: [{ width: 600, value: 10 }] },
      { kind: 'length', name: 'tiny', value: 12, below: [{ width: 450, value: 8 }] },
    ],
  };
}

/** The runs of a kind, where it shows: what only reaches out of an unpainted box is a note. */
const runsOf = (faults: readonly Fault[], kind: FaultKind): Widths[] =>
  faults
    .filter((f) => f.kind === kind && (f.severity !== 'note' || KINDS[kind].severity === 'note'))
    .flatMap((f) => f.runs.map((r): Widths => [r.from, r.to]))
    .sort((a, b) => a[0] - b[0]);

describe.each(Object.entries(CASES) as [FaultKind, readonly Case[]][])('%s', (kind, cases) => {
  test.each(cases.map((c) => [c.name, c] as const))('%s', (_, { root, at, drawn }) => {
    const structured = screen(root(), drawn ?? 1000);
    const { faults } = prove(structured, new Engine(m));
    expect(runsOf(faults, kind)).toEqual(at());
  });
});

test('every kind has its cases', () => {
  for (const kind of FAULT_KINDS) expect([kind, CASES[kind].length >= 6]).toEqual([kind, true]);
});
