import { bottom, FILL, FIT, fixed, right, type Rect, type Rules } from '../model/index.js';
import { bentoRules } from './bento.js';
import type { Builder } from './build.js';
import { alike } from './group.js';
import { hasParagraph, isHolder, isText, near, type Node } from './node.js';
import { linesOf } from './lines.js';
import { middleGrid } from './middleGrid.js';
import { repeated } from './repeated.js';
import { commonest, gapsOf, sharedSide, spread } from './stack.js';
import { feetOf, isRagged, isRigid } from './widths.js';
import type { Seat } from './seat.js';

/** A card narrower than this is not worth a row of its own. */
const CARD_MIN = 140;
/** Cards do not have to keep more than this width. */
const CARD_KEEPS = 260;
/** No card asks for more than this to stay in its row. */
const WIDEST_MIN = 300;
/** Cards whose number in a row is meant may shrink to this share. */
const CARD_HALF = 0.5;
/** Below this share of its drawn width a card goes to the next row. */
const CARD_SHRINK = 0.75;

/** Whether a single row is one of cards that go to further rows when there is no room. */
export function repeats(node: Node, box: Rect, b: Builder): boolean {
  const { children } = node;
  const [first, last] = [children[0], children.at(-1)];
  if (!first || !last || children.length < 3 || b.tolerance.without?.has('similarity')) return false;
  const by = b.tolerance.same * 1.5;
  const even = commonest(gapsOf(children, 'row'), by).count === children.length - 1;
  if (!even || !children.every((c) => alike(c, first) && near(c.box.width, first.box.width, by)))
    return false;
  if (!isHolder(first) || first.box.width < CARD_MIN) return false;
  const [l, r] = [first.box.x - box.x, right(box) - right(last.box)];
  return near(l, r, by) && first.box.height > 48;
}

