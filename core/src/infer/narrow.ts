import type { Boxes } from './standingPart.js';
import { picturePane } from './widths/panes.js';
import { asStrip, besideStrip } from './widths/rail.js';
import { gapPx, gapUnder, inFlow, reflow, type Engine } from '../layout/index.js';
import {
  centreY,
  FILL,
  right,
  ruleOf,
  standing,
  updatePart,
  type Columns,
  type Edges,
  walk,
  withOverride,
  type Part,
  type Rect,
  type RuleChange,
  type Structure,
} from '../model/index.js';

/** Below this share of the room that they were drawn in, unlike columns are too narrow to stand side by side. */
const TOO_NARROW = 0.82;
/** The frame widths between which columns begin to stand one above another, px. */
const STACKS_BELOW = { least: 560, most: 1000 };
/** What each of several alike columns needs at least, px. */
const ALIKE_NEEDS = 205;
/** What stands beside the row at both sides once the screen is narrow, px. */
const MARGINS = 48;
/** What stands beside the shell of an application stays beside it down to this frame width, px. */
const SHELL_BELOW = 640;
/** Rows that repeat down a list keep their parts beside each other for longer, px. */
const LIST_STACKS_BELOW = 520;
/** A screen drawn narrower than this is one of a phone or a tablet already. */
export const DRAWN_WIDE = 900;
/** Frames narrower than this are those of phones, px. */
const PHONES = 640;
/** A row that takes less than this share of the frame is a detail, not the screen's columns. */
const OF_FRAME = 0.5;
/** What is lower is a line of things: a bar, a row of buttons, px. */
const LOWEST = 88;
/** A column of content is at least so wide and so high, px. */
const COLUMN = { width: 120, height: 56 };
/** A narrower one that is so high is a list of links where it holds words, px: marks along a line of time are none. */
const LIST = 160;
/** Columns take at least this share of their row between them. */
const COLUMNS_SHARE = 0.45;

function isColumn(part: Part, boxes: Boxes): boolean {
  const box = boxes.get(part.id);
  if (!box || box.height < COLUMN.height) return false;
  const isList = part.kind === 'container' && [...walk(part)].some((p) => p.kind === 'text');
  return box.width >= COLUMN.width || (isList && box.height >= LIST);
}

/** More columns than this are those of a calendar or a table. */
const MOST_COLUMNS = 4;
/** The share of the screen's height from which on a painted column at its edge is the shell of an application. */
const SHELL = 0.85;
const SHELL_WIDE = 0.4;

/** Whether a column is a painted panel along the screen's edge: it stays beside what is worked on. */
function isShell(part: Part, boxes: Boxes, frame: number): boolean {
  const box = boxes.get(part.id);
  const whole = boxes.values().next().value;
  if (!box || !whole || !part.paint?.fill || box.height < whole.height * SHELL) return false;
  return box.width < frame * SHELL_WIDE && (box.x < 1 || right(box) > frame - 1);
}

/** Whether a row is one of columns of content, as a sidebar and a body, or words and a picture. */
function holdsColumns(row: Part, boxes: Boxes, frame: number): boolean {
  const box = boxes.get(row.id);
  if (row.kind !== 'container' || ruleOf(row.rules, 'flow') !== 'row' || row.rules.reverse || !box)
    return false;
  if (box.width < frame * OF_FRAME || box.height < LOWEST) return false;
  const columns = inFlow(row).filter((c) => isColumn(c, boxes));
  const taken = columns.reduce((s, c) => s + (boxes.get(c.id)?.width ?? 0), 0);
  return columns.length >= 2 && columns.length <= MOST_COLUMNS && taken >= box.width * COLUMNS_SHARE;
}

/** Columns of so many single lines each that stand beside each other line by line are a table, which they leave together. */
const TABLE_LINES = 3;

