import { overlap, type Rect } from '../../model/index.js';
import type { TextMeasurer } from '../../text/index.js';
import type { CleanUpKind } from '../cleanUp.js';
import type { Note } from '../items.js';
import type { RawItem } from '../raw.js';

/** What holds for everything below an element. */
export interface Around {
  /** The order of painting: what is positioned lies over what is not, by its z-index (CSS 2.2 appendix E). */
  readonly stack: readonly number[];
  readonly opacity: number;
  readonly leftOut?: CleanUpKind;
  readonly groups: readonly string[];
  readonly clip?: Rect;
}

/** Where what flows stands between the levels of positioned siblings: over those with a negative z-index. */
const IN_FLOW = -0.5;

/** The order in which two things are painted, by their {@link Around.stack}. */
export const paintOrder = (a: readonly number[], b: readonly number[]): number => {
  for (let i = 0; i < Math.max(a.length, b.length); i++) {
    const by = (a[i] ?? IN_FLOW) - (b[i] ?? IN_FLOW);
    if (by !== 0) return by;
  }
  return 0;
};

/** The items and notes of a page that is being laid out. */
export class Page {
  readonly measurer: TextMeasurer;
  readonly #placed: { items: readonly RawItem[]; stack: readonly number[] }[] = [];
  readonly #notes = new Map<string, { kind: Note['kind']; items: Set<string> }>();
  #positioned = 0;
  readonly #taken = new Set<string>();
  readonly #counts = new Map<string, number>();

  constructor(measurer: TextMeasurer) {
    this.measurer = measurer;
  }

  note(text: string, item?: string, kind: Note['kind'] = 'not understood'): void {
    const note = this.#notes.get(text) ?? { kind, items: new Set<string>() };
    if (item !== undefined) note.items.add(item);
    this.#notes.set(text, note);
  }

  /** A number higher than any before: positioned elements of one level are painted in document order. */
  next(): number {
    return ++this.#positioned;
  }

  /** An id that no item has yet: the wanted one, or that with a number. */
  id(wanted: string): string {
    let id = wanted;
    let n = this.#counts.get(wanted) ?? 2;
    for (; this.#taken.has(id); n++) id = `${wanted}-${n}`;
    this.#counts.set(wanted, n);
    this.#taken.add(id);
    return id;
  }

  /** Takes a place in the paint order for items that are made later: a box is painted before what it holds. */
  reserve(around: Around): (items: readonly RawItem[]) => void {
    const entry: { items: readonly RawItem[]; stack: readonly number[] } = { items: [], stack: around.stack };
    this.#placed.push(entry);
    return (items) => {
      entry.items = items;
    };
  }

  add(item: RawItem, around: Around): void {
    this.#placed.push({ items: [item], stack: around.stack });
  }

  /** Why something that stands here is left out. */
  leftOut(box: Rect, around: Around): CleanUpKind | undefined {
    if (around.leftOut) return around.leftOut;
    const cut = around.clip && overlap(box, around.clip).some((n) => n <= 0);
    return cut ? 'off the frame' : undefined;
  }

  result(): { items: RawItem[]; notes: Note[] } {
    const sorted = this.#placed.toSorted((a, b) => paintOrder(a.stack, b.stack));
    return {
      items: sorted.flatMap((p) => p.items),
      notes: [...this.#notes].map(([text, { kind, items }]) => ({ kind, text, items: [...items] })),
    };
  }
}
