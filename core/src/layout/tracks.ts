import type { Limit, Track } from '../model/index.js';

/** What of the content a track asks for where it names no px. */
type Content = 'min-content' | 'max-content';

/** A track as the sizing algorithm sees it: `minmax(min, max)`, or a share of the rest. */
export interface TrackSpec {
  readonly min: number | Content;
  readonly max: number | Content | { readonly fr: number };
}

/**
 * An item over `span` tracks from `start`; what its content asks for at least and at most, px, and what its own size
 * does (its minimum contribution).
 */
export interface Spanning {
  readonly start: number;
  readonly span: number;
  readonly least: number;
  readonly min: number;
  readonly max: number;
}

/** What the tracks are sized for: a room in px, or what the content asks for by itself. */
export type Room = number | Content;

const least = (limit: Limit): number | 'min-content' => (limit === 'content' ? 'min-content' : limit);

/** What a rule of the model is in CSS Grid (see `handoff/css.ts`). */
export function trackSpec(track: Track): TrackSpec {
  switch (track.kind) {
    case 'fixed':
      return { min: track.px, max: track.px };
    case 'fr':
      return { min: least(track.min ?? 0), max: { fr: track.weight } };
    case 'fit':
      return { min: 'min-content', max: 'max-content' };
    case 'range':
      return { min: least(track.min), max: track.max === 'content' ? 'max-content' : track.max };
  }
}

const isFlexible = (spec: TrackSpec): spec is TrackSpec & { max: { fr: number } } =>
  typeof spec.max === 'object';

interface State {
  readonly spec: TrackSpec;
  base: number;
  limit: number;
  /** Its limit was set by content only now, so that more content may raise it further. */
  growable: boolean;
}

const sum = (numbers: readonly number[]): number => numbers.reduce((s, n) => s + n, 0);

/**
 * Shares `space` out equally among tracks, none beyond its `limit`; what is left then goes to `beyond` (CSS Grid
 * §12.5.1). Gives what each gets.
 */
function share(
  space: number,
  from: readonly number[],
  limits: readonly number[],
  beyond: readonly number[],
): number[] {
  const got = from.map(() => 0);
  let left = space;
  let open = from.map((_, i) => i);
  while (left > 1e-9 && open.length > 0) {
    const each = left / open.length;
    open = open.filter((i) => {
      const room = (limits[i] ?? Infinity) - (from[i] ?? 0) - (got[i] ?? 0);
      const taken = Math.min(each, room);
      got[i] = (got[i] ?? 0) + taken;
      left -= taken;
      return room > each;
    });
  }
  if (left > 1e-9) for (const i of beyond) got[i] = (got[i] ?? 0) + left / beyond.length;
  return got;
}

/** What of an item is asked for. */
type Ask = (item: Spanning) => number;
const LEAST: Ask = (item) => item.least;
const MIN: Ask = (item) => item.min;
const MAX: Ask = (item) => item.max;

/** Raises the bases or limits of tracks for what items of one group ask for beyond them. */
function accommodate(
  tracks: readonly State[],
  items: readonly Spanning[],
  gap: number,
  what: 'base' | 'limit',
  affects: (s: State) => boolean,
  ask: Ask,
  weight?: (s: State) => number,
): void {
  const affected = tracks.map(affects);
  if (!affected.includes(true)) return;
  const planned = tracks.map(() => 0);
  const held = tracks.map(() => false);
  const sizeOf = (s: State) => (what === 'base' || s.limit === Infinity ? s.base : s.limit);
  for (const item of items) {
    for (let i = item.start; i < item.start + item.span; i++) held[i] = true;
    const only = item.span === 1 ? tracks[item.start] : undefined;
    if (only) {
      // One track takes all that is asked for, with nothing to share: most items of most grids.
      if (affected[item.start] === true)
        planned[item.start] = Math.max(planned[item.start] ?? 0, ask(item) - sizeOf(only));
      continue;
    }
    const spanned = tracks.slice(item.start, item.start + item.span);
    const indices = spanned.flatMap((_, k) => (affected[item.start + k] === true ? [k] : []));
    const space = ask(item) - sum(spanned.map(sizeOf)) - gap * (item.span - 1);
    if (indices.length === 0 || space <= 0) continue;
    const growers = indices.map((k) => spanned[k] as State);
    const weights = weight ? growers.map(weight) : [];
    const total = sum(weights);
    const growing = growers.flatMap((s, k) => (typeof s.spec.max === 'number' ? [] : [k]));
    const got =
      total > 0
        ? weights.map((w) => (space * w) / total)
        : share(
            space,
            growers.map(sizeOf),
            growers.map((s) => (what === 'base' ? s.limit : s.growable ? Infinity : s.limit)),
            what === 'base' && growing.length > 0 ? growing : growers.map((_, k) => k),
          );
    indices.forEach((k, n) => {
      const i = item.start + k;
      planned[i] = Math.max(planned[i] ?? 0, got[n] ?? 0);
    });
  }
  tracks.forEach((s, i) => {
    const more = planned[i] ?? 0;
    if (what === 'base') s.base += more;
    else if (more > 0 || (s.limit === Infinity && affected[i] === true && held[i] === true)) {
      s.growable = s.limit === Infinity;
      s.limit = sizeOf(s) + more;
    }
  });
}