function isTable(row: Part, boxes: Boxes): boolean {
  const columns = inFlow(row).map((c) => [...walk(c)].filter((p) => p.kind === 'text'));
  const tops = columns.map((texts) => texts.map((t) => Math.round(centreY(boxes.get(t.id) ?? NOWHERE) / 3)));
  const [first = []] = tops;
  const hasPictures = [...walk(row)].some((p) => p.kind === 'picture');
  return (
    !hasPictures &&
    first.length >= TABLE_LINES &&
    tops.every((t) => t.length === first.length && t.every((y, i) => y === first[i]))
  );
}
const NOWHERE: Rect = { x: 0, y: 0, width: 0, height: 0 };

/** The frame width below which a row of columns is too narrow for them. */
function stacksBelow(row: Part, boxes: Boxes): number {
  if (row.pattern !== undefined) return LIST_STACKS_BELOW;
  if (row.children.some((c) => c.kind === 'picture' && (boxes.get(c.id)?.width ?? 0) < SMALL_PICTURE))
    return BESIDE_PICTURE;
  const columns = inFlow(row).filter((c) => isColumn(c, boxes));
  const widths = columns.map((c) => boxes.get(c.id)?.width ?? 0);
  const [most, least] = [Math.max(...widths), Math.min(...widths)];
  const gaps = (widths.length - 1) * (typeof row.rules.gap === 'number' ? row.rules.gap : 24);
  const needed =
    most - least < most * ALIKE
      ? widths.length * ALIKE_NEEDS + gaps
      : (boxes.get(row.id)?.width ?? 0) * TOO_NARROW;
  return Math.min(STACKS_BELOW.most, Math.max(STACKS_BELOW.least, Math.round((needed + MARGINS) / 20) * 20));
}

/** Columns whose content takes no more than this share of their row stand beside each other as long as there is room. */
const SHORT = 0.4;

/** The frame width below which columns of short words no longer fit beside each other; undefined for other rows. */
function shortBelow(row: Part, boxes: Boxes): number | undefined {
  const reach = (part: Part, from: number): number =>
    Math.max(
      0,
      ...[...walk(part)].filter((p) => p.children.length === 0).map((p) => endOf(boxes.get(p.id)) - from),
    );
  const widths = inFlow(row).map((c) => reach(c, boxes.get(c.id)?.x ?? 0));
  const needed = widths.reduce((s, w) => s + w, gapPx(row) * (widths.length - 1));
  const room = boxes.get(row.id)?.width ?? 0;
  return needed <= room * SHORT ? Math.round((needed + MARGINS) / 20) * 20 : undefined;
}

const endOf = (box: Rect | undefined): number => (box ? right(box) : 0);

/** Words beside a small picture keep their place for longer, px. */
const BESIDE_PICTURE = 640;

/** Columns whose widths differ by less than this share are alike. */
const ALIKE = 0.06;

/** A smaller picture is a mark or a face: it keeps its size, px. */
const SMALL_PICTURE = 200;

/** What a column's child says below the breakpoint: it fills, and nothing of its place in the row holds any more. */
function stackedChild(child: Part, box: Rect | undefined): RuleChange | undefined {
  if (child.rules.pin || !box) return undefined;
  const { rules } = child;
  const small =
    child.kind === 'picture'
      ? box.width < SMALL_PICTURE
      : child.kind !== 'text' && (box.width < COLUMN.width || child.children.length === 0);
  const fixedPicture = child.kind === 'picture' && rules.height?.kind === 'fixed' && !small;
  const change: RuleChange = {
    ...(!small && rules.width?.kind !== 'fill' && { width: FILL }),
    ...(fixedPicture && { height: { kind: 'ratio', width: box.width, height: box.height } }),
    ...(rules.gapBefore !== undefined && { gapBefore: null }),
    ...(rules.alignSelf !== undefined && { alignSelf: null }),
    ...(rules.height?.kind === 'share' && { height: null }),
  };
  return Object.keys(change).length > 0 ? change : undefined;
}

/** The space between what stood side by side, once it stands one above another: what it was, within reason. */
const stackedGap = (row: Part): number =>
  typeof row.rules.gap === 'number' ? gapUnder(Math.max(0, row.rules.gap)) : 24;

