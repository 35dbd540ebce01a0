/** What bars, gutters and picture panes of screens whose boxes are known at several widths do in narrower frames. */

export type Box = readonly [x: number, y: number, width: number, height: number];
export type Boxes = Readonly<Record<string, Box | null>>;

/** One screen: the width that it was drawn at, and its boxes at this and at other widths. */
export interface Screen {
  readonly drawn: number;
  readonly height: number;
  readonly widths: ReadonlyMap<number, Boxes>;
}

/** The tally of what was seen, over all screens. */
export interface Phones {
  /** Bars across the top, how many of them hid something, and between which frame widths they began to, px. */
  readonly bars: { seen: number; readonly at: number[] };
  /**
   * Where the drawing keeps its content further than {@link PHONE_MOST} from the sides: how far phones keep it, px, and between which
   * frame widths it comes that near.
   */
  readonly gutters: { readonly counts: Record<number, number>; readonly at: number[] };
  /** Pictures that fill a side of the screen, how many went, and between which frame widths, px. */
  readonly panes: { seen: number; readonly at: number[] };
}

export const nonePhones = (): Phones => ({
  bars: { seen: 0, at: [] },
  gutters: { counts: {}, at: [] },
  panes: { seen: 0, at: [] },
});

/** Screens drawn narrower than this are those of phones and tablets themselves, px. */
const WIDE = 900;
/** What is no higher is a bar, and what is no lower takes the frame's whole height. */
const BAR = { least: 36, most: 120 };
const WHOLE = 0.95;
/** A bar holds so many things. */
const THINGS = 3;
/** The frames of phones, px, and the most that they keep from their sides as they are. */
const PHONE = 480;
const PHONE_MOST = 24;

const middle = (a: number, b: number): number => Math.round(Math.sqrt(a * b));

/** The frame widths below the drawn one, the widest first. */
const narrower = ({ widths, drawn }: Screen): number[] =>
  [...widths.keys()].filter((w) => w < drawn).sort((a, b) => b - a);

/** Between which widths something that is shown in the drawing goes; undefined where it stays. */
function goesAt(screen: Screen, isGone: (boxes: Boxes) => boolean): number | undefined {
  let last = screen.drawn;
  for (const width of narrower(screen)) {
    if (isGone(screen.widths.get(width) ?? {})) return middle(last, width);
    last = width;
  }
  return undefined;
}

function countBar(tally: Phones, screen: Screen, drawn: readonly (readonly [string, Box])[]): void {
  const bar = drawn.find(
    ([, [x, y, w, h]]) => y < 2 && x < 2 && w > screen.drawn - 2 && h >= BAR.least && h <= BAR.most,
  );
  if (!bar) return;
  const [, [, top, , height]] = bar;
  const things = drawn.filter(
    ([id, [, y, w, h]]) =>
      id !== bar[0] && y >= top - 1 && y + h <= top + height + 1 && w < screen.drawn / 2 && h > 4,
  );
  if (things.length < THINGS) return;
  tally.bars.seen++;
  const at = goesAt(screen, (boxes) => things.some(([id]) => !boxes[id]));
  if (at !== undefined) tally.bars.at.push(at);
}

function countPanes(tally: Phones, screen: Screen, drawn: readonly (readonly [string, Box])[]): void {
  for (const [id, [x, , w, h]] of drawn) {
    const isAtSide = x < 2 || x + w > screen.drawn - 2;
    if (!isAtSide || h < screen.height * WHOLE || w < screen.drawn / 4 || w > screen.drawn * 0.75) continue;
    const holds = drawn.some(([other, [ox, , ow]]) => other !== id && ox >= x - 1 && ox + ow <= x + w + 1);
    if (holds) continue;
    tally.panes.seen++;
    const at = goesAt(screen, (boxes) => !boxes[id]);
    if (at !== undefined) tally.panes.at.push(at);
  }
}

const gutterOf = (boxes: Boxes): number | undefined => {
  const starts = Object.values(boxes).flatMap((b) => (b && b[0] > 2 ? [b[0]] : []));
  return starts.length > 0 ? Math.round(Math.min(...starts)) : undefined;
};

/** Adds one screen to the tally. */
export function countPhones(tally: Phones, screen: Screen): void {
  if (screen.drawn < WIDE) return;
  const boxes = screen.widths.get(screen.drawn) ?? {};
  const drawn = Object.entries(boxes).flatMap(([id, box]) => (box ? [[id, box] as const] : []));
  countBar(tally, screen, drawn);
  countPanes(tally, screen, drawn);
  if ((gutterOf(boxes) ?? 0) <= PHONE_MOST) return;
  for (const width of narrower(screen).filter((w) => w < PHONE)) {
    const gutter = gutterOf(screen.widths.get(width) ?? {});
    if (gutter !== undefined) tally.gutters.counts[gutter] = (tally.gutters.counts[gutter] ?? 0) + 1;
  }
  const at = goesAt(screen, (now) => (gutterOf(now) ?? 0) <= PHONE_MOST);
  if (at !== undefined) tally.gutters.at.push(at);
}

/** Frame widths are said in whole steps of this, px, and gutters in this. */
const STEP = 20;
const GUTTER_STEP = 4;

/** The middle one of some frame widths, in whole steps. */
const middleOf = (widths: readonly number[]): number =>
  Math.round((widths.toSorted((a, b) => a - b)[widths.length >> 1] ?? 0) / STEP) * STEP;

/** The distance, in whole steps, that the most gutters are no more than a step away from. */
function usualGutter(counts: Readonly<Record<number, number>>): number {
  const hits = (at: number): number =>
    Object.entries(counts).reduce(
      (n, [g, count]) => n + (Math.abs(Number(g) - at) <= GUTTER_STEP ? count : 0),
      0,
    );
  const steps = Array.from({ length: 10 }, (_, i) => (i + 1) * GUTTER_STEP);
  return steps.reduce((best, at) => (hits(at) > hits(best) ? at : best));
}

/** What the reader goes by, with the counts that it comes from. */
export const phonePriors = ({ bars, gutters, panes }: Phones) => ({
  bars: {
    seen: bars.seen,
    hidden: bars.at.length,
    menuBelow: middleOf(bars.at),
  },
  gutters: {
    counts: gutters.counts,
    below: middleOf(gutters.at),
    most: usualGutter(gutters.counts),
  },
  panes: { seen: panes.seen, gone: panes.at.length, goneBelow: middleOf(panes.at) },
});