/** Rows of alike things: columns that repeat when the things share the width, else a wrap of things that fit. */
export function gridRules(node: Node, box: Rect, b: Builder): { rules: Rules; seats: Seat[] } {
  const spanned = bentoRules(node, box, b);
  if (spanned) return spanned;
  const { children } = node;
  const words = evenWords(children, box, b) ?? middleGrid(children, box, b);
  if (words) return words;
  const { rows, gap, crossGap } = linesOf(children, b);
  const [left, top] = [Math.min(...children.map((c) => c.box.x)), Math.min(...children.map((c) => c.box.y))];
  const rest = Math.max(0, right(box) - Math.max(...children.map((c) => right(c.box))));
  const by = b.tolerance.same;
  const l = Math.max(0, left - box.x);
  const full = near(l, rest, by * 1.5);
  const padding = {
    top: b.px(Math.max(0, top - box.y)),
    right: b.px(full ? rest : Math.min(l, rest)),
    bottom: b.px(Math.max(0, bottom(box) - Math.max(...children.map((c) => bottom(c.box))))),
    left: b.px(l),
  };
  const gaps = { gap, ...(crossGap !== gap && { crossGap }) };
  const wide = Math.max(...rows.map((r) => r.length));
  const shares = full && node.flow !== 'wrap' && children.every((c) => isHolder(c) || c.box.width > CARD_MIN);
  if (!shares) {
    const seats = children.map((c): Seat => {
      const width = isText(c) || b.fits(c) ? (isRigid(c) ? fixed(c.box.width) : FIT) : fixed(c.box.width);
      return { node: c, box: c.box, rules: { width, height: b.heightRule(c, c.box, width) } };
    });
    const stretched = full ? stretchedLines(rows, box.width - 2 * padding.left, gap, by) : undefined;
    if (stretched !== undefined) {
      const rules: Rules = { flow: 'wrap', ...gaps, padding, align: 'stretch' };
      const width = { width: FILL, minWidth: stretched } as const;
      return {
        rules,
        seats: seats.map((s) => ({
          ...s,
          rules: { ...s.rules, ...width, height: b.heightRule(s.node, s.box, FILL) },
        })),
      };
    }
    if (endsMeet(rows, by)) {
      const even = { ...padding, right: padding.left };
      const room = box.width - 2 * padding.left;
      return {
        rules: { flow: 'wrap', gap: 'between', crossGap, padding: even },
        seats: broken(rows, seats, room),
      };
    }
    const side = sharedSide(rows, by) ?? 'start';
    if (side === 'start') return { rules: { flow: 'wrap', ...gaps, padding }, seats };
    const room = box.width - padding.left - padding.right;
    return {
      rules: { flow: 'wrap', ...gaps, padding, justify: side },
      seats: broken(rows, seats, room, gap),
    };
  }
  const inner = box.width - padding.left - padding.right;
  const track = (inner - gap * (wide - 1)) / wide;
  const shrunk = Math.min(track * CARD_SHRINK, CARD_KEEPS);
  // Where every line of words has to stay one line, that is what a card needs.
  const needs = Math.max(CARD_MIN, ...children.map(oneLineWidth));
  const min = Math.floor(children.some(hasParagraph) ? shrunk : Math.min(shrunk, needs));
  const seats = rows.flatMap((row) => {
    const feet = sameHeight(row, by) ? feetOf(row, false) : new Map<Node, number>();
    return row.map((c, i): Seat => {
      const seatBox = { ...c.box, x: box.x + padding.left + i * (track + gap), width: track };
      const height = b.heightRule(c, seatBox, FILL);
      const stretched = height.kind === 'fit' && sameHeight(row, by);
      // In a row of unlike heights each keeps its distance from the row's top.
      const top = c.box.y - Math.min(...row.map((n) => n.box.y));
      return {
        node: c,
        box: seatBox,
        rules: { width: FILL, height: stretched ? FILL : height },
        ...(top > by && { inset: { top } }),
        ...(stretched && feet.has(c) && { foot: feet.get(c) ?? 0 }),
      };
    });
  });
  // Several rows show that cards go where there is room, unless cards so wide would have had room for another: then
  // the number of columns is what was meant. One row tells nothing of more columns.
  const another = Math.floor((inner - gap * wide) / (wide + 1)) + 1;
  const flows = rows.length > 1 && another <= WIDEST_MIN;
  const columns = lineUp(children)
    ? { kind: 'count' as const, count: wide }
    : flows
      ? { kind: 'repeat' as const, min: roundBetween(another, track) }
      : { kind: 'repeat' as const, min: rows.length > 1 ? Math.floor(track * CARD_HALF) : min, most: wide };
  return { rules: { flow: 'grid', columns, ...gaps, padding, align: 'stretch' }, seats };
}

/** So many columns of so many things that stand line by line are a table or a calendar, and not cards that go where there is room. */
const CALENDAR = { columns: 5, lines: 4 };

function lineUp(columns: readonly Node[]): boolean {
  const [first] = columns;
  if (!first || columns.length < CALENDAR.columns || first.children.length < CALENDAR.lines) return false;
  return columns.every(
    (c) =>
      c.flow === 'column' &&
      c.children.length === first.children.length &&
      c.children.every((n, i) => near(n.box.y, first.children[i]?.box.y ?? NaN, 2)),
  );
}

/** The rounder one of the numbers in the middle between two. */
const roundBetween = (low: number, high: number): number => {
  const middle = Math.round((low + high) / 2 / 20) * 20;
  return middle > low && middle <= high ? middle : Math.floor(Math.max(low, high * CARD_SHRINK));
};

/** The least space that things side by side keep where their row shares out what is left, px. */
const LEAST_SPACE = 16;

/** How wide a node has to be for its single lines to stay single, px. */
function oneLineWidth(node: Node): number {
  if (isText(node)) return node.box.width;
  if (node.children.length === 0) return isRigid(node) && node.item?.kind !== 'picture' ? node.box.width : 0;
  const inner = node.children.map(oneLineWidth);
  const left = Math.max(0, Math.min(...node.children.map((c) => c.box.x)) - node.box.x);
  if (node.flow !== 'row') return Math.max(...inner) + (node.item ? 2 * left : 0);
  const spaces = gapsOf(node.children, 'row').map((g) => Math.min(g, LEAST_SPACE));
  return [...inner, ...spaces].reduce((sum, w) => sum + w, node.item ? 2 * left : 0);
}

