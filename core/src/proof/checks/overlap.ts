import type { Term } from '../linear.js';
import type { Look } from '../look.js';
import type { Check, Plan } from '../plan.js';
import { at, type Index, type Snapshot } from '../scene.js';

/** Things over each other by more than this, both ways, are seen to be, px; less is a stroke or a rounding. */
const SEEN = 3.003;
/** In the drawing things lay over each other from this on, px. */
const DRAWN = 0.5;

type Box = readonly [left: number, top: number, right: number, bottom: number];
const NOTHING: Box = [Infinity, Infinity, -Infinity, -Infinity];

const around = (a: Box, b: Box): Box => [
  Math.min(a[0], b[0]),
  Math.min(a[1], b[1]),
  Math.max(a[2], b[2]),
  Math.max(a[3], b[3]),
];
const meet = (a: Box, b: Box): boolean =>
  Math.min(a[2], b[2]) - Math.max(a[0], b[0]) > SEEN && Math.min(a[3], b[3]) - Math.max(a[1], b[1]) > SEEN;

const inkAt = (s: Snapshot, i: Index): Box => [
  at(s.ink.left, i),
  at(s.ink.top, i),
  at(s.ink.right, i),
  at(s.ink.bottom, i),
];

const laysOver = (s: Snapshot, i: Index, j: Index): boolean => {
  const [a, b] = [inkAt(s, i), inkAt(s, j)];
  return (
    Math.min(a[2], b[2]) - Math.max(a[0], b[0]) > DRAWN && Math.min(a[3], b[3]) - Math.max(a[1], b[1]) > DRAWN
  );
};

/** Things that lie over each other and did not in the drawing. */
export const overlaps: Check = (plan) => {
  const items = plan.scene.parts.map(({ source, content }, i) =>
    plan.isShown(i) ? source.length > 0 || content !== undefined || plan.isPainted(i) : false,
  );
  const parents = plan.shown.filter((i) => plan.children(i).filter((c) => plan.isShown(c)).length > 1);
  return parents.length === 0
    ? undefined
    : (look) => {
        new Meeting(plan, look, items).among(parents);
      };
};

/** What meets what on one stretch. */
class Meeting {
  readonly #plan: Plan;
  readonly #look: Look;
  readonly #items: readonly boolean[];
  /** All that is ever covered by a part and what is in it, as far as no container cuts it off. */
  readonly #reach: Box[];

  constructor(plan: Plan, look: Look, items: readonly boolean[]) {
    this.#plan = plan;
    this.#look = look;
    this.#items = items;
    this.#reach = new Array<Box>(plan.scene.parts.length).fill(NOTHING);
    for (const i of plan.shown.toReversed()) {
      const { rules } = plan.part(i);
      let box = items[i] || rules.clip || rules.scroll ? this.#covered(i) : NOTHING;
      if (!rules.clip && !rules.scroll)
        for (const c of plan.children(i)) box = around(box, this.#reach[c] as Box);
      this.#reach[i] = box;
    }
  }

  #covered(i: Index): Box {
    const { first, last } = this.#look;
    return first === last ? inkAt(first, i) : around(inkAt(first, i), inkAt(last, i));
  }

  /** Compares what the children of some containers reach over. */
  among(parents: readonly Index[]): void {
    for (const parent of parents) {
      const inside = this.#plan.children(parent).filter((c) => this.#top(c) < Infinity);
      // By their upper edges, so that only those that share a height are looked at.
      const sorted = inside.length > 2 ? inside.toSorted((a, b) => this.#top(a) - this.#top(b)) : inside;
      const isSorted = inside.length > 2;
      for (const [n, a] of sorted.entries()) {
        const own = this.#reach[a] as Box;
        for (let m = n + 1; m < sorted.length; m++) {
          const b = sorted[m] as Index;
          if (isSorted && this.#top(b) > own[3] - SEEN) break;
          if (meet(own, this.#reach[b] as Box)) this.#between(a, b, parent);
        }
      }
    }
  }

  #top(i: Index): number {
    return (this.#reach[i] as Box)[1];
  }

  #between(a: Index, b: Index, parent: Index): void {
    for (const i of this.#itemsMeeting(a, this.#reach[b] as Box, []))
      for (const j of this.#itemsMeeting(b, this.#covered(i), []))
        this.#compare(Math.min(i, j), Math.max(i, j), parent);
  }

  /** What is in a part, itself among it, and may meet a box. */
  #itemsMeeting(i: Index, box: Box, found: Index[]): Index[] {
    if (!meet(this.#reach[i] as Box, box)) return found;
    if (this.#items[i] && meet(this.#covered(i), box)) found.push(i);
    for (const c of this.#plan.children(i)) this.#itemsMeeting(c, box, found);
    return found;
  }

  #compare(i: Index, j: Index, answerable: Index): void {
    const drawing = this.#plan.drawn(i, j);
    if (drawing && laysOver(drawing, i, j)) return;
    // What is cut off is seen within all that cut it off, as far as they do not cut off both.
    const [around, beside] = [this.#clippersOf(i), this.#clippersOf(j)];
    const seen = [
      i,
      j,
      ...around.filter((c) => !beside.includes(c)),
      ...beside.filter((c) => !around.includes(c)),
    ];
    this.#look.allOver(
      { kind: 'overlap', part: i, other: j, answerable },
      SEEN,
      overlapTerms(this.#look, seen),
    );
  }

  /** All containers that cut a part off, the innermost first. */
  #clippersOf(i: Index): Index[] {
    const found: Index[] = [];
    for (let clipper = this.#plan.clipper(i); clipper >= 0; clipper = this.#plan.clipper(clipper))
      found.push(clipper);
    return found;
  }
}

/**
 * How far some things reach into each other, each way: where all share an area, each begins before any of them ends, and
 * all terms are over a limit where that area is wider and higher than it.
 */
function overlapTerms({ first, last }: Look, all: readonly Index[]): Term[] {
  const reach = (far: 'right' | 'bottom', a: Index, near: 'left' | 'top', b: Index): Term => [
    at(first.ink[far], a) - at(first.ink[near], b),
    at(last.ink[far], a) - at(last.ink[near], b),
  ];
  const terms: Term[] = [];
  for (const a of all)
    for (const b of all) terms.push(reach('right', a, 'left', b), reach('bottom', a, 'top', b));
  return terms;
}
