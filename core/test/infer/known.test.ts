import { beforeAll, describe, expect, test } from 'vitest';
import { questionsAbout, readStructure } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import { FILL, FIT, fixed, pad, type Part, type Rules } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { outline } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';
import { bar, box, differencesFrom, drawingOf, group, icon, line, picture, prose } from '../support/known.js';

const PORTS = ['Marrow Isle', 'Low Tarn', 'Nether Quay', 'Ellin Skerry', 'Gull Point', 'Old Pier', 'Westing'];
const port = (i: number): string => PORTS[i % PORTS.length] as string;
const LONG =
  'Foot passengers board by the north ramp until five minutes before the boat leaves; bicycles wait beside the ramp until all cars are aboard.';
const share = (percent: number) => ({ kind: 'share', percent }) as const;
const weight = (w: number) => ({ kind: 'fill', weight: w }) as const;

interface Known {
  readonly name: string;
  readonly width: number;
  readonly root: Part;
  /** What the drawing leaves open, so that it is asked about. */
  readonly asks?: string | readonly string[];
}

const list = <T>(n: number, make: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => make(i));
const screen = (...children: Part[]): Part => group({ flow: 'column', width: FILL }, ...children);
const padded = (padding: number, gap: number, ...children: Part[]): Part =>
  group({ flow: 'column', width: FILL, padding: pad(padding), gap }, ...children);
const button = (label: string, x = 20, y = 10): Part =>
  box({ flow: 'column', padding: pad(y, x), width: FIT }, line(label));
const tags = (i: number, rules: Rules): Part =>
  padded(
    20,
    16,
    line('Filters', 20),
    group(
      { flow: 'wrap', gap: 8, crossGap: 8 + i * 2, width: FILL, ...rules },
      ...list(7, (k) => button(port(k), 12, 6)),
    ),
  );
/** A row of a table, with a line along its lower edge. */
const ruled = (gap: number, ...cells: Part[]): Part =>
  group(
    { flow: 'row', gap, width: FILL, padding: { ...pad(0), bottom: 14 } },
    ...cells,
    bar({ width: FILL, height: fixed(1), pin: { left: 0, right: 0, bottom: 0 } }),
  );
const field = (label: string): Part =>
  group(
    { flow: 'column', gap: 6, width: FILL },
    line(label, 14),
    box({ flow: 'row', padding: pad(12, 14), width: FILL, align: 'centre' }, line('Ines Thorne')),
  );

