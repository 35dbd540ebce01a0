import priors from './priors.json' with { type: 'json' };

/** Lengths are read to this, px; and up to this they are spaces that somebody chose. */
const GRAIN = 0.1;
export const FAR = 128;
/** Type from this size on is for headings, px. */
export const LARGE = 20;
/** Leadings are counted by twentieths of the size. */
const TWENTIETHS = 20;

type Counts = Readonly<Record<string, number>>;
const sum = (counts: Counts): number => Object.values(counts).reduce((all, n) => all + n, 0);
const bits = (count: number, of: number): number => -Math.log2(count / of);

const { whole, fractional } = priors.spaces;
const SPACES = sum(whole) + fractional;

/** Whether a length is one that a designer types. */
export const isWhole = (px: number): boolean => Math.abs(px - Math.round(px)) < GRAIN / 2;

/**
 * The bits that a gap or a padding costs, by how often screens were counted to have it. Whole px are common, some more than
 * others; any other length has to be said with its digits. Things that reach into each other pay for each px.
 */
export function spaceBits(px: number): number {
  if (px <= -GRAIN) return FRACTION - px;
  if (!isWhole(px)) return FRACTION;
  const counted = (whole as Counts)[String(Math.round(px))] ?? 0;
  return bits(counted + 1, SPACES + FAR);
}
const FRACTION = bits(fractional, SPACES) + Math.log2(FAR / GRAIN);

/** What a line in the middle of its box costs: the height of the box, whatever is left above it and below. */
export const MIDDLE_BITS = Math.log2(FAR);

/** A height that lines of a size may have, px, and what it costs. */
export interface Leading {
  readonly height: number;
  readonly bits: number;
}

/**
 * The heights that lines of `size` px may have: so many twentieths of it, or whole px. Each costs by how often lines of
 * running text, or of headings, were counted to be so high.
 */
export function leadings(size: number): Leading[] {
  const counts: Counts = size < LARGE ? priors.lineHeights.running : priors.lineHeights.large;
  const all = sum(counts);
  const price = (twentieths: number) => bits((counts[(twentieths / TWENTIETHS).toFixed(2)] ?? 0) + 1, all);
  const found = new Map<number, number>();
  const offer = (height: number, cost: number) => {
    const key = Math.round(height * 1000) / 1000;
    found.set(key, Math.min(found.get(key) ?? Infinity, cost));
  };
  for (let t = TWENTIETHS; t <= 2 * TWENTIETHS; t++) offer((size * t) / TWENTIETHS, price(t));
  for (let height = Math.ceil(size); height <= 2 * size; height++)
    offer(height, price(Math.round((height / size) * TWENTIETHS)) + 1);
  return [...found].map(([height, cost]) => ({ height, bits: cost }));
}
