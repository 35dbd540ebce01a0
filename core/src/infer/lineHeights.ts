import { riseOf, type Drawing, type Item, type TextItem } from '../drawing/index.js';
import { bottom } from '../model/index.js';
import { near } from './node.js';
import { isOffGrid } from './snap.js';
import { spacesOf, type Beside, type Spaces } from './spaces.js';
import { commonest } from './stack.js';
import { isWhole, leadings, MIDDLE_BITS, spaceBits, type Leading } from './typed.js';

/** What a leading costs that another style of the screen has as well: it says which. */
const SAID_BITS = 1;
/** Leadings that differ by less than this are the same, in sizes. */
const SAME_LEADING = 0.005;
/** Paddings that differ by less than this are the same, px. */
const SAME = 0.06;
/** A line alone in its box may differ from its style's by so much, px. */
const OWN = 1;
/** A space between two lines is seen from each of them. */
const FROM_EACH_SIDE = 0.5;
/** Styles are tried again with what the others have become so many times at most. */
const ROUNDS = 4;

const sizeOf = (item: TextItem): number => item.content.runs[0]?.style.size ?? item.content.lineHeight;

const styleOf = (item: TextItem): string => {
  const style = item.content.runs[0]?.style;
  return `${style?.family}|${style?.weight}|${style?.size.toFixed(1)}`;
};

type Guessed = TextItem & { readonly loneLine: { readonly letters: number } };
const isGuessed = (item: Item): item is Guessed => item.kind === 'text' && item.loneLine !== undefined;

/** The text in lines of another height: its letters stay where they are. */
function withLineHeight(item: Guessed, lineHeight: number): TextItem {
  const { loneLine: _lone, ...rest } = item;
  return {
    ...rest,
    content: { ...item.content, lineHeight },
    box: { ...item.box, y: item.box.y - riseOf(item, lineHeight), height: lineHeight * item.lines.length },
  };
}

/** The line height that a style has where lines of it are drawn under each other. */
function drawnPitches(drawings: readonly Drawing[]): Map<string, number> {
  const pitches = new Map<string, number>();
  for (const { items } of drawings) {
    const heights = new Map<string, number[]>();
    for (const item of items)
      if (item.kind === 'text' && item.lines.length > 1)
        heights.set(styleOf(item), [...(heights.get(styleOf(item)) ?? []), item.content.lineHeight]);
    for (const [style, own] of heights)
      if (!pitches.has(style))
        pitches.set(
          style,
          commonest(
            own.sort((a, b) => a - b),
            0.05,
          ).value,
        );
  }
  return pitches;
}

/** A text whose line height is searched, with what is above it and below. */
interface Seen extends Spaces {
  readonly text: Guessed;
  readonly offGrid: boolean;
}

/** The line heights of styles, and what the spaces come to with them. */
class Heights {
  readonly #chosen: Map<string, number>;
  readonly #leadings = new Map<string, number>();

  constructor(known: ReadonlyMap<string, number>, sizes: ReadonlyMap<string, number>) {
    this.#chosen = new Map(known);
    for (const [style, height] of known) this.#leadings.set(style, height / (sizes.get(style) ?? height));
  }

  of(style: string): number | undefined {
    return this.#chosen.get(style);
  }

  choose(style: string, size: number, height: number): void {
    this.#chosen.set(style, height);
    this.#leadings.set(style, height / size);
  }

  /** What a leading costs: less, where another style has it, too. */
  bits(style: string, size: number, { height, bits }: Leading): number {
    const isSaid = [...this.#leadings].some(
      ([other, leading]) => other !== style && Math.abs(leading - height / size) < SAME_LEADING,
    );
    return isSaid ? Math.min(bits, SAID_BITS) : bits;
  }

  /** The upper edge of something, px, or its lower one. */
  edge(item: Item, side: 'upper' | 'lower'): number {
    const height = isGuessed(item) ? this.of(styleOf(item)) : undefined;
    if (!isGuessed(item) || height === undefined) return side === 'upper' ? item.box.y : bottom(item.box);
    const top = item.box.y - riseOf(item, height);
    return side === 'upper' ? top : top + height * item.lines.length;
  }