/**
 * The least width of things that share out their line, where all lines but the last hold equally many and the last ones
 * are the wider for being fewer, px; undefined where the lines are no such.
 */
function stretchedLines(rows: readonly Node[][], room: number, gap: number, by: number): number | undefined {
  const [first, last] = [rows[0]?.length ?? 0, rows.at(-1)?.length ?? 0];
  const isFull = (row: readonly Node[]): boolean => {
    const share = (room - gap * (row.length - 1)) / row.length;
    return row.every((n) => isHolder(n) && near(n.box.width, share, by * 1.5));
  };
  if (rows.length < 2 || first < 2 || last >= first || !rows.every(isFull)) return undefined;
  if (rows.slice(0, -1).some((row) => row.length !== first)) return undefined;
  return roundBetween((room - gap * first) / (first + 1), (room - gap * (first - 1)) / first);
}

/** Whether lines with unlike spaces all reach from the first one's start to its end: what is left is shared out. */
function endsMeet(rows: readonly Node[][], by: number): boolean {
  const full = rows.filter((r) => r.length > 1);
  const ends = full.map((r) => right((r.at(-1) as Node).box));
  const gaps = full.flatMap((r) => gapsOf(r, 'row'));
  const level = (ns: readonly number[]) => spread(ns) <= by;
  return full.length > 1 && level(ends) && level(rows.map((r) => (r[0] as Node).box.x)) && !level(gaps);
}

/** The seats of lines that would go on where the next thing fits, with a forced break where it was drawn. */
function broken(rows: readonly Node[][], seats: readonly Seat[], room: number, gap = 0): Seat[] {
  const goesOn = rows.slice(1).some((row, i) => {
    const line = [...(rows[i] as Node[]), row[0] as Node];
    return line.reduce((sum, n) => sum + n.box.width + gap, -gap) <= room;
  });
  if (!goesOn) return [...seats];
  const starts = new Set(rows.slice(1).map((row) => row[0]));
  return seats.map((s) => (starts.has(s.node) ? { ...s, rules: { ...s.rules, newLine: true } } : s));
}

const sameHeight = (row: readonly Node[], by: number): boolean =>
  row.every((c) => near(c.box.height, row[0]?.box.height ?? NaN, by));

/** Gaps that two columns alone may be told by: with more of them the even steps say enough. */
const USUAL_GAPS = [8, 12, 16, 20, 24, 28, 32, 40, 48, 56, 64];
/** Paragraphs may be set in this share of their drawn measure before a column gives way. */
const WORDS_SHRINK = 0.75;

/**
 * Columns of words that end where they will, in one line or several: what tells them is that they begin at even steps
 * which, with one gap for all, fill the room. They repeat as often as there is room for them.
 */
export function evenWords(
  children: readonly Node[],
  box: Rect,
  b: Builder,
): { rules: Rules; seats: Seat[] } | undefined {
  const by = b.tolerance.same * 1.5;
  if (children.length < 2 || !children.every((c) => !c.item && c.flow === 'column' && isRagged(c)))
    return undefined;
  const lines = linesOf(children, b);
  const { rows } = lines;
  const [line] = rows;
  const [first] = children;
  const count = line?.length ?? 0;
  if (!first || !line || count < 2 || rows.some((r) => r.length > count)) return undefined;
  const left = Math.max(0, first.box.x - box.x);
  const steps = line.slice(1).map((c, i) => c.box.x - (line[i] as Node).box.x);
  const step = commonest(steps, by);
  if (step.count < steps.length) return undefined;
  const inner = box.width - 2 * left;
  const gap = step.value * count - inner;
  const track = step.value - gap;
  if (gap < 4 || gap > track * 0.7 || children.some((c) => c.box.width > track + by)) return undefined;
  if (count === 2 && !USUAL_GAPS.some((g) => near(g, gap, by))) return undefined;
  if (!rows.every((row) => row.every((c, i) => near(c.box.x, line[i]?.box.x ?? 0, by)))) return undefined;
  const least = Math.max(
    ...children.map((c) => (hasParagraph(c) ? Math.min(c.box.width, track * WORDS_SHRINK) : c.box.width)),
  );
  return repeated(lines, { left, rest: left, width: track, step: step.value }, least, box, b);
}