const ONE_COLUMN = { kind: 'count', count: 1 } as const;
const TWO_COLUMNS = { kind: 'count', count: 2 } as const;

/** Below this share of their drawn room four columns become two: of cards, and of words. */
const HALVED = { cards: 0.71, words: 0.62 };

/** The frame width below which four columns of a grid are two by two; undefined for other parts. */
function halvedBelow(part: Part, boxes: Boxes, frame: number): number | undefined {
  const { columns } = part.rules;
  const box = boxes.get(part.id);
  const children = inFlow(part);
  if (columns?.kind !== 'repeat' || columns.most !== 4 || children.length !== 4 || !box) return undefined;
  const outside = frame - box.width;
  const centred = Math.abs(box.x - (outside - box.x)) < 2;
  const share = children.every((c) => c.paint) ? HALVED.cards : HALVED.words;
  return Math.round((box.width * share + (centred ? Math.min(outside, MARGINS) : outside)) / 20) * 20;
}

/** Columns of words may be this share narrower before three of them stand one above another. */
const WORDS_GIVE = 0.8;

/** The frame width below which three cards in a row stand one above another: two and one would leave a lonely one. */
function threeBelow(
  part: Part,
  boxes: Boxes,
  frame: number,
): { readonly below: number; readonly columns: Columns } | undefined {
  const { columns } = part.rules;
  const box = boxes.get(part.id);
  const children = inFlow(part);
  if (columns?.kind !== 'repeat' || columns.most !== 3 || children.length !== 3 || !box) return undefined;
  const outside = Math.min(frame - box.width, MARGINS);
  const min = children.every((c) => c.paint) ? columns.min : Math.floor(columns.min * WORDS_GIVE);
  const below = Math.ceil((3 * min + 2 * gapPx(part) + outside) / 20) * 20;
  return { below, columns: { ...columns, min } };
}

/** Even paddings wider than this at both sides of a sheet step down to what phones and tablets leave, px. */
const SHEET = { sides: 48, narrow: 24, below: 860 };

/** The paddings of a painted sheet in narrow frames; undefined where they stay. */
function sheetPadding({ paint, rules: { padding } }: Part): Edges | undefined {
  if (!paint?.fill || !padding || Math.abs(padding.left - padding.right) > 2) return undefined;
  return Math.min(padding.left, padding.right) > SHEET.sides
    ? { ...padding, left: SHEET.narrow, right: SHEET.narrow }
    : undefined;
}

/** Below these frame widths a bento has two columns, and one, px. */
const BENTO = { two: 860, one: 460 };

const isBento = (part: Part): boolean =>
  part.rules.columns?.kind === 'count' &&
  part.rules.columns.count > 2 &&
  part.children.some((c) => c.rules.cell !== undefined);

/** The tiles of a bento in fewer columns: one after another, none wider than all of them. */
function narrowBento(part: Part): Part {
  const children = part.children.map((c) => {
    const { columnSpan = 1, rowSpan = 1 } = c.rules.cell ?? {};
    if (!c.rules.cell) return c;
    const two = { ...(columnSpan > 1 && { columnSpan: 2 }), ...(rowSpan > 1 && { rowSpan }) };
    return withOverride(withOverride(c, BENTO.two, { cell: two }), BENTO.one, {
      cell: rowSpan > 1 ? { rowSpan } : null,
    });
  });
  const narrow = withOverride({ ...part, children }, BENTO.two, { columns: TWO_COLUMNS });
  return withOverride(narrow, BENTO.one, { columns: ONE_COLUMN });
}

/**
 * Adds what a designer would do for phones to a screen that was drawn wide: columns of content stand one above another
 * below a breakpoint. Nothing changes at the drawn width. `strips`: what is in a rail that becomes a strip stands side by side,
 * where no narrower drawing tells.
 */
