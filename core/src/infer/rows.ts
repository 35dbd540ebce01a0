import { bottom, FILL, FIT, fixed, right, round, type Rect, type Rules, type Size } from '../model/index.js';
import { crossSpan, OFF_MIDDLE, seatAcross, type Plan } from './across.js';
import type { Builder } from './build.js';
import { tabPlaces } from './evenTabs.js';
import { evenWords, gridRules, repeats } from './grids.js';
import { middleGrid } from './middleGrid.js';
import { hasParagraph, isRule, isText, near, type Node } from './node.js';
import { commonest, gapsOf, groupNode } from './stack.js';
import { planTable } from './tables.js';
import { ICON_INK, isRagged, isRigid, roundestGap, measureRange, WORD_ROOM } from './widths.js';
import { withRules, type Seat } from './seat.js';

/** A gap this much larger than the others of its row holds the ends apart. */
const APART = 1.6;
/** A child up to this share of its row beside a larger one is a rail: it keeps its width. */
const RAIL = 0.4;

/** Words that leave more room than this before the next thing are limited by their measure, not by a gap, px. */
const WIDE_SLACK = 96;
/** The gap that is taken then. */
const SPLIT_GAP = 32;
/** A row that ends earlier than it begins has no more than this at its end, px. */
const END_PADDING = 120;

/** Two columns of words are halves when a gap of at least this much is left between them, px. */
const HALVES_GAP = 12;

/** The rules of a row and how its children sit in it; one that `fits` is as wide as they are. */
export function planRow(read: Node, box: Rect, b: Builder, fits: boolean): { rules: Rules; seats: Seat[] } {
  const node = fits ? read : withCentred(read, box, b);
  const { children } = node;
  const by = b.tolerance.same;
  if (node.cells) return planTable(node, box, b);
  if (!fits && repeats(node, box, b)) return gridRules(node, box, b);
  const words = fits ? undefined : (evenWords(children, box, b) ?? middleGrid(children, box, b));
  if (words) return words;
  // The grouping of another drawing of the screen stays.
  const ends = fits || node.of !== undefined ? undefined : heldApart(children);
  if (ends) return planRow({ ...node, children: ends }, box, b, fits);
  const [first, last] = [children[0], children.at(-1)];
  if (!first || !last) return { rules: { flow: 'row' }, seats: [] };
  const tabs = fits ? undefined : evenTabs(children, box, b);
  if (tabs) return tabs;
  const span = crossSpan(children);
  const top = Math.max(0, span.from - box.y);
  const below = Math.max(0, bottom(box) - span.to);
  let [left, rest] = [Math.max(0, first.box.x - box.x), Math.max(0, right(box) - right(last.box))];
  const rigid = children.every((c) => b.fits(c));
  const even =
    fits || children.length < 3
      ? undefined
      : evenColumns(children, { ...box, x: box.x + left, width: box.width - 2 * left }, b);
  let justify: Plan['justify'];
  // An icon's strokes end inside its box, so that its side looks wider padded.
  const ink = [first, last].some((c) => c.item?.kind === 'art') ? ICON_INK : 0;
  const widest = Math.max(0, ...gapsOf(children, 'row'));
  const apart = widest > ENDS_GAP && widest > Math.max(left, rest) * ENDS_TIMES;
  const packed = !apart && !near(left, rest, by * 1.5 + ink);
  if (fits) justify = undefined;
  else if (even) rest = left;
  else if (packed) {
    // Packed to one side: the nearer edge tells the padding of both.
    if (rest > left) rest = !rigid && (b.fits(last) || !isRagged(last)) && rest < END_PADDING ? rest : left;
    else if (rigid) {
      justify = 'end';
      left = rest;
    }
  } else if (rigid && left > Math.max(by, ...gapsOf(children, 'row')) && !b.fits(node)) {
    justify = 'centre';
    left = rest = Math.min(left, Math.max(top, 12));
  }
  if (isRagged(last) && hasParagraph(last)) rest = Math.max(0, Math.floor(rest - WORD_ROOM));
  const inner = {
    x: box.x + left,
    y: box.y + top,
    width: box.width - left - rest,
    height: box.height - top - below,
  };
  const plan = even ?? {
    ...planWidths(children, inner, b, fits || (packed && rigid)),
    ...(justify && { justify }),
  };
  const padding = { top: b.px(top), right: b.px(rest), bottom: b.px(below), left: b.px(left) };
  const { align, seats, minHeight } = seatAcross(children, plan, inner, b);
  const rules: Rules = {
    flow: 'row',
    ...(children.length > 1 && { gap: plan.gap }),
    padding,
    ...(minHeight !== undefined && { minHeight: minHeight + padding.top + padding.bottom }),
    ...(align !== 'start' && { align }),
    ...(plan.justify && { justify: plan.justify }),
  };
  return { rules, seats: seats.map((s, i) => withRules(s, { align, gapBefore: plan.before[i] })) };
}

