import { bottom, centreY, FILL, FIT, type Align, type Gap, type Rect, type Size } from '../model/index.js';
import type { Builder } from './build.js';
import { isHolder, isRule, isText, near, type Node } from './node.js';
import { roomLeftAt } from './roomLeft.js';
import { usual, type Seat } from './seat.js';
import { gapsOf, spread } from './stack.js';
import { feetOf } from './widths.js';

/** How a row shares its room out along itself. */
export interface Plan {
  readonly widths: Size[];
  readonly boxes: Rect[];
  readonly gap: Gap;
  readonly before: (number | undefined)[];
  readonly justify?: 'centre' | 'end';
}

/** Middles this near to each other are one middle: line heights are guessed for words of one line, px. */
const SAME_MIDDLE = 1.5;
/** What lies above and below something in the middle differs by no more than this, px. */
export const OFF_MIDDLE = 2;

/** The extent of a row across; things that share their middle reach no further than the tallest of them. */
export function crossSpan(children: readonly Node[]): { from: number; to: number } {
  const tallest = children.reduce((t, c) => (c.box.height > t.box.height ? c : t));
  const middle = centreY(tallest.box);
  if (children.every((c) => near(centreY(c.box), middle, SAME_MIDDLE)))
    return { from: tallest.box.y, to: bottom(tallest.box) };
  return {
    from: Math.min(...children.map((c) => c.box.y)),
    to: Math.max(...children.map((c) => bottom(c.box))),
  };
}

/** A painted column at least so high, with so much room left at its foot, is a panel beside the content, px. */
const PANEL = { height: 200, room: 24 };
/** Content that ends this much earlier than it would with even paddings does not make its row high, px. */
const SCREEN_ROOM = 48;

const isPanel = (node: Node): boolean => {
  if (node.box.height < PANEL.height) return false;
  const foot = feetOf([node], true).get(node);
  const lowest = Math.max(...node.children.map((c) => bottom(c.box)));
  return (foot !== undefined && bottom(node.box) - lowest > foot + PANEL.room) || isPushedApart(node);
};

/** Whether one space in a column is room that is left: its last things were pushed to its foot. */
function isPushedApart(node: Node): boolean {
  if (node.flow !== 'column' || node.children.length < 3) return false;
  return roomLeftAt(gapsOf(node.children, 'column')) !== undefined;
}

/** How the children stand across the row. */
export function seatAcross(
  children: readonly Node[],
  plan: Plan,
  inner: Rect,
  b: Builder,
): { align: Align; seats: Seat[]; minHeight?: number } {
  const by = b.tolerance.same;
  const based = baselineRow(children, by);
  const found = children.map((c) => acrossPlace(c, inner, by));
  // Where nothing spans the row it would close up: what is lower keeps its distance from the top.
  const spanned = found.includes('full') || based;
  const places = spanned ? found : found.map((p) => (p === 'start' ? p : 'odd'));
  const full = children.filter((c, i) => places[i] === 'full' && isHolder(c));
  // Panels are as high as what stands beside them, however little they hold.
  const beside = children.filter((c) => !full.includes(c) && isHolder(c) && !c.item);
  const panels = beside.length > 0 ? full.filter(isPanel) : [];
  const tall = panels.length > 0 ? panels : full;
  const feet =
    panels.length > 0
      ? feetOf(panels, true)
      : full.length > 1
        ? feetOf(full, false)
        : new Map<Node, number>();
  const tallest = Math.max(...beside.map((c) => bottom(c.box)));
  const highest = Math.min(...beside.map((c) => c.box.y));
  // Much more room below than above: the panels are as high as the screen, not as the content.
  const open = bottom(inner) - tallest > highest - inner.y + SCREEN_ROOM;
  const least = panels.length > 0 && open ? b.px(inner.height) : undefined;
  const words = places.filter((p) => p !== 'full' && p !== 'odd');
  const align: Align = based
    ? 'baseline'
    : panels.length > 0
      ? 'stretch'
      : ((usual(words) as Align | undefined) ?? (tall.length > 1 ? 'stretch' : spanAlign(places)));
  const seats = children.map((node, i): Seat => {
    const width = plan.widths[i] ?? FIT;
    const box = plan.boxes[i] ?? node.box;
    const place = places[i];
    const height = b.heightRule(node, box, width);
    const stretch =
      place === 'full' && isHolder(node) && (tall.length > 1 || panels.length > 0) && tall.includes(node);
    const foot = stretch ? feet.get(node) : undefined;
    const seat: Seat = {
      node,
      box,
      rules: {
        width,
        height:
          stretch || (isRule(node) && place === 'full' && node.box.height > node.box.width && tall.length > 0)
            ? FILL
            : height,
        alignSelf: place === 'full' || based ? align : place === 'odd' ? 'start' : (place as Align),
      },
    };
    if (foot !== undefined) return { ...seat, foot };
    const top = node.box.y - inner.y;
    if (panels.length > 0 && beside.includes(node) && bottom(node.box) > tallest - by) {
      // What the panels are as high as keeps its distance from both edges.
      const started = { ...seat, rules: { ...seat.rules, alignSelf: 'start' as const } };
      return {
        ...started,
        inset: { top, ...(least === undefined && { bottom: bottom(inner) - bottom(node.box) }) },
      };
    }
    return place === 'odd' && !based ? { ...seat, inset: { top } } : seat;
  });
  return { align, seats, ...(least !== undefined && { minHeight: least }) };
}

/** How what spans its row stands in a higher one: where others hang from the top it does so, too. */
const spanAlign = (places: readonly string[]): Align => (places.includes('odd') ? 'start' : 'centre');

function acrossPlace(node: Node, inner: Rect, by: number): 'full' | 'start' | 'centre' | 'end' | 'odd' {
  const [above, below] = [node.box.y - inner.y, bottom(inner) - bottom(node.box)];
  if (above <= by && below <= by) return 'full';
  if (near(above, below, OFF_MIDDLE)) return 'centre';
  if (above <= by) return 'start';
  return below <= by ? 'end' : 'odd';
}

/** Texts of unlike sizes on one line: their baselines agree although neither tops nor middles do. */
function baselineRow(children: readonly Node[], by: number): boolean {
  const texts = children.filter(isText);
  if (texts.length < 2 || texts.length < children.length) return false;
  const bases = texts.map((t) => (t.item?.kind === 'text' ? (t.item.lines[0]?.baseline ?? 0) : 0));
  const middles = texts.map((t) => t.box.y + t.box.height / 2);
  return spread(bases) <= by && spread(middles) > by;
}
