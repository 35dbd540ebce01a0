import { at, type Index, type Snapshot } from './scene.js';

/** How many stand in each row, from above: a row begins below all of the one before. */
export function rowCounts(s: Snapshot, kids: readonly Index[]): number[] {
  const counts: number[] = [];
  let bottom = -Infinity;
  for (const k of kids.toSorted((a, b) => at(s.box.top, a) - at(s.box.top, b))) {
    if (at(s.box.top, k) >= bottom - 1) counts.push(0);
    counts.push((counts.pop() ?? 0) + 1);
    bottom = Math.max(bottom, at(s.box.bottom, k));
  }
  return counts;
}
