import { fixed, FILL, pad, type Part, type PartKind, type Rules } from '@tinfold/core/model';

/** What a picture of a rule shows: a container in a frame, and the part in it that takes the rule. */
export interface Scene {
  readonly root: Part;
  /** The id of the part that takes the rule. */
  readonly on: string;
  /** The frame's width, px. */
  readonly width: number;
  /** How far the frame is scrolled down in the second picture, px. */
  readonly scrolled?: number;
}

const part = (id: string, kind: PartKind, rules: Rules, children: readonly Part[] = []): Part => ({
  id,
  name: id,
  kind,
  rules,
  children,
  source: [],
});

const shape = (id: string, width: number, height: number, rules: Rules = {}): Part =>
  part(id, 'shape', { width: fixed(width), height: fixed(height), ...rules });

const text = (id: string, words: string, rules: Rules = {}): Part => ({
  ...part(id, 'text', rules),
  content: {
    kind: 'text',
    lineHeight: 28,
    align: 'start',
    runs: [
      {
        text: words,
        style: { family: 'Inter', size: 22, weight: 400, italic: false, letterSpacing: 0, colour: '#1d2b34' },
      },
    ],
  },
});

/** The frame's height in all pictures, px of a frame 400 wide. */
const HIGH = 200;
const box = (rules: Rules, ...children: Part[]): Part =>
  part(
    'box',
    'container',
    { flow: 'row', gap: 16, padding: pad(16), width: FILL, height: fixed(HIGH), ...rules },
    children,
  );

const three = (rules: Rules = {}, middle: Rules = {}): Part =>
  box(rules, shape('1', 64, 44), shape('2', 92, 60, middle), shape('3', 56, 80));
const many = (rules: Rules): Part =>
  box(rules, ...[96, 72, 120, 84, 64, 108, 76].map((w, i) => shape(String(i + 1), w, 44)));
const LONG = 'From Marrow Isle to Nether Quay by way of Low Tarn and Ellin Skerry';

const ofBox = (root: Part, width = 400): Scene => ({ root, on: 'box', width });
const ofTwo = (root: Part, width = 400): Scene => ({ root, on: '2', width });

/** A container that is narrower than what is in it. */
const tooSmall = (): Scene =>
  ofTwo(
    box(
      { align: 'start' },
      part('2', 'container', { flow: 'row', gap: 16, padding: pad(16), width: fixed(240) }, [
        shape('1', 64, 80, { givesWay: 'never' }),
        shape('3', 220, 80, { givesWay: 'never' }),
      ]),
    ),
  );

/** For every word of the language the scene in which its example is seen at work. */
export const SCENES: Readonly<Record<string, Scene>> = {
  col: ofBox(three()),
  row: ofBox(three({ flow: 'column' })),
  wrap: ofBox(many({})),
  grid: ofBox(many({ columns: { kind: 'repeat', min: 100, most: 3 } })),
  free: ofBox(
    box(
      {},
      shape('1', 64, 44, { pin: { left: 16, top: 16 } }),
      shape('2', 92, 60, { pin: { right: 16, top: 40 } }),
      shape('3', 56, 80, { pin: { left: 120, bottom: 16 } }),
    ),
  ),
  fill: ofTwo(box({}, shape('1', 0, 80, { width: FILL }), shape('2', 0, 80, { width: FILL }))),
  fit: ofTwo(
    box(
      { align: 'start' },
      part('2', 'container', { flow: 'row', padding: pad(12), width: fixed(320) }, [
        text('1', 'Marrow Isle'),
      ]),
    ),
  ),
  w: ofTwo(three()),
  h: ofTwo(three({}, { width: fixed(200) })),
  min: ofTwo(box({}, shape('1', 140, 60), shape('2', 0, 60, { width: FILL }), shape('3', 120, 60))),
  max: ofTwo(box({ height: fixed(450) }, shape('2', 0, 300, { width: FILL })), 900),
  gap: ofBox(three()),
  cross: ofBox(many({ flow: 'wrap' })),
  before: ofTwo(three()),
  pad: ofBox(three({ padding: pad(0) })),
  align: ofBox(three({ align: 'start' })),
  self: ofTwo(three({ align: 'start' })),
  justify: ofBox(three()),
  cols: ofBox(
    box(
      { flow: 'grid', height: fixed(450) },
      ...['1', '2', '3', '4', '5'].map((id) => shape(id, 0, 90, { width: FILL })),
    ),
    900,
  ),
  lines: ofTwo(box({ align: 'start' }, text('2', LONG, { width: FILL }))),
  order: { ...ofTwo(three()), on: '3' },
  stay: {
    ...ofTwo(
      box(
        { flow: 'column', height: fixed(HIGH * 2) },
        shape('2', 0, 40, { width: FILL }),
        ...['1', '3', '4'].map((id) => shape(id, 0, 90, { width: FILL })),
      ),
    ),
    scrolled: 90,
  },
  reverse: ofBox(three()),
  clip: tooSmall(),
  scroll: tooSmall(),
  rtl: ofBox(three()),
  ltr: ofBox(three({ direction: 'rtl' })),
  hide: ofTwo(three()),
  show: ofTwo(three({}, { hidden: true })),
};