/** Space at a child's sides from which on it stands in the middle of a place of its own, px: more than gaps and paddings are. */
const ASIDE = 48;

/** A row of two of which one stands in the middle of its place: the place is the column, and its space no gap. */
function withCentred(row: Node, box: Rect, b: Builder): Node {
  const [first, second] = row.children;
  if (!first || !second || row.children.length > 2 || row.of !== undefined || row.cells) return row;
  const by = b.tolerance.same * 2;
  const between = second.box.x - right(first.box);
  const inPlace = (child: Node, from: number, to: number): Node => ({
    ...groupNode('column', [child]),
    box: { ...child.box, x: from, width: to - from },
  });
  if (between <= ASIDE || b.fits(first) || b.fits(second)) return row;
  if (near(first.box.x - box.x, between, by))
    return { ...row, children: [inPlace(first, box.x, second.box.x), second] };
  if (near(right(box) - right(second.box), between, by))
    return { ...row, children: [first, inPlace(second, right(first.box), right(box))] };
  return row;
}

/** A round box keeps its size, whatever few letters it holds. */
function isDisc({ item, box }: Node): boolean {
  const radius = item?.paint.radius ?? 0;
  const half = box.width / 2;
  const isRound = radius === 'round' || (typeof radius === 'number' && near(radius, half, OFF_MIDDLE / 2));
  return isRound && radius !== 0 && near(box.width, box.height, OFF_MIDDLE);
}

const isFlexible = (node: Node, inner: Rect, b: Builder): boolean =>
  !isDisc(node) &&
  (!b.fits(node) ||
    (isRigid(node) && node.box.width >= inner.width * 0.35) ||
    (isRule(node) && node.box.width > node.box.height * 8 && node.box.width > 24));

/** A gap beyond this, px, and this many times as wide as any other of its row, has two ends with room between. */
const ENDS_GAP = 96;
const ENDS_TIMES = 2.2;

/**
 * The groups of a row that gaps much wider than its others hold apart, each as one; undefined for other rows. An icon's
 * strokes end inside its box: what a gap is wider for that is its group's own padding.
 */
function heldApart(children: readonly Node[]): Node[] | undefined {
  if (children.length < 3) return undefined;
  const gaps = gapsOf(children, 'row');
  const sorted = gaps.toSorted((x, y) => x - y);
  const from = sorted.findIndex((g, i) => i > 0 && g >= ENDS_GAP && g >= (sorted[i - 1] ?? 0) * ENDS_TIMES);
  const least = sorted[from];
  if (least === undefined || sorted.length - from > MOST_ENDS) return undefined;
  const cuts = gaps.flatMap((g, i) => (g >= least ? [i + 1] : []));
  // Words before the gap take its room instead.
  if (cuts.length === 1 && mayGrow(children[(cuts[0] ?? 0) - 1] as Node)) return undefined;
  return [0, ...cuts].map((start, i) => {
    const end = children.slice(start, cuts[i]);
    const group = end.length === 1 ? (end[0] as Node) : groupNode('row', end);
    const more = i === 0 ? 0 : (gaps[start - 1] ?? 0) - least;
    if (end.length === 1 || more <= 0 || more > ICON_INK || end[0]?.item?.kind !== 'art') return group;
    return { ...group, box: { ...group.box, x: group.box.x - more, width: group.box.width + more } };
  });
}
/** More groups than these and one are a row of its own kind. */
const MOST_ENDS = 2;

