/** A flex item along the main axis; px. `weight` 0 cannot grow, `shrink` 0 cannot give way. */
export interface FlexItem {
  readonly base: number;
  /** The part of the base that can give way: what is not padding. */
  readonly inner: number;
  readonly min: number;
  readonly max: number;
  readonly grow: number;
  readonly shrink: number;
}

const clamp = (value: number, item: FlexItem): number => Math.max(item.min, Math.min(item.max, value));

/** The size an item would have without flexing (CSS Flexbox §9.2). */
export const hypothetical = (item: FlexItem): number => Math.max(0, clamp(item.base, item));

/**
 * Resolves the flexible lengths of one line (CSS Flexbox §9.7). `room` is the inner main size less gaps and margins.
 * The loop freezes at least one item a turn, so it ends after as many turns as there are items.
 */
export function resolveFlexibleLengths(items: readonly FlexItem[], room: number): number[] {
  const sizes = items.map(hypothetical);
  const growing = sizes.reduce((sum, s) => sum + s, 0) < room;
  const factor = (item: FlexItem) => (growing ? item.grow : item.shrink);
  const open = new Set<number>();
  items.forEach((item, i) => {
    const size = sizes[i] ?? 0;
    if (factor(item) > 0 && !(growing ? item.base > size : item.base < size)) open.add(i);
  });
  const free = () =>
    items.reduce((left, item, i) => left - (open.has(i) ? item.base : (sizes[i] ?? 0)), room);
  const initial = free();
  while (open.size > 0) {
    const list = [...open].map((i) => ({ i, item: items[i] as FlexItem }));
    let left = free();
    const sum = list.reduce((s, { item }) => s + factor(item), 0);
    if (sum < 1 && Math.abs(initial * sum) < Math.abs(left)) left = initial * sum;
    const scaled = list.reduce((s, { item }) => s + item.shrink * item.inner, 0);
    let violation = 0;
    const tried = list.map(({ i, item }) => {
      const portion = growing ? item.grow / sum : scaled > 0 ? (item.shrink * item.inner) / scaled : 0;
      const target = item.base + left * portion;
      const size = Math.max(0, clamp(target, item));
      violation += size - target;
      return { i, size, off: size - target };
    });
    for (const { i, size, off } of tried) {
      sizes[i] = size;
      if (violation === 0 || (violation > 0 ? off > 0 : off < 0)) open.delete(i);
    }
    // A violation made of rounding alone would freeze nothing and never end.
    if (Math.abs(violation) < 1e-9) break;
  }
  return sizes;
}