const raiseLimits = (tracks: readonly State[]): void => {
  for (const s of tracks) s.limit = Math.max(s.limit, s.base);
};

/** Steps 2–4 of CSS Grid §12.5: tracks take what the content in them asks for. */
function resolveIntrinsic(tracks: readonly State[], items: readonly Spanning[], gap: number): void {
  const flexes = (item: Spanning) =>
    tracks.slice(item.start, item.start + item.span).some((s) => isFlexible(s.spec));
  const plain = items.filter((i) => !flexes(i));
  const groups = new Map<number, Spanning[]>();
  for (const item of plain) {
    const group = groups.get(item.span);
    if (group) group.push(item);
    else groups.set(item.span, [item]);
  }
  const hasMin = (s: State) => typeof s.spec.min === 'string';
  const hasMax = (s: State) => typeof s.spec.max === 'string';
  for (const [, group] of [...groups].sort(([a], [b]) => a - b)) {
    for (const s of tracks) s.growable = false;
    const raise = (what: 'base' | 'limit', affects: (s: State) => boolean, ask: Ask) => {
      accommodate(tracks, group, gap, what, affects, ask);
    };
    raise('base', hasMin, LEAST);
    raise('base', hasMin, MIN);
    raise('base', (s) => s.spec.min === 'max-content', MAX);
    raiseLimits(tracks);
    raise('limit', hasMax, MIN);
    raise('limit', (s) => s.spec.max === 'max-content', MAX);
  }
  const flexible = items.filter(flexes);
  for (const ask of [LEAST, MIN])
    accommodate(
      tracks,
      flexible,
      gap,
      'base',
      (s) => isFlexible(s.spec) && hasMin(s),
      ask,
      (s) => (isFlexible(s.spec) ? s.spec.max.fr : 0),
    );
  raiseLimits(tracks);
  for (const s of tracks) if (s.limit === Infinity) s.limit = s.base;
}

/** The size of 1fr in a room (CSS Grid §12.7.1). */
function frSize(tracks: readonly State[], room: number, gap: number): number {
  const rigid = new Set<State>();
  for (;;) {
    const flexible = tracks.filter((s) => isFlexible(s.spec) && !rigid.has(s));
    const factor = (s: State) => (isFlexible(s.spec) ? s.spec.max.fr : 0);
    const used = sum(tracks.filter((s) => !flexible.includes(s)).map((s) => s.base));
    const one = (room - used - gap * (tracks.length - 1)) / Math.max(1, sum(flexible.map(factor)));
    const tooSmall = flexible.filter((s) => one * factor(s) < s.base);
    if (tooSmall.length === 0) return Math.max(0, one);
    for (const s of tooSmall) rigid.add(s);
  }
}

function flexFraction(tracks: readonly State[], items: readonly Spanning[], room: Room, gap: number): number {
  if (room === 'min-content') return 0;
  if (typeof room === 'number') return frSize(tracks, room, gap);
  const bases = tracks.map((s) => (isFlexible(s.spec) ? s.base / Math.max(1, s.spec.max.fr) : 0));
  const asked = items.map((item) => {
    const spanned = tracks.slice(item.start, item.start + item.span);
    return spanned.some((s) => isFlexible(s.spec)) ? frSize(spanned, item.max, gap) : 0;
  });
  return Math.max(0, ...bases, ...asked);
}

/**
 * Sizes the tracks of one axis of a grid (CSS Grid §12.3–12.7), px. `room` is the inner size of the container or what
 * it is measured for; `least` and `most` are what its inner size is kept within anyway.
 */
export function sizeTracks(
  specs: readonly TrackSpec[],
  items: readonly Spanning[],
  room: Room,
  gap: number,
  { least, most }: { least: number; most: number } = { least: 0, most: Infinity },
): number[] {
  const tracks = specs.map((spec): State => {
    const base = typeof spec.min === 'number' ? spec.min : 0;
    return {
      spec,
      base,
      limit: typeof spec.max === 'number' ? Math.max(base, spec.max) : Infinity,
      growable: false,
    };
  });
  resolveIntrinsic(tracks, items, gap);
  const taken = () => sum(tracks.map((s) => s.base)) + gap * Math.max(0, tracks.length - 1);
  if (room === 'max-content') for (const s of tracks) s.base = s.limit;
  else if (typeof room === 'number') {
    const more = share(
      Math.max(0, room - taken()),
      tracks.map((s) => s.base),
      tracks.map((s) => s.limit),
      [],
    );
    tracks.forEach((s, i) => (s.base += more[i] ?? 0));
  }
  if (!tracks.some((s) => isFlexible(s.spec))) return tracks.map((s) => s.base);
  const fr = flexFraction(tracks, items, room, gap);
  const sizes = tracks.map((s) => (isFlexible(s.spec) ? Math.max(s.base, fr * s.spec.max.fr) : s.base));
  const total = sum(sizes) + gap * (tracks.length - 1);
  if (room !== 'max-content' || (total >= least && total <= most)) return sizes;
  return sizeTracks(specs, items, total < least ? least : most, gap);
}