/** Decides the widths of a row's children from how they share its inner width. */
function planWidths(children: readonly Node[], inner: Rect, b: Builder, fits: boolean): Plan {
  const by = b.tolerance.same;
  const boxes = children.map((c) => c.box);
  const widths = children.map((c): Size =>
    isRigid(c) || isDisc(c) || !b.fits(c) ? fixed(c.box.width) : FIT,
  );
  const gaps = gapsOf(children, 'row');
  // What fills would have taken the room beside it: by a gap wider than itself it says that it keeps its size.
  const isApart = (i: number) =>
    Math.max(gaps[i - 1] ?? 0, gaps[i] ?? 0) > Math.max(ENDS_GAP, children[i]?.box.width ?? 0);
  const flexible = children.map((c, i) => isFlexible(c, inner, b) && !isApart(i));
  const last = children.at(-1) as Node;
  const reaches = right(last.box) >= right(inner) - by;
  const open = !reaches && isRagged(last);
  const plain = (): Plan => ({ widths, boxes, ...b.gaps(children, 'row', boxes) });
  if (fits) return plain();
  const columns = evenColumns(children, inner, b);
  if (columns) return columns;
  if (!reaches && !open) {
    if (flexible.some(Boolean)) growAll(children, flexible, widths, b);
    return plain();
  }
  if (flexible.some(Boolean)) {
    shareRoom(children, flexible, widths, boxes, inner, b);
    takeWideGap(children, widths, boxes, b);
    return plain();
  }
  if (children.length === 1 || !reaches) return plain();
  return endsApart(children, widths, boxes, b);
}

/**
 * Columns whose words end where they will: what tells their widths is the steps from start to start and the room after
 * the last. They share the row in small whole weights.
 */
function evenColumns(children: readonly Node[], inner: Rect, b: Builder): Plan | undefined {
  const [first, last] = [children[0], children.at(-1)];
  const count = children.length;
  if (!first || !last || count < 2 || !children.every((c) => (!c.item || isText(c)) && isRagged(c)))
    return undefined;
  if (!near(first.box.x, inner.x, b.tolerance.same)) return undefined;
  const steps = children.slice(1).map((c, i) => c.box.x - (children[i] as Node).box.x);
  const rest = right(inner) - last.box.x;
  const gap = commonest(steps, b.tolerance.same * 1.5).value - rest;
  if (count === 2 && (gap < HALVES_GAP || !children.some(hasParagraph))) return undefined;
  const sizes = [...steps.map((s) => s - gap), rest];
  const least = Math.min(...sizes);
  if (gap < -b.tolerance.same || gap > least * 0.7) return undefined;
  const weights = sizes.map((w) => Math.round(w / least));
  const whole = sizes.every((w, i) =>
    near(w, (weights[i] ?? 1) * least, b.tolerance.same * 2 + (weights[i] ?? 1) * 0.5),
  );
  // Of several equal columns beside one of another width that one may have any weight.
  const equal = sizes.filter((w) => near(w, least, b.tolerance.same * 2)).length;
  const mostEqual = equal > 1 && equal === count - 1;
  if (
    (!whole && !mostEqual) ||
    Math.max(...weights) > 4 ||
    children.some((c, i) => c.box.width > (sizes[i] ?? 0) + b.tolerance.same)
  )
    return undefined;
  const boxes = children.map((c, i) => ({ ...c.box, width: sizes[i] ?? c.box.width }));
  const widths = sizes.map((w): Size => ({
    kind: 'fill',
    weight: near(w, least, 3) ? 1 : round(w / least, 3),
  }));
  return { widths, boxes, gap: b.px(Math.max(0, gap)), before: [] };
}

/** Equal tabs: things whose middles stand at even steps that fill the whole box. */
function evenTabs(
  children: readonly Node[],
  box: Rect,
  b: Builder,
): { rules: Rules; seats: Seat[] } | undefined {
  const places = tabPlaces([children], box, b.tolerance);
  if (!places) return undefined;
  const { left, rest, width, step } = places;
  const span = crossSpan(children);
  const padding = {
    top: b.px(Math.max(0, span.from - box.y)),
    right: b.px(Math.max(0, rest)),
    bottom: b.px(Math.max(0, bottom(box) - span.to)),
    left: b.px(Math.max(0, left)),
  };
  const seats = children.map((node, i): Seat => {
    const seatBox = { ...node.box, x: box.x + left + i * step, width };
    const top = node.box.y - span.from;
    const inset = top > b.tolerance.same ? { inset: { top } } : {};
    return { node, box: seatBox, rules: { width: FILL, height: FIT }, textAlign: 'centre', ...inset };
  });
  const gap = b.px(step - width);
  return { rules: { flow: 'row', ...(gap > 0 && { gap }), padding }, seats };
}

