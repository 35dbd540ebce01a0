import {
  bottom,
  centreX,
  FILL,
  FIT,
  fixed,
  right,
  type Edges,
  type Rect,
  type Rules,
  type Size,
} from '../model/index.js';
import type { Builder } from './build.js';
import { tabPlaces } from './evenTabs.js';
import { hasParagraph, isLeaf, isRule, isText, lineCount, near, type Node, type Tolerance } from './node.js';
import { inContentColumn, WIDE_MARGIN } from './contentColumn.js';
import { evenWords } from './grids.js';
import { WIDE_BOX, wideMargin } from './tree.js';
import { breakingRange, isRagged, isRigid, roundest, sides, measureRange, WORD_ROOM } from './widths.js';
import { isWrapper, type Seat } from './seat.js';

/** The padding that stays where such a limit no longer bites. */
const NARROW_PADDING = 24;
/** A picture that takes this share of the room gives way with it. */
const LARGE = 0.6;

/** The padding of a column: the least distance of its children from each edge, but for words that end early. */
export function columnPadding(node: Node, box: Rect, b: Builder, isRoot: boolean): Edges {
  const { children } = node;
  const by = b.tolerance.same;
  const left = Math.max(0, Math.min(...children.map((c) => c.box.x)) - box.x);
  const rest = Math.max(0, right(box) - Math.max(...children.map((c) => right(c.box))));
  const top = Math.max(0, Math.min(...children.map((c) => c.box.y)) - box.y);
  const below = Math.max(0, bottom(box) - Math.max(...children.map((c) => bottom(c.box))));
  const edges = children.filter((c) => right(box) - right(c.box) < rest + by);
  const openRight = rest > left + by && edges.every(isRagged);
  // What begins where the screen's content column does stands in it, wherever its words end.
  const column = reachesSides(box, b) && b.column !== undefined && near(box.x + left, b.column.from, by);
  const even = column || near(left, rest, by * 1.5);
  let [l, r] = [left, openRight ? left : rest];
  const centred =
    even &&
    left > by &&
    children.every((c) => centredIn(c.box, box, by)) &&
    children.every((c) => isText(c) || b.fits(c));
  const beside = besideCentred(node, box, by);
  if (beside !== undefined) l = r = beside;
  else if (even && left > wideMargin(box, isRoot) && (isRoot || box.width > WIDE_BOX)) l = r = NARROW_PADDING;
  else if (centred && !node.item && box.width > node.box.width + by) l = r = 0;
  else if (centred && !b.fits(node))
    l = r = Math.min(left, isRoot || reachesSides(box, b) ? b.margin || left : left, Math.max(top, 16));
  else if (rest > left + by && rest > WIDE_MARGIN && left <= WIDE_MARGIN) r = left;
  else if (edges.every((c) => isRagged(c) && hasParagraph(c))) r = Math.max(0, Math.floor(r - WORD_ROOM));
  return { top: b.px(top), right: b.px(r), bottom: b.px(below), left: b.px(l) };
}

/**
 * The padding of a painted column in which some things stand in the middle and others at its sides: these tell it.
 * Undefined for other columns.
 */
function besideCentred(node: Node, box: Rect, by: number): number | undefined {
  if (!node.item) return undefined;
  const aside = node.children.filter((c) => !centredIn(c.box, box, by));
  if (aside.length === 0 || aside.length === node.children.length) return undefined;
  const padding = Math.min(...aside.flatMap((c) => sides(c.box, box)));
  const inside = node.children.every((c) => Math.min(...sides(c.box, box)) >= padding - by);
  return inside ? Math.max(0, padding) : undefined;
}

/** Whether a box spans the frame. */
const reachesSides = (box: Rect, b: Builder): boolean => box.x <= 1 && box.width >= b.frameWidth - 2;

const centredIn = (inner: Rect, outer: Rect, by: number): boolean => {
  const [l, r] = sides(inner, outer);
  return near(l, r, by * 1.5);
};