export function stackNarrow(root: Part, drawnWidth: number, engine: Engine, strips: boolean): Part {
  return drawnWidth < DRAWN_WIDE ? root : narrowed(root, drawnWidth, engine, strips);
}

/**
 * Adds the same for phones to a structure whose narrowest drawing, of this width, is a tablet's: in frames narrower than a
 * tablet, what still stands side by side there stands one above another. What the structure says of these stays.
 */
export function stackForPhones(structure: Structure, width: number, engine: Engine): Structure {
  const bare = ({ below: _below, ...part }: Part): Part => ({ ...part, children: part.children.map(bare) });
  const guessed = narrowed(bare(standing(structure, { width })), width, engine);
  const told = new Map([...walk(guessed)].map((p) => [p.id, p.below ?? []]));
  const added = (part: Part): Part => {
    const said = new Set((part.below ?? []).flatMap((o) => (o.width <= width ? Object.keys(o.rules) : [])));
    const isNew = ([name]: [string, unknown]) => !said.has(name);
    const guesses = said.has('flow') ? [] : (told.get(part.id) ?? []);
    const withGuesses = guesses.reduce(
      (p, o) =>
        withOverride(p, Math.max(o.width, PHONES), Object.fromEntries(Object.entries(o.rules).filter(isNew))),
      part,
    );
    return { ...withGuesses, children: part.children.map(added) };
  };
  return { ...structure, root: added(structure.root) };
}

/** A row of a rail and what stands beside it, as a strip across the screen and what stands below it. */
function withStrip(row: Part, below: number, boxes: Boxes, frame: number): Part {
  const { padding } = row.rules;
  const children = row.children.map((c) =>
    isShell(c, boxes, frame) ? asStrip(c, below, boxes) : besideStrip(c, gapPx(row), below),
  );
  const sides = padding ? { padding: { ...padding, left: 0, right: 0 } } : {};
  return withOverride({ ...row, children }, below, sides);
}

function narrowed(root: Part, drawnWidth: number, engine: Engine, strips = false): Part {
  const boxes = reflow(root, drawnWidth, engine).parts;
  // At the drawn width itself all stands as drawn.
  const within = (width: number) => Math.min(width, drawnWidth);
  let result = root;
  for (const row of walk(root)) {
    const halved = halvedBelow(row, boxes, drawnWidth);
    if (halved !== undefined)
      result = updatePart(result, row.id, (p) => withOverride(p, within(halved), { columns: TWO_COLUMNS }));
    const padding = sheetPadding(row);
    if (padding) result = updatePart(result, row.id, (p) => withOverride(p, SHEET.below, { padding }));
    if (isBento(row)) result = updatePart(result, row.id, narrowBento);
    const single = threeBelow(row, boxes, drawnWidth);
    if (single !== undefined)
      result = updatePart(result, row.id, (p) => {
        const { columns } = single;
        return withOverride({ ...p, rules: { ...p.rules, columns } }, within(single.below), {
          columns: ONE_COLUMN,
        });
      });
    if (!holdsColumns(row, boxes, drawnWidth) || isTable(row, boxes)) continue;
    if (picturePane(row, boxes, { width: drawnWidth, height: boxes.get(root.id)?.height ?? 0 })) continue;
    const shell = row.children.some((c) => isShell(c, boxes, drawnWidth));
    const below = within(shell ? SHELL_BELOW : (shortBelow(row, boxes) ?? stacksBelow(row, boxes)));
    const { justify, gap } = row.rules;
    result = updatePart(result, row.id, (part) => {
      const children = part.children.map((c) => {
        const change = stackedChild(c, boxes.get(c.id));
        return change ? withOverride(c, below, change) : c;
      });
      return withOverride({ ...part, children }, below, {
        flow: 'column',
        gap: stackedGap(part),
        align: 'start',
        ...(justify && justify !== 'start' && typeof gap === 'number' && { justify: 'start' }),
      });
    });
    if (shell && strips)
      result = updatePart(result, row.id, (part) => withStrip(part, below, boxes, drawnWidth));
  }
  return result;
}
