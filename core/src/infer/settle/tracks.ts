import { bottom, right, round, withChange, type Part, type Rect, type Track } from '../../model/index.js';
import { flowingOf, MAX_SNAP, type Standing } from './misplaced.js';

/** The starts of tracks: places that lie no further apart than a snap are one. */
function startsOf(places: readonly number[]): number[] {
  const starts: number[] = [];
  for (const place of places.toSorted((a, b) => a - b))
    if (starts.length === 0 || place - (starts.at(-1) as number) > 2 * MAX_SNAP) starts.push(place);
  return starts;
}

/** A grid or wrap whose columns are no wider than drawn, so that as many stand in a line as were drawn there. */
export function withDrawnColumns(part: Part, standing: readonly Standing[]): Part | undefined {
  const { columns } = part.rules;
  const flowing = flowingOf(standing);
  if (columns?.kind !== 'repeat' || flowing.length === 0) return undefined;
  const least = Math.floor(Math.min(...flowing.map(({ meant }) => meant.width)));
  return least < columns.min
    ? { ...part, rules: { ...part.rules, columns: { ...columns, min: least } } }
    : undefined;
}

/** A grid of the columns that its children were drawn in, each with its own width; undefined where they stand in none. */
export function withDrawnTracks(part: Part, standing: readonly Standing[], own: Rect): Part | undefined {
  const { flow, padding } = part.rules;
  const flowing = flowingOf(standing);
  if ((flow !== 'grid' && flow !== 'wrap') || flowing.length < 2) return undefined;
  const starts = startsOf(flowing.map(({ meant }) => meant.x));
  const isAt = (start: number) => (s: Standing) => Math.abs(s.meant.x - start) <= 2 * MAX_SNAP;
  const ends = starts.map((start) =>
    Math.max(...flowing.filter(isAt(start)).map(({ meant }) => right(meant))),
  );
  const gaps = starts.slice(1).map((start, i) => start - (ends[i] as number));
  const gap = gaps.length > 0 ? round(Math.max(0, Math.min(...gaps)), 1) : 0;
  if (gaps.some((g) => g < -MAX_SNAP)) return undefined;
  const room = own.width - (padding?.left ?? 0) - (padding?.right ?? 0);
  const widths = starts.map((start, i) => (starts[i + 1] ?? (ends[i] as number) + gap) - gap - start);
  const isFull = Math.abs(widths.reduce((s, w) => s + w + gap, -gap) - room) <= 2 * MAX_SNAP;
  const most = Math.max(...widths);
  const tracks = widths.map((w): Track =>
    isFull ? { kind: 'fr', weight: round(w / most, 4) } : { kind: 'fixed', px: round(w, 2) },
  );
  const lines = startsOf(flowing.map(({ meant }) => meant.y));
  const feet = lines.map((line) =>
    Math.max(
      ...flowing
        .filter(({ meant }) => Math.abs(meant.y - line) <= 2 * MAX_SNAP)
        .map(({ meant }) => bottom(meant)),
    ),
  );
  const between = lines.slice(1).map((line, i) => line - (feet[i] as number));
  const crossGap = between.length > 0 ? round(Math.max(0, Math.min(...between)), 1) : gap;
  const isInOrder = flowing.every(
    (s, i) => i === 0 || orderOf(s, starts, lines) > orderOf(flowing[i - 1] as Standing, starts, lines),
  );
  if (!isInOrder) return undefined;
  const children = part.children.map((child) => {
    const at = flowing.find((s) => s.child === child);
    if (!at) return child;
    const column = starts.findIndex((start) => isAt(start)(at)) + 1;
    const row = lines.findIndex((line) => Math.abs(at.meant.y - line) <= 2 * MAX_SNAP) + 1;
    const isAlone = orderOf(at, starts, lines) === flowing.indexOf(at);
    const cell = isAlone ? null : { column, row };
    return { ...child, rules: withChange(child.rules, { newLine: null, gapBefore: null, cell }) };
  });
  return {
    ...part,
    rules: withChange(part.rules, { flow: 'grid', columns: { kind: 'tracks', tracks }, gap, crossGap }),
    children,
  };
}

/** A child's place counted along the lines of a grid, from 0. */
function orderOf({ meant }: Standing, starts: readonly number[], lines: readonly number[]): number {
  const near = (a: number) => (b: number) => Math.abs(a - b) <= 2 * MAX_SNAP;
  return lines.findIndex(near(meant.y)) * starts.length + starts.findIndex(near(meant.x));
}