/** The filled part of a bar or a slider: a shape in a shape of its height, from one end. */
export function fillingShare(node: Node, box: Rect, tolerance: Tolerance): Seat | undefined {
  const [only] = node.children;
  if (
    !only ||
    node.children.length > 1 ||
    only.item?.kind !== 'shape' ||
    !isLeaf(only) ||
    node.item?.kind !== 'shape'
  )
    return undefined;
  const by = tolerance.same;
  const [l, r] = sides(only.box, box);
  if (!near(only.box.height, box.height, by) || box.width < box.height * 4 || l > by) return undefined;
  const percent = r <= by ? 100 : (only.box.width / box.width) * 100;
  return {
    node: only,
    rules: { width: { kind: 'share', percent }, height: fixed(box.height) },
    box: { ...only.box, y: box.y, height: box.height },
  };
}

type Place = 'flush' | 'start' | 'centre' | 'end';

function placeIn(box: Rect, inner: Rect, by: number): Place {
  const [l, r] = sides(box, inner);
  if (l <= by && r <= by) return 'flush';
  if (l <= by) return 'start';
  if (r <= by) return 'end';
  if (near(l, r, by * 1.5)) return 'centre';
  return l <= r ? 'start' : 'end';
}

/** What a column tells its children: that it is as wide as they are, or that wide margins limit them. */
interface ColumnWidth {
  readonly fits: boolean;
  readonly limited: boolean;
  /** Whether the child itself makes it so wide. */
  readonly widest?: boolean;
}

/** Whether a child alone reaches both sides of a column that is as wide as its content: then it is what makes it so wide. */
export const makesWidth = (child: Node, column: Node, inner: Rect, b: Builder): boolean =>
  child.item === undefined &&
  b.fits(child) &&
  column.children.every((c) => (placeIn(c.box, inner, b.tolerance.same) === 'flush') === (c === child));

/** How a child sits across a column whose inner box is `inner`. */
export function columnChild(asRead: Node, inner: Rect, b: Builder, column: ColumnWidth): Seat {
  const by = b.tolerance.same;
  const node = b.column ? inContentColumn(asRead, inner, b.column) : asRead;
  const place = placeIn(node.box, inner, by);
  if (isText(node))
    return lineCount(node) > 1 ? paragraph(node, inner, place, b) : singleLine(node, inner, place, b);
  if (isRigid(node)) return rigid(node, inner, place, b, column.fits);
  if (place === 'flush')
    return { node, rules: { width: column.widest ? FIT : FILL }, box: spanning(node.box, inner) };
  const table = ofTable(node, inner, by, column.limited);
  if (table) return table;
  if (node.flow === 'row' && !node.item && tabPlaces([node.children], inner, b.tolerance))
    return { node, rules: { width: FILL }, box: spanning(node.box, inner) };
  if (b.fits(node)) {
    // A stack of words may reach further than they do; a button may not.
    return inset({ node, rules: { width: FIT, ...aligned(place) }, box: node.box }, inner, place, by);
  }
  if (place === 'start' && isRagged(node) && node.box.x - inner.x <= by) {
    if (
      (node.flow === 'row' || node.flow === 'grid') &&
      evenWords(node.children, spanning(node.box, inner), b)
    )
      return { node, rules: { width: FILL }, box: spanning(node.box, inner) };
    const max = measureLimit(node, inner.width, b);
    const width = Math.min(inner.width, max ?? inner.width);
    return {
      node,
      rules: { width: FILL, ...(max !== undefined && { maxWidth: max }) },
      box: { ...node.box, x: inner.x, width },
    };
  }
  if (
    node.flow === 'wrap' &&
    place === 'start' &&
    node.box.x - inner.x <= by &&
    breaksSo(node, inner.width, by)
  )
    return { node, rules: { width: FILL }, box: spanning(node.box, inner) };
  return openLimited(node, inner, b, column.limited) ?? limited(node, inner, place, b, column.limited);
}

