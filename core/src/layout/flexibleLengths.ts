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

/** What one line is reckoned with: 1 for items whose size may still change, and by how much each was clamped. */
let scratch = { open: new Uint8Array(64), offs: new Float64Array(64) };

/** Lists for so many items. Lines are resolved one after the other, so that one pair serves them all. */
function scratchFor(count: number): typeof scratch {
  if (scratch.open.length < count)
    scratch = { open: new Uint8Array(count * 2), offs: new Float64Array(count * 2) };
  return scratch;
}

/**
 * Resolves the flexible lengths of one line (CSS Flexbox §9.7). `room` is the inner main size less gaps and margins.
 * The loop freezes at least one item a turn, so it ends after as many turns as there are items.
 */
export function resolveFlexibleLengths(items: readonly FlexItem[], room: number): number[] {
  const count = items.length;
  const sizes = new Array<number>(count);
  let used = 0;
  for (let i = 0; i < count; i++) used += sizes[i] = hypothetical(items[i] as FlexItem);
  const growing = used < room;
  const { open, offs } = scratchFor(count);
  let left = 0;
  for (let i = 0; i < count; i++) {
    const item = items[i] as FlexItem;
    const size = sizes[i] as number;
    const flexes = growing ? item.grow > 0 && item.base <= size : item.shrink > 0 && item.base >= size;
    open[i] = flexes ? 1 : 0;
    if (flexes) left++;
  }
  if (left === 0) return sizes;
  let initial: number | undefined;
  while (left > 0) {
    let free = room;
    let factors = 0;
    let scaled = 0;
    for (let i = 0; i < count; i++) {
      const item = items[i] as FlexItem;
      if (open[i] === 0) {
        free -= sizes[i] as number;
        continue;
      }
      free -= item.base;
      factors += growing ? item.grow : item.shrink;
      scaled += item.shrink * item.inner;
    }
    initial ??= free;
    if (factors < 1 && Math.abs(initial * factors) < Math.abs(free)) free = initial * factors;
    let violation = 0;
    for (let i = 0; i < count; i++) {
      if (open[i] === 0) continue;
      const item = items[i] as FlexItem;
      const portion = growing ? item.grow / factors : scaled > 0 ? (item.shrink * item.inner) / scaled : 0;
      const target = item.base + free * portion;
      const size = Math.max(0, clamp(target, item));
      sizes[i] = size;
      offs[i] = size - target;
      violation += size - target;
    }
    // A violation made of rounding alone would freeze nothing and never end.
    if (Math.abs(violation) < 1e-9) break;
    for (let i = 0; i < count; i++) {
      const off = offs[i] as number;
      if (open[i] === 0 || !(violation > 0 ? off > 0 : off < 0)) continue;
      open[i] = 0;
      left--;
    }
  }
  return sizes;
}
