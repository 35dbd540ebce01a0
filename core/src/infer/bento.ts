import {
  bottom,
  covers,
  FILL,
  fixed,
  right,
  union,
  type Cell,
  type Part,
  type Rect,
  type Rules,
} from '../model/index.js';
import { placeInGrid } from '../layout/index.js';
import type { Builder } from './build.js';
import { isHolder, near, type Node, type Spans } from './node.js';
import { groupNode } from './stack.js';
import { feetOf } from './widths.js';
import type { Seat } from './seat.js';

/** A bento has at least so many tiles, and no more columns and rows than these. */
const LEAST_TILES = 4;
const MOST = { columns: 6, rows: 16 };
/** A smaller thing is no tile, px. */
const TILE = 60;

const isTile = (n: Node): boolean =>
  (isHolder(n) || n.item?.kind === 'picture' || n.item?.kind === 'shape') &&
  Math.min(n.box.width, n.box.height) >= TILE;

interface Axis {
  readonly step: number;
  readonly gap: number;
  readonly count: number;
}

/** The fewest equal tracks, with one gap, on which all these starts and ends lie (smallest track set). */
function equalTracks(
  spans: readonly (readonly [from: number, to: number])[],
  most: number,
  by: number,
): Axis | undefined {
  const start = Math.min(...spans.map((s) => s[0]));
  const end = Math.max(...spans.map((s) => s[1]));
  const least = Math.min(...spans.map(([a, b]) => b - a));
  for (let count = 2; count <= most; count++) {
    // The smallest tile spans one track; from that and the whole follows the gap.
    const gap = (end - start - count * least) / (count - 1);
    if (!(gap >= 2 && gap <= least * 0.6)) continue;
    const step = least + gap;
    const on = (v: number) => near(v / step, Math.round(v / step), by / step);
    if (spans.every(([a, b]) => on(a - start) && on(b + gap - start))) return { step, gap, count };
  }
  return undefined;
}

/** Whether a grid that is told the spans alone puts each tile, in this order, where it stands. */
function placedInOrder(spans: readonly Spans[], columns: number): boolean {
  const tiles = spans.map((s, i): Part => ({
    id: String(i),
    name: '',
    kind: 'shape',
    source: [],
    children: [],
    rules: { cell: { columnSpan: s.columns, rowSpan: s.rows } },
  }));
  return placeInGrid(tiles, {}, columns).every((area, i) => {
    const wanted = spans[i];
    return area.column === wanted?.column && area.row === wanted.row;
  });
}

/**
 * Tiles of unlike size that share one set of equal tracks, as a grid whose children span some of them; the other nodes stay.
 * Undefined where there is none, or where all tiles are of one size.
 */
export function bento(nodes: readonly Node[], by: number): Node[] | undefined {
  const tiles = nodes.filter(isTile);
  if (tiles.length < LEAST_TILES) return undefined;
  const whole = union(tiles.map((t) => t.box));
  const rest = nodes.filter((n) => !tiles.includes(n));
  if (rest.some((n) => covers(n.box, whole, 0))) return undefined;
  const across = equalTracks(
    tiles.map((t) => [t.box.x, right(t.box)] as const),
    MOST.columns,
    by * 2,
  );
  const down = equalTracks(
    tiles.map((t) => [t.box.y, bottom(t.box)] as const),
    MOST.rows,
    by * 2,
  );
  if (!across || !down || !near(across.gap, down.gap, Math.max(2, across.gap))) return undefined;
  const spansOf = ({ box }: Node): Spans => ({
    column: Math.round((box.x - whole.x) / across.step),
    row: Math.round((box.y - whole.y) / down.step),
    columns: Math.round((box.width + across.gap) / across.step),
    rows: Math.round((box.height + down.gap) / down.step),
  });
  const sorted = tiles
    .map((tile) => ({ tile, spans: spansOf(tile) }))
    .sort((a, b) => a.spans.row - b.spans.row || a.spans.column - b.spans.column);
  const area = sorted.reduce((s, { spans }) => s + spans.columns * spans.rows, 0);
  const plain = sorted.every(({ spans }) => spans.columns === 1 && spans.rows === 1);
  if (plain || area < across.count * down.count * 0.7) return undefined;
  const grid: Node = {
    ...groupNode(
      'grid',
      sorted.map((s) => s.tile),
    ),
    tracks: { columns: across.count, gap: across.gap, crossGap: down.gap, spans: sorted.map((s) => s.spans) },
  };
  return [...rest, grid];
}

/** The rules of a bento and its tiles: the cells say spans alone where the order puts each in its place. */
export function bentoRules(node: Node, box: Rect, b: Builder): { rules: Rules; seats: Seat[] } | undefined {
  const { tracks, children } = node;
  if (!tracks) return undefined;
  const inOrder = placedInOrder(tracks.spans, tracks.columns);
  const [left, top] = [node.box.x - box.x, node.box.y - box.y];
  const rules: Rules = {
    flow: 'grid',
    columns: { kind: 'count', count: tracks.columns },
    autoRows: {
      kind: 'range',
      min: b.px(rowHeight(children, tracks.spans, tracks.crossGap)),
      max: 'content',
    },
    gap: b.px(tracks.gap),
    ...(!near(tracks.gap, tracks.crossGap, 0.6) && { crossGap: b.px(tracks.crossGap) }),
    padding: {
      top: b.px(Math.max(0, top)),
      right: b.px(Math.max(0, right(box) - right(node.box))),
      bottom: b.px(Math.max(0, bottom(box) - bottom(node.box))),
      left: b.px(Math.max(0, left)),
    },
    align: 'stretch',
  };
  const feet = feetOf(children, true);
  const seats = children.map((c, i): Seat => {
    const foot = feet.get(c);
    const s = tracks.spans[i] as Spans;
    const cell: Cell = {
      ...(!inOrder && { column: s.column + 1, row: s.row + 1 }),
      ...(s.columns > 1 && { columnSpan: s.columns }),
      ...(s.rows > 1 && { rowSpan: s.rows }),
    };
    const hasCell = Object.keys(cell).length > 0;
    const height =
      isHolder(c) && c.children.length > 0 ? FILL : c.item?.kind === 'picture' ? FILL : fixed(c.box.height);
    return {
      node: c,
      box: c.box,
      rules: { width: FILL, height, ...(hasCell && { cell }) },
      ...(foot !== undefined && { foot }),
    };
  });
  return { rules, seats };
}

/** The height of one row, which all tiles share. */
function rowHeight(children: readonly Node[], spans: readonly Spans[], gap: number): number {
  const heights = children.map((c, i) => {
    const rows = spans[i]?.rows ?? 1;
    return (c.box.height - gap * (rows - 1)) / rows;
  });
  return Math.min(...heights);
}
