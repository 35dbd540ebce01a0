/** A length that changes evenly over a stretch: its value at the first width and at the last, px. */
export type Term = readonly [first: number, last: number];

/** The whole widths at which something holds, how much it is at the worst of them, and which that is. */
export interface Holds {
  readonly from: number;
  readonly to: number;
  readonly by: number;
  readonly worst: number;
}

/** The value of a term at a width of the stretch. */
const valueAt = ([first, last]: Term, from: number, to: number, width: number): number =>
  from === to ? first : first + ((last - first) * (width - from)) / (to - from);

/**
 * The whole widths from–to at which every one of the terms is over a limit and every condition over nought; undefined
 * where there is none. Each is so on one side of a width, so that all of them are on an interval. `by` is the least of
 * the terms where that is the greatest.
 */
export function allOver(
  terms: readonly Term[],
  limit: number,
  from: number,
  to: number,
  conditions: readonly Term[] = [],
): Holds | undefined {
  let low = from;
  let high = to;
  for (const [list, over] of [
    [terms, limit],
    [conditions, 0],
  ] as const)
    for (const [first, last] of list) {
      if (first > over && last > over) continue;
      if (!(first > over) && !(last > over)) return undefined;
      const crossing = from + ((over - first) / (last - first)) * (to - from);
      if (last > first) low = Math.max(low, Math.floor(crossing) + 1);
      else high = Math.min(high, Math.ceil(crossing) - 1);
    }
  if (low > high) return undefined;
  let [by, worst] = [-Infinity, low];
  for (let width = low; width <= high; width++) {
    let least = Infinity;
    for (const term of terms) least = Math.min(least, valueAt(term, from, to, width));
    if (least > by) [by, worst] = [least, width];
  }
  return { from: low, to: high, by, worst };
}

/** The runs of whole widths from–to at which a measure that is no line is over a limit. */
export function runsOver(
  measure: (share: number) => number,
  limit: number,
  from: number,
  to: number,
): readonly Holds[] {
  const runs: { from: number; to: number; by: number; worst: number }[] = [];
  for (let width = from; width <= to; width++) {
    const value = measure(from === to ? 0 : (width - from) / (to - from));
    if (!(value > limit)) continue;
    const last = runs.at(-1);
    if (last?.to === width - 1) {
      last.to = width;
      if (value > last.by) [last.by, last.worst] = [value, width];
    } else runs.push({ from: width, to: width, by: value, worst: width });
  }
  return runs;
}

/** The first whole width, of those after the first, at which a term is on the other side of a limit; none where it never is. */
export function crossing([first, last]: Term, limit: number, from: number, to: number): number | undefined {
  if (first > limit === last > limit) return undefined;
  const exact = from + ((limit - first) / (last - first)) * (to - from);
  return last > first ? Math.floor(exact) + 1 : Math.ceil(exact);
}
