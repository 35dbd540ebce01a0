/** A flex item along the main axis; px. `grow` 0 cannot grow, `shrink` 0 cannot give way. */
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
  let used = 0;
  for (const size of sizes) used += size;
  const growing = used < room;
  /** Items whose size may still change. */
  let open: number[] = [];
  items.forEach((item, i) => {
    const size = sizes[i] ?? 0;
    const flexes = growing ? item.grow > 0 && item.base <= size : item.shrink > 0 && item.base >= size;
    if (flexes) open.push(i);
  });
  if (open.length === 0) return sizes;
  let initial: number | undefined;
  while (open.length > 0) {
    const isOpen = new Uint8Array(items.length);
    for (const i of open) isOpen[i] = 1;
    let left = room;
    let factors = 0;
    let scaled = 0;
    items.forEach((item, i) => {
      left -= isOpen[i] ? item.base : (sizes[i] ?? 0);
      if (!isOpen[i]) return;
      factors += growing ? item.grow : item.shrink;
      scaled += item.shrink * item.inner;
    });
    initial ??= left;
    if (factors < 1 && Math.abs(initial * factors) < Math.abs(left)) left = initial * factors;
    let violation = 0;
    const offs = open.map((i) => {
      const item = items[i] as FlexItem;
      const portion = growing ? item.grow / factors : scaled > 0 ? (item.shrink * item.inner) / scaled : 0;
      const target = item.base + left * portion;
      const size = Math.max(0, clamp(target, item));
      sizes[i] = size;
      violation += size - target;
      return size - target;
    });
    // A violation made of rounding alone would freeze nothing and never end.
    if (Math.abs(violation) < 1e-9) break;
    open = open.filter((_, k) => !(violation > 0 ? (offs[k] ?? 0) > 0 : (offs[k] ?? 0) < 0));
  }
  return sizes;
}