/** A row of a table, or what wraps one: it reaches as far on the right as it keeps away on the left. */
function ofTable(node: Node, inner: Rect, by: number, limited: boolean): Seat | undefined {
  const isRow = (n: Node): boolean =>
    n.cells !== undefined || (!n.item && n.children.length === 1 && n.children.every(isRow));
  if (node.item || !isRow(node)) return undefined;
  const left = Math.max(0, node.box.x - inner.x);
  const box = { ...node.box, width: Math.max(node.box.width, inner.width - 2 * left) };
  const rest = Math.max(0, right(inner) - right(box));
  if (limited && left > by) return inMiddle(node, box, true);
  return {
    node,
    rules: { width: FILL },
    box,
    ...(Math.max(left, rest) > by && { inset: { left, right: rest } }),
  };
}

/** Whether the lines of a wrap end just where the next thing would not have fitted into this width. */
function breaksSo(wrap: Node, width: number, by: number): boolean {
  const { children } = wrap;
  const gaps = children.slice(1).flatMap((c, i) => {
    const gap = c.box.x - right((children[i] as Node).box);
    return gap >= 0 ? [gap] : [];
  });
  const gap = Math.min(...gaps);
  return children.slice(1).every((c, i) => {
    const before = children[i] as Node;
    const sameLine = c.box.x > before.box.x;
    return sameLine || right(before.box) + gap + c.box.width > wrap.box.x + width + by;
  });
}

const aligned = (place: Place): Rules => (place === 'flush' ? {} : { alignSelf: place });

const spanning = (box: Rect, inner: Rect): Rect => ({ ...box, x: inner.x, width: inner.width });

/** Keeps a child that is neither flush nor centred at its distance from the nearer edge. */
function inset(seat: Seat, inner: Rect, place: Place, by: number): Seat {
  const [l, r] = sides(seat.box, inner);
  if (place === 'start' && l > by) return { ...seat, inset: { left: l } };
  if (place === 'end' && r > by) return { ...seat, inset: { right: r } };
  return seat;
}

/** Whether what a node holds says nothing of how far it reaches: a stack of words, in however many wrappers. */
const standsAlone = (node: Node): boolean =>
  isWrapper(node) ? standsAlone(node.children[0] as Node) : node.flow === undefined || node.flow === 'column';

/** A group behind a wide margin whose words end early: its limit leaves the same margin on the other side. */
function openLimited(node: Node, inner: Rect, b: Builder, padded: boolean): Seat | undefined {
  const [l, r] = sides(node.box, inner);
  if (node.item || !isRagged(node) || r < l - b.tolerance.same) return undefined;
  if (l > b.tolerance.same && l <= WIDE_MARGIN && inner.width <= WIDE_BOX && !standsAlone(node))
    return {
      node,
      rules: { width: FILL },
      box: { ...node.box, width: inner.width - 2 * l },
      inset: { left: l, right: l },
    };
  if (l <= WIDE_MARGIN || inner.width <= WIDE_BOX) return undefined;
  const even = { ...node.box, x: inner.x + l, width: inner.width - 2 * l };
  const box = near(l, r, b.tolerance.same * 1.5) ? roomOfWords(node, inner, b) : even;
  return inMiddle(node, box, padded);
}

/** A child in the middle of its column, as wide as its box at the most. */
const inMiddle = (node: Node, box: Rect, padded: boolean): Seat => ({
  node,
  rules: { width: FILL, maxWidth: box.width, alignSelf: 'centre' },
  box,
  // Where the column has a padding for narrow frames already, a second one would only narrow the content.
  ...(!padded && { inset: { left: NARROW_PADDING, right: NARROW_PADDING } }),
});

/** A holder that is narrower than the room: it fills up to its drawn width, or keeps small distances at both sides. */
function limited(node: Node, inner: Rect, place: Place, b: Builder, wide: boolean): Seat {
  const [l, r] = sides(node.box, inner);
  const by = b.tolerance.same;
  if (place !== 'centre' && l <= WIDE_MARGIN && r <= WIDE_MARGIN)
    return {
      node,
      rules: { width: FILL },
      box: node.box,
      inset: { ...(l > by && { left: l }), ...(r > by && { right: r }) },
    };
  if (place === 'centre' && l <= WIDE_MARGIN && !wide)
    return { node, rules: { width: FILL }, box: node.box, inset: { left: l, right: l } };
  const box = place === 'centre' ? roomOfWords(node, inner, b) : node.box;
  if (place === 'centre' && !wide && l > WIDE_MARGIN && inner.width >= b.frameWidth - 2)
    return inMiddle(node, box, wide);
  return inset(
    { node, rules: { width: FILL, maxWidth: box.width, ...aligned(place) }, box },
    inner,
    place,
    by,
  );
}