/** Three sizes of each kind of structure. */
const KINDS: readonly ((i: number) => Known)[] = [
  (i) => ({
    name: 'a card of lines',
    width: 390 + i * 200,
    root: padded(
      16 + i * 8,
      16,
      box(
        { flow: 'column', gap: 8 + i * 4, padding: pad(16 + i * 4), width: FILL },
        ...list(3 + i, (k) => line(port(k))),
      ),
    ),
  }),
  (i) => ({
    name: 'an icon with its label in a button',
    width: 400 + i * 300,
    root: padded(
      24,
      20,
      line('Departures', 24),
      box(
        { flow: 'row', gap: 8 + i * 2, padding: pad(10, 16 + i * 4), align: 'centre', width: FIT },
        icon(20),
        line('Book this sailing'),
      ),
    ),
  }),
  (i) => ({
    name: 'a bar whose name takes the room before the links',
    width: 800 + i * 240,
    root: screen(
      box(
        { flow: 'row', gap: 24 + i * 4, padding: pad(16, 24 + i * 8), width: FILL, align: 'centre' },
        line('Kittiwake Line', 20, { width: FILL }),
        ...list(3, (k) => line(port(k))),
      ),
      padded(24 + i * 8, 12, line('Sailings', 28)),
    ),
  }),
  (i) => ({
    name: 'a bar with its ends apart',
    width: 800 + i * 240,
    root: screen(
      box(
        { flow: 'row', gap: 'between', padding: pad(16, 24 + i * 8), width: FILL, align: 'centre' },
        icon(32),
        button('Sign in'),
      ),
      padded(24 + i * 8, 12, line('Sailings', 28)),
    ),
  }),
  (i) => ({
    name: 'a table whose columns share the room',
    width: 900 + i * 130,
    root: padded(
      32,
      14,
      ...list(5, (k) => [
        ruled(
          0,
          line(port(k), 16, { width: FILL }),
          line(port(k + 3), 16, { width: weight(1.37) }),
          line(port(k + 2), 16, { width: weight(0.83) }),
          line(`${k + 2} cars`, 16, { width: weight(0.6) }),
        ),
      ]).flat(),
    ),
  }),
  (i) => ({
    name: 'a table of one column that fills beside fixed ones',
    width: 900 + i * 120,
    root: padded(
      32,
      14,
      ...list(5, (k) => [
        ruled(
          16,
          line(`Crossing to ${port(k)}`, 16, { width: FILL }),
          line(port(k + 3), 16, { width: fixed(160 + i * 20) }),
          line(port(k + 2), 16, { width: fixed(140) }),
          line(`${k + 2} cars`, 16, { width: fixed(120) }),
        ),
      ]).flat(),
    ),
  }),
  (i) => ({
    name: 'a list of rows with a face, words that fill and a time',
    width: 390 + i * 120,
    root: padded(
      16,
      16 + i * 2,
      ...list(4, (k) =>
        group(
          { flow: 'row', gap: 12 + i * 2, width: FILL, align: 'centre' },
          icon(40 + i * 4),
          line(port(k), 16, { width: FILL }),
          line(`1${k}:${20 + k}`, 14),
        ),
      ),
    ),
  }),
  (i) => ({
    name: 'a form of labels and fields',
    width: 480 + i * 60,
    root: padded(24, 20 + i * 4, field('Name'), field('Port of departure'), field('Car or foot')),
  }),
  (i) => ({
    name: 'two fields that share a row',
    width: 560 + i * 80,
    root: padded(
      24,
      20,
      group({ flow: 'row', gap: 16 + i * 4, width: FILL }, field('First name'), field('Last name')),
      field('E-mail'),
    ),
  }),
  (i) => ({
    name: 'cards in a grid of two rows',
    width: 960 + i * 160,
    asks: 'columns',
    root: padded(
      24 + i * 8,
      20,
      line('Fleet', 24),
      group(
        {
          flow: 'grid',
          columns: { kind: 'repeat', min: 200 },
          gap: 20 + i * 4,
          width: FILL,
          align: 'stretch',
        },
        ...list(6, (k) =>
          box(
            { flow: 'column', gap: 6, padding: pad(16), width: FILL, height: FILL },
            line(port(k), 18),
            line('38 min', 14),
          ),
        ),
      ),
    ),
  }),
  (i) => ({
    name: 'cards in one row',
    width: 1000 + i * 140,
    asks: 'turn',
    root: padded(
      32,
      24,
      line('Next sailings', 24),
      group(
        {
          flow: 'grid',
          columns: { kind: 'repeat', min: 200, most: 4 },
          gap: 16 + i * 4,
          width: FILL,
          align: 'stretch',
        },
        ...list(4, (k) =>
          box(
            { flow: 'column', gap: 8, padding: pad(16 + i * 4), width: FILL, height: FILL },
            line(port(k), 18),
            line('Space on the car deck', 14),
          ),
        ),
      ),
    ),
  }),
  (i) => ({ name: 'tags that wrap', width: 360 + i * 60, root: tags(i, {}) }),
  (i) => ({
    name: 'tags that wrap in the middle',
    width: 360 + i * 60,
    root: tags(i, { justify: 'centre' }),
  }),
  (i) => ({
    name: 'cards of which the last are wider',
    width: 900 + i * 40,
    root: padded(
      40,
      24,
      line('Next sailings', 24),
      group(
        { flow: 'wrap', gap: 16 + i * 4, crossGap: 16 + i * 4, width: FILL, align: 'stretch' },
        ...list(5, (k) =>
          box(
            { flow: 'column', gap: 8, padding: pad(20), width: FILL, minWidth: 240 },
            line(port(k), 18),
            line('Space on the car deck', 14),
          ),
        ),
      ),
    ),
  }),
  (i) => ({
    name: 'a rail beside what fills',
    width: 1024 + i * 128,
    asks: 'width',
    root: group(
      { flow: 'row', width: FILL, align: 'stretch' },
      box(
        { flow: 'column', gap: 16, padding: pad(24), width: fixed(200 + i * 20), height: FILL },
        ...list(6, (k) => line(port(k))),
      ),
      group(
        { flow: 'column', gap: 20, padding: pad(32), width: FILL },
        line('Departures', 28),
        box({ flow: 'column', gap: 10, padding: pad(20), width: FILL }, ...list(7, (k) => line(port(k)))),
      ),
    ),
  }),
  (i) => ({
    name: 'three panes',
    width: 1200 + i * 120,
    root: group(
      { flow: 'row', width: FILL, align: 'stretch' },
      box(
        { flow: 'column', gap: 12, padding: pad(20), width: fixed(180 + i * 20), height: FILL },
        ...list(5, (k) => line(port(k))),
      ),
      group(
        { flow: 'column', gap: 16, padding: pad(24), width: FILL },
        line('Crew', 24),
        ...list(6, (k) => box({ flow: 'row', padding: pad(12, 16), width: FILL }, line(port(k)))),
      ),
      box(
        { flow: 'column', gap: 12, padding: pad(20), width: fixed(240 + i * 20), height: FILL },
        ...list(5, (k) => line(port(k + 2))),
      ),
    ),
  }),
  (i) => ({
    name: 'a centred column with a limit',
    width: 1280 + i * 160,
    asks: 'limit',
    root: group(
      { flow: 'column', width: FILL, padding: pad(48, 24), align: 'centre' },
      group(
        { flow: 'column', gap: 24, width: FILL, maxWidth: 720 + i * 80 },
        line('Fares', 32),
        box({ flow: 'column', gap: 12, padding: pad(24), width: FILL }, ...list(4, (k) => line(port(k)))),
        box({ flow: 'column', gap: 12, padding: pad(24), width: FILL }, ...list(3, (k) => line(port(k + 3)))),
      ),
    ),
  }),
  (i) => ({
    name: 'words beside a picture in halves',
    width: 1040 + i * 160,
    root: padded(
      40,
      24,
      group(
        { flow: 'row', gap: 32 + i * 8, width: FILL, align: 'centre' },
        group({ flow: 'column', gap: 16, width: FILL }, line('Next boat', 36), prose(LONG), button('Book')),
        picture({ width: FILL, height: { kind: 'ratio', width: 4, height: 3 } }),
      ),
    ),
  }),
  (i) => ({
    name: 'a list of which one entry is marked',
    width: 1200 + i * 80,
    root: group(
      { flow: 'row', width: FILL, align: 'stretch' },
      box(
        { flow: 'column', gap: 20, padding: pad(24, 16), width: fixed(220 + i * 10), height: FILL },
        line('Kittiwake Line', 20),
        group(
          { flow: 'column', gap: 4 + i, width: FILL },
          ...list(5, (k) =>
            (k === 1 + i ? box : group)({ flow: 'column', padding: pad(9, 12), width: FILL }, line(port(k))),
          ),
        ),
      ),
      group(
        { flow: 'column', gap: 20, padding: pad(32), width: FILL },
        line('Departures', 28),
        box({ flow: 'column', gap: 10, padding: pad(20), width: FILL }, ...list(6, (k) => line(port(k)))),
      ),
    ),
  }),
  (i) => ({
    name: 'a face drawn up over a cover, with a name beside it',
    width: 900 + i * 120,
    root: padded(
      40,
      24,
      group(
        { flow: 'column', width: FILL },
        picture({ width: FILL, height: fixed(140 + i * 20) }),
        group(
          { flow: 'row', gap: 20, padding: pad(0, 24), width: FILL, align: 'end', gapBefore: -40 },
          picture({ width: fixed(80), height: fixed(80) }),
          group(
            { flow: 'column', gap: 2, width: FILL },
            line('Ellin Jortun', 24),
            line('Crew of the Marrow Isle'),
          ),
          button('Message'),
        ),
      ),
      box({ flow: 'column', gap: 10, padding: pad(20), width: FILL }, ...list(4, (k) => line(port(k)))),
    ),
  }),
  (i) => ({
    name: 'columns with their words in the middle',
    width: 1000 + i * 140,
    root: padded(
      40,
      24,
      line('A day at sea', 28),
      box({ flow: 'column', padding: pad(16), width: FILL }, line('Sailings that left on time')),
      group(
        {
          flow: 'grid',
          columns: { kind: 'repeat', min: 150, most: 4 },
          gap: 24,
          width: FILL,
        },
        ...list(4, (k) =>
          group(
            { flow: 'column', gap: 6, width: FILL, align: 'centre' },
            line(['38', '1,204', '96 %', '7'][k] as string, 32),
            line(port(k), 14),
          ),
        ),
      ),
    ),
  }),
  (i) => ({
    name: 'equal tabs',
    width: 390 + i * 30,
    root: screen(
      padded(20, 12, line('Boarding pass', 22), line('Marrow Isle')),
      box(
        { flow: 'row', padding: pad(10, 0), width: FILL },
        ...list(4, (k) =>
          group(
            { flow: 'column', gap: 4, width: FILL, align: 'centre' },
            icon(24),
            line(['Home', 'Sailings', 'Fares', 'Piers'][k] as string, 12),
          ),
        ),
      ),
    ),
  }),
  (i) => ({
    name: 'faces that overlap',
    width: 390,
    root: padded(
      20,
      16,
      line('Crew aboard', 20),
      group({ flow: 'row', gap: -8 - i * 2, width: FIT }, ...list(4 + i, () => icon(36 + i * 4))),
    ),
  }),
  (i) => ({
    name: 'a badge on its corner',
    width: 600 + i * 100,
    root: padded(
      24,
      32,
      line('Fares', 24),
      group(
        { flow: 'row', gap: 20, width: FILL, align: 'stretch' },
        ...list(2, (k) =>
          box(
            { flow: 'column', gap: 8, padding: pad(20), width: FILL, height: FILL },
            line(port(k), 18),
            line('38 min', 14),
            ...(k === 1
              ? [
                  box(
                    { flow: 'column', padding: pad(3, 8), pin: { right: 12 + i * 4, top: 12 }, width: FIT },
                    line('full', 12),
                  ),
                ]
              : []),
          ),
        ),
      ),
    ),
  }),
  (i) => ({
    name: 'a bar that is filled by a share',
    width: 420 + i * 80,
    root: padded(
      24,
      14,
      line('Car deck', 18),
      box(
        { flow: 'column', width: FILL, height: fixed(8 + i) },
        bar({ width: share(30 + i * 20), height: fixed(8 + i) }),
      ),
      line('18 of 40 places', 14),
    ),
  }),
  (i) => ({
    name: 'a picture over the words of a card',
    width: 390 + i * 20,
    asks: 'height',
    root: padded(
      16,
      16,
      box(
        { flow: 'column', width: FILL },
        picture({ width: FILL, height: { kind: 'ratio', width: 16, height: 9 } }),
        group({ flow: 'column', gap: 6, padding: pad(16), width: FILL }, line('The Petrel', 20), prose(LONG)),
      ),
    ),
  }),
  (i) => ({
    name: 'cards whose buttons stand at the lower edge',
    width: 1080 + i * 120,
    asks: 'rise',
    root: padded(
      32,
      24,
      line('Fares', 28),
      group(
        {
          flow: 'grid',
          columns: { kind: 'repeat', min: 200, most: 3 },
          gap: 24,
          width: FILL,
          align: 'stretch',
        },
        ...list(3, (k) =>
          box(
            { flow: 'column', gap: 12, padding: pad(20), width: FILL, height: FILL },
            line(port(k), 20),
            ...list(1 + k, (n) => line(`Sailing at 1${n}:20`, 14)),
            { ...bar({ width: FILL, height: FILL }), source: [], paint: {} },
            button('Choose'),
          ),
        ),
      ),
    ),
  }),
  (i) => ({
    name: 'a paragraph with a measure',
    width: 1100 + i * 200,
    root: padded(
      40,
      16,
      line('How to board', 32),
      prose(`${LONG} ${LONG}`, { width: FILL, maxWidth: 560 + i * 40 }),
    ),
  }),
  (i) => ({
    name: 'a bento',
    width: 1000 + i * 120,
    root: padded(
      32,
      24,
      line('The fleet', 28),
      group(
        {
          flow: 'grid',
          columns: { kind: 'count', count: 4 },
          autoRows: { kind: 'range', min: 140 + i * 10, max: 'content' },
          gap: 16,
          width: FILL,
          align: 'stretch',
        },
        box(
          {
            flow: 'column',
            padding: pad(20),
            width: FILL,
            height: FILL,
            cell: { columnSpan: 2, rowSpan: 2 },
          },
          line('The Petrel', 22),
        ),
        box({ flow: 'column', padding: pad(20), width: FILL, height: FILL }, line('18 cars')),
        box({ flow: 'column', padding: pad(20), width: FILL, height: FILL }, line('2 ramps')),
        box(
          { flow: 'column', padding: pad(20), width: FILL, height: FILL, cell: { columnSpan: 2 } },
          line('Built for the skerries'),
        ),
      ),
    ),
  }),
  (i) => ({
    name: 'a floating button on the frame',
    width: 390 + i * 24,
    root: padded(
      16,
      12,
      ...list(7, (k) => box({ flow: 'row', padding: pad(16), width: FILL }, line(port(k)))),
      box(
        { flow: 'column', padding: pad(16), width: FIT, height: FIT, pin: { right: 20 + i * 2, bottom: 24 } },
        icon(24),
      ),
    ),
  }),
  (i) => ({
    name: 'sections with their own backgrounds',
    width: 1280,
    root: screen(
      ...list(3, (k) =>
        box(
          { flow: 'column', gap: 12 + i * 4, padding: pad(40 + i * 8, 32), width: FILL },
          line(port(k), 24),
          line('Leaves from pier 2'),
        ),
      ),
    ),
  }),
  (i) => ({
    name: 'fields two to one',
    width: 640 + i * 60,
    root: padded(
      24,
      20,
      group(
        { flow: 'row', gap: 16, width: FILL },
        { ...field('Street'), rules: { ...field('').rules, width: weight(2) } },
        field('Code'),
      ),
      field('Town'),
    ),
  }),
];

const CASES = KINDS.flatMap((make) =>
  [0, 1, 2].map((i) => {
    const known = make(i);
    return { ...known, name: `${known.name}, ${known.width} wide, ${i + 1}` };
  }),
);

describe('the structure that is read is the one that was drawn, rule by rule', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  test.each(CASES)('$name', ({ root, width, asks }) => {
    const read = readStructure(drawingOf(root, width, m), m);
    expect(differencesFrom(root, read.root), outline(read.root)).toEqual([]);
    const topics: string[] = questionsAbout(read, [width], new Engine(m)).map((q) => q.topic);
    for (const topic of [asks ?? []].flat()) expect(topics).toContain(topic);
  });
});
