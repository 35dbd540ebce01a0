import type { Look } from '../look.js';
import type { Term } from '../linear.js';
import { at, isShown, type Index, type Snapshot } from '../scene.js';

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
export function overlaps(look: Look): void {
  const { stretch, scene } = look;
  const { first, last } = stretch;
  const isItem = (i: Index): boolean => {
    const { source, paint, content } = look.part(i);
    return source.length > 0 || content !== undefined || paint?.fill !== undefined;
  };
  /** All that is ever covered by a part and what is in it, as far as no container cuts it off. */
  const reach: Box[] = new Array<Box>(scene.parts.length).fill(NOTHING);
  for (let i = scene.parts.length - 1; i >= 0; i--) {
    if (!isShown(first, i)) continue;
    const own = isItem(i) ? around(inkAt(first, i), inkAt(last, i)) : NOTHING;
    const { rules } = look.part(i);
    reach[i] =
      rules.clip || rules.scroll
        ? around(inkAt(first, i), inkAt(last, i))
        : (scene.children[i] ?? []).reduce((box, c) => around(box, reach[c] as Box), own);
  }
  /** What is in a part, itself among it, and may meet a box. */
  const itemsMeeting = (i: Index, box: Box, found: Index[]): Index[] => {
    if (!meet(reach[i] as Box, box)) return found;
    if (isItem(i) && meet(around(inkAt(first, i), inkAt(last, i)), box)) found.push(i);
    for (const c of scene.children[i] ?? []) itemsMeeting(c, box, found);
    return found;
  };
  const clipTerms = (i: Index, j: Index): Term[] => {
    const clipper = scene.clippers[i] ?? -1;
    return clipper < 0 || clipper === scene.clippers[j] ? [] : overlapTerms(look, clipper, j);
  };
  const compare = (i: Index, j: Index, answerable: Index): void => {
    const { reference } = look;
    if (!reference || !look.wasShown(i) || !look.wasShown(j) || laysOver(reference.shot, i, j)) return;
    look.over(
      { kind: 'overlap', part: i, other: j, answerable },
      SEEN,
      ...overlapTerms(look, i, j),
      ...clipTerms(i, j),
      ...clipTerms(j, i),
    );
  };
  for (let parent = 0; parent < scene.parts.length; parent++) {
    const inside = (scene.children[parent] ?? []).filter((c) => (reach[c] as Box)[0] < Infinity);
    // By their upper edges, so that only those that share a height are looked at.
    const sorted = inside.toSorted((a, b) => (reach[a] as Box)[1] - (reach[b] as Box)[1]);
    for (const [n, a] of sorted.entries())
      for (let m = n + 1; m < sorted.length; m++) {
        const b = sorted[m] as Index;
        if ((reach[b] as Box)[1] > (reach[a] as Box)[3] - SEEN) break;
        if (!meet(reach[a] as Box, reach[b] as Box)) continue;
        for (const i of itemsMeeting(a, reach[b] as Box, []))
          for (const j of itemsMeeting(b, around(inkAt(first, i), inkAt(last, i)), []))
            compare(Math.min(i, j), Math.max(i, j), parent);
      }
    // A part that has left its parent meets the parent's own paint only from outside: that is told as outside.
  }
}

/** How far two things reach into each other, each way: all four are over a limit where they lie over each other. */
function overlapTerms({ stretch: { first, last } }: Look, i: Index, j: Index): Term[] {
  const reach = (more: (s: Snapshot) => Float64Array, a: Index, less: (s: Snapshot) => Float64Array, b: Index): Term => [
    at(more(first), a) - at(less(first), b),
    at(more(last), a) - at(less(last), b),
  ];
  const [left, right] = [(s: Snapshot) => s.ink.left, (s: Snapshot) => s.ink.right];
  const [top, bottom] = [(s: Snapshot) => s.ink.top, (s: Snapshot) => s.ink.bottom];
  return [
    reach(right, i, left, j),
    reach(right, j, left, i),
    reach(bottom, i, top, j),
    reach(bottom, j, top, i),
    // What is less wide or high than the limit lies over nothing by more than it.
    reach(right, i, left, i),
    reach(right, j, left, j),
    reach(bottom, i, top, i),
    reach(bottom, j, top, j),
  ];
}