/** Holders in a row that does not reach its end: they may grow up to what was drawn. */
function growAll(children: readonly Node[], flexible: readonly boolean[], widths: Size[], b: Builder): void {
  children.forEach((c, i) => {
    if (flexible[i] && !isRigid(c)) widths[i] = fixed(b.px(c.box.width));
  });
}

/** Shares the room of a row that is full: alike widths evenly, else the largest takes what the rails leave. */
function shareRoom(
  children: readonly Node[],
  flexible: readonly boolean[],
  widths: Size[],
  boxes: Rect[],
  inner: Rect,
  b: Builder,
): void {
  const by = b.tolerance.same;
  stretchRagged(children, flexible, boxes, inner, b);
  const flex = children.map((_, i) => i).filter((i) => flexible[i]);
  const widthOf = (i: number) => boxes[i]?.width ?? 0;
  const largest = flex.reduce((m, i) => (widthOf(i) > widthOf(m) ? i : m), flex[0] ?? 0);
  const equal = flex.filter((i) => near(widthOf(i), widthOf(largest), by * 1.5));
  const cards = flex.every(
    (i) => paintOf(children[i]) !== '' && paintOf(children[i]) === paintOf(children[flex[0] ?? 0]),
  );
  const halves = cards || (flex.length === 2 && flex.every((i) => widthOf(i) > inner.width * RAIL));
  const weights =
    flex.length > 1 && equal.length < flex.length
      ? (smallRatio(flex.map(widthOf), by) ??
        (halves ? flex.map((i) => round(widthOf(i) / widthOf(largest), 4)) : undefined))
      : undefined;
  flex.forEach((i, k) => {
    const child = children[i] as Node;
    if (equal.includes(i)) widths[i] = FILL;
    else if (weights) widths[i] = { kind: 'fill', weight: weights[k] ?? 1 };
    else if (isRagged(child) && widthOf(i) > inner.width * RAIL) widths[i] = FILL;
    else widths[i] = partOfFrame(widthOf(i), inner.width) ?? fixed(widthOf(i));
  });
  if (weights) equal.forEach((i) => (widths[i] = { kind: 'fill', weight: weights[flex.indexOf(i)] ?? 1 }));
}

const paintOf = (node: Node | undefined): string =>
  node?.item?.kind === 'shape' && node.children.length > 0 ? JSON.stringify(node.item.paint) : '';

/** A width between whole px came from a share: nobody draws 307.2 by hand. */
function partOfFrame(width: number, inner: number): Size | undefined {
  return near(width, Math.round(width), 0.08)
    ? undefined
    : { kind: 'share', percent: round((width / inner) * 100, 3) };
}

/** Lets boxes whose right edge is only where words end reach to the next child's gap, or to the end. */
function stretchRagged(
  children: readonly Node[],
  flexible: readonly boolean[],
  boxes: Rect[],
  inner: Rect,
  b: Builder,
): void {
  const gaps = gapsOf(children, 'row');
  const sure = gaps.filter((_, i) => !(flexible[i] && isRagged(children[i] as Node)));
  children.forEach((child, i) => {
    if (!flexible[i] || !isRagged(child)) return;
    const next = children[i + 1];
    const end = next ? next.box.x : right(inner);
    const room = end - child.box.x;
    const [low, high] = measureRange(child, b.measurer);
    const range = [low, Math.max(high, low + 0.5)] as const;
    const twin = children.find((c, k) => k !== i && flexible[k] && !isRagged(c));
    // As wide as its neighbour, where that leaves a sensible gap: two halves.
    const half = twin && next === twin ? room - twin.box.width : NaN;
    let gap = next ? (sure.length > 0 ? commonest(sure, b.tolerance.same).value : (gaps[i] ?? 0)) : 0;
    if (half >= 0 && half <= 120 && twin && twin.box.width >= range[0] && twin.box.width < range[1])
      gap = half;
    else if (next && sure.length === 0)
      gap =
        room - range[0] > WIDE_SLACK && !isText(child)
          ? SPLIT_GAP
          : Math.max(0, roundestGap(Math.max(0, room - range[1]), Math.max(0.6, room - range[0])));
    const most = isText(child) ? range[1] : Infinity;
    boxes[i] = { ...child.box, width: Math.max(range[0], Math.min(most, room - gap)) };
  });
}