/** The box of a group in the middle: where only words end it, a round one in which they break as drawn. */
function roomOfWords(node: Node, inner: Rect, b: Builder): Rect {
  if (node.item || !isRagged(node) || !hasParagraph(node)) return node.box;
  const [low, high] = measureRange(node, b.measurer);
  const width = Math.max(node.box.width, Math.min(roundest(low, high), inner.width));
  return { ...node.box, x: centreX(node.box) - width / 2, width };
}

function singleLine(node: Node, inner: Rect, place: Place, b: Builder): Seat {
  const by = b.tolerance.same;
  const align = place === 'flush' ? 'start' : place;
  const textAlign = place === 'centre' || place === 'end' ? place : 'start';
  return inset({ node, rules: { width: FIT, alignSelf: align }, box: node.box, textAlign }, inner, place, by);
}

/** How much nearer to one side centred words may stand, px. */
const CENTRED = 4;

function paragraph(node: Node, inner: Rect, found: Place, b: Builder): Seat {
  const { item } = node;
  if (item?.kind !== 'text') throw new RangeError('A paragraph is a text.');
  const by = b.tolerance.same;
  const [low, high] = breakingRange(item.content, node.box.width, item.lines.length, b.measurer);
  const align = item.content.align;
  const l = node.box.x - inner.x;
  // Centred lines of unlike length stand a hair beside the middle.
  const place = align === 'centre' && near(l, right(inner) - right(node.box), CENTRED) ? 'centre' : found;
  const offset = align === 'start' && place !== 'centre' && l > by ? l : 0;
  const room = inner.width - offset;
  const seat = { node, textAlign: align };
  const insetLeft = offset > 0 ? { inset: { left: offset } } : {};
  const spans = align === 'start' || place === 'centre' || place === 'flush';
  if (spans && room >= low - by && room < high) {
    const width = room;
    return {
      ...seat,
      rules: { width: FILL },
      box: { ...node.box, x: inner.x + offset, width },
      ...insetLeft,
    };
  }
  const max = Math.min(roundest(low, high), Math.max(low, room));
  const x =
    align === 'centre'
      ? node.box.x + (node.box.width - max) / 2
      : align === 'end'
        ? right(node.box) - max
        : node.box.x;
  return {
    ...seat,
    rules: { width: FILL, maxWidth: max, ...aligned(align === 'start' ? 'start' : place) },
    box: { ...node.box, x, width: max },
    ...insetLeft,
  };
}

/** The width at which the paragraphs in a ragged node break as drawn, where the room would break them otherwise. */
function measureLimit(node: Node, room: number, b: Builder): number | undefined {
  const [low, high] = measureRange(node, b.measurer);
  if (room < high || !hasParagraph(node)) return undefined;
  return low < high ? Math.min(roundest(low, high), room) : low;
}

function rigid(node: Node, inner: Rect, place: Place, b: Builder, fits: boolean): Seat {
  const large = node.item?.kind === 'picture' && node.box.width >= inner.width * LARGE;
  // In a column as wide as its content something has to have a width.
  const flush = !fits && (place === 'flush' || isRule(node));
  const [l, r] = sides(node.box, inner);
  const by = b.tolerance.same;
  let width: Size = fixed(node.box.width);
  if (flush && l <= by && r <= by) width = FILL;
  else if (large && !fits) width = FILL;
  const height = b.heightRule(node, node.box, width);
  const rules: Rules = {
    width,
    height,
    ...(width.kind === 'fill' && place !== 'flush' && { maxWidth: node.box.width }),
    ...aligned(place),
  };
  if (isLeaf(node) && width.kind === 'fill' && place === 'flush')
    return { node, rules: { width, height }, box: spanning(node.box, inner) };
  return inset({ node, rules, box: node.box }, inner, place, by);
}