  /** Notes what the spaces above and below a text cost, each once by its length: alike ones are said once. */
  spaces({ text, above, below, offGrid }: Seen, costs: Map<string, number>): void {
    const from = (beside: Beside, side: 'upper' | 'lower') => this.edge(beside.item, side);
    const upper = above && this.edge(text, 'upper') - from(above, above.around ? 'upper' : 'lower');
    const lower = below && from(below, below.around ? 'lower' : 'upper') - this.edge(text, 'lower');
    const note = (space: number | undefined, beside: Beside | undefined, most = Infinity) => {
      if (space === undefined || beside === undefined || beside.item.kind === 'art') return;
      const key = space.toFixed(1);
      const bits = spaceBits(offGrid ? Math.round(space) : space) * FROM_EACH_SIDE;
      costs.set(key, Math.min(costs.get(key) ?? most, bits));
    };
    const isInMiddle =
      above?.around &&
      above.item === below?.item &&
      upper !== undefined &&
      lower !== undefined &&
      near(upper, lower, offGrid ? 1 : SAME);
    note(upper, above, isInMiddle ? MIDDLE_BITS : Infinity);
    if (!isInMiddle) note(lower, below);
  }
}

/**
 * The height of a line that is alone in its box, as near to its style's as possible, with which it keeps whole px above and
 * as many below; its style's where there is none within {@link OWN}.
 */
function inItsBox({ text, above, below }: Seen, height: number): number {
  if (!above?.around || above.item !== below?.item || text.lines.length !== 1) return height;
  const { box } = above.item;
  const odd = box.height - height - 2 * Math.floor((box.height - height) / 2);
  return (
    [height + odd, height + odd - 2].find((own) => {
      const top = text.box.y - riseOf(text, own) - box.y;
      return Math.abs(own - height) <= OWN && isWhole(top) && near(2 * top, box.height - own, SAME);
    }) ?? height
  );
}

/**
 * A drawing does not tell how high a line is that stands alone. It is read as high as the lines of a paragraph in the
 * same style in any of the drawings of a screen; else so that it is cheapest to say: by how usual that height is for its
 * size, by what other styles of the screen do, and by the spaces around lines of it, which are whole px and the same at
 * both sides where a designer chose them. The letters stay where they are. `drawings` come in the order in which they are
 * believed.
 */
export function readLineHeights(drawings: readonly Drawing[]): Drawing[] {
  if (!drawings.some(({ items }) => items.some(isGuessed))) return [...drawings];
  const seen = new Map<TextItem, Seen>();
  for (const { items } of drawings) {
    const offGrid = isOffGrid(items);
    for (const [text, spaces] of spacesOf(items, items.filter(isGuessed)))
      seen.set(text, { text, offGrid, ...spaces });
  }
  const heights = searched(drawings, seen.values());
  const read = (item: Item): Item => {
    const own = isGuessed(item) ? seen.get(item) : undefined;
    const height = own && heights.of(styleOf(own.text));
    return own && height !== undefined ? withLineHeight(own.text, inItsBox(own, height)) : item;
  };
  return drawings.map((d) => ({ ...d, items: d.items.map(read) }));
}

/** Searches the height of lines of every style that no paragraph shows. */
function searched(drawings: readonly Drawing[], lines: Iterable<Seen>): Heights {
  const pitches = drawnPitches(drawings);
  const sizes = new Map<string, number>();
  for (const { items } of drawings)
    for (const item of items) if (item.kind === 'text') sizes.set(styleOf(item), sizeOf(item));
  const seen = new Map<string, Seen[]>();
  for (const line of lines) {
    const style = styleOf(line.text);
    if (!pitches.has(style)) seen.set(style, [...(seen.get(style) ?? []), line]);
  }
  const heights = new Heights(pitches, sizes);
  // Whatever the order of paint.
  const inOrder = [...seen].sort(([a], [b]) => (a < b ? -1 : 1));
  for (let round = 0; round < ROUNDS; round++) {
    let changed = false;
    for (const [style, lines] of inOrder) {
      const size = sizes.get(style) ?? 0;
      const before = heights.of(style);
      let best: { readonly height: number; readonly price: number } | undefined;
      for (const leading of leadings(size)) {
        heights.choose(style, size, leading.height);
        const costs = new Map<string, number>();
        for (const line of lines) heights.spaces(line, costs);
        const price =
          heights.bits(style, size, leading) +
          [...costs.values()].sort((a, b) => a - b).reduce((sum, bits) => sum + bits, 0);
        if (!best || price < best.price - 1e-9) best = { height: leading.height, price };
      }
      if (!best) continue;
      heights.choose(style, size, best.height);
      changed ||= best.height !== before;
    }
    if (!changed) break;
  }
  return heights;
}