/** Small whole numbers in whose ratio the widths stand, or undefined. */
function smallRatio(widths: readonly number[], by: number): number[] | undefined {
  const total = widths.reduce((s, w) => s + w, 0);
  for (let parts = widths.length; parts <= 6; parts++) {
    const unit = total / parts;
    const whole = widths.map((w) => Math.round(w / unit));
    if (
      whole.every((n, i) => n >= 1 && near(n * unit, widths[i] ?? 0, by)) &&
      whole.reduce((s, n) => s + n, 0) === parts
    )
      return whole;
  }
  return undefined;
}

/** A row of things that keep their size and still reach both ends. */
function endsApart(children: readonly Node[], widths: Size[], boxes: Rect[], b: Builder): Plan {
  const gaps = gapsOf(children, 'row');
  const even = commonest(gaps, b.tolerance.same * 1.5).count === gaps.length;
  const largest = Math.max(...gaps);
  if (even && (children.length === 2 || largest > 32)) return { widths, boxes, gap: 'between', before: [] };
  const sorted = gaps.toSorted((x, y) => x - y);
  const second = sorted.at(-2) ?? 0;
  const at = gaps.indexOf(largest);
  if (largest > Math.max(second * APART, second + 8)) {
    const others = gaps.filter((_, i) => i !== at);
    const common = commonest(others, b.tolerance.same).value;
    grow(at, children, widths, boxes, largest - common);
  } else if (children.length === 3 && largest > 32) {
    // A middle between unequal ends: the ends share the room evenly when it is truly in the middle.
    const [start, middle, end] = children as [Node, Node, Node];
    const centre = (start.box.x + right(end.box)) / 2;
    if (near(middle.box.x + middle.box.width / 2, centre, b.tolerance.same * 2))
      return { widths, boxes, gap: 'between', before: [] };
    if (second > ENDS_GAP && mayGrow(start) && mayGrow(middle)) return unevenEnds(children, widths, boxes, b);
    grow(at, children, widths, boxes, largest - second);
  }
  return { widths, boxes, ...b.gaps(children, 'row', boxes) };
}

/** The words before a gap much wider than the others of a row take its room. */
function takeWideGap(children: readonly Node[], widths: Size[], boxes: Rect[], b: Builder): void {
  const gaps = gapsOf(
    children.map((c, i) => ({ ...c, box: boxes[i] ?? c.box })),
    'row',
  );
  const [second = 0, largest = 0] = gaps.toSorted((x, y) => x - y).slice(-2);
  if (gaps.length < 2 || largest < ENDS_GAP || largest < second * ENDS_TIMES) return;
  const at = gaps.indexOf(largest);
  const others = gaps.filter((_, i) => i !== at);
  grow(at, children, widths, boxes, largest - commonest(others, b.tolerance.same).value);
}

/** Whether a child may take room that it does not need: words, and what holds some unpainted. */
const mayGrow = (node: Node): boolean => !isRigid(node) && (!node.item || isText(node));

/** Three things with wide and unlike spaces between them: the first two share the spaces as they were drawn. */
function unevenEnds(children: readonly Node[], widths: Size[], boxes: Rect[], b: Builder): Plan {
  const rooms = children.slice(0, 2).map((c, i) => (children[i + 1] as Node).box.x - c.box.x);
  // Weights under 1 would leave room where one of them is hidden (CSS Flexbox §7.1.1).
  const least = Math.min(...rooms);
  return {
    widths: widths.map((w, i): Size => {
      const room = rooms[i];
      return room === undefined ? w : { kind: 'fill', weight: round(room / least, 4) };
    }),
    boxes: boxes.map((box, i) => ({ ...box, width: rooms[i] ?? box.width })),
    ...b.gaps(
      children.map((c, i) => ({ ...c, box: { ...c.box, width: rooms[i] ?? c.box.width } })),
      'row',
    ),
  };
}

/** Lets the words before a wide gap take its room. */
function grow(at: number, children: readonly Node[], widths: Size[], boxes: Rect[], by: number): void {
  const child = children[at];
  const box = boxes[at];
  if (!child || !box || !mayGrow(child)) return;
  widths[at] = FILL;
  boxes[at] = { ...box, width: box.width + by };
}
