import { reflow, type Engine } from '../layout/index.js';
import { standing, walk, type Rect, type Structure } from '../model/index.js';

/** What operations look at: the engine, and the frame widths, px, at which nothing is to move. */
export interface Bench {
  readonly engine: Engine;
  /** The widths of the drawings, the widest first. */
  readonly widths: readonly number[];
  /** At a further copy of a pattern: how everything stands, and the way that the first copy took. */
  readonly as?: { readonly standing: Standing; readonly way: number };
}

/** Where all shown parts stand at each drawn width, by id, px from the frame's top left corner. */
export type Standing = readonly ReadonlyMap<string, Rect>[];

export const standingOf = (structure: Structure, { engine, widths, as }: Bench): Standing =>
  as?.standing ??
  widths.map((width) => reflow(standing(structure, { width }), width, engine, structure.drawn.height).parts);

/** A part that stands elsewhere than before. */
export interface Moved {
  readonly id: string;
  readonly name: string;
  /** The frame width at which it moved most, px. */
  readonly width: number;
  /** How far its edge that moved most has gone, px. */
  readonly by: number;
}

/** What rounding may move, px. */
const STILL = 0.5;

const apart = (a: Rect, b: Rect): number =>
  Math.max(
    Math.abs(a.x - b.x),
    Math.abs(a.y - b.y),
    Math.abs(a.x + a.width - b.x - b.width),
    Math.abs(a.y + a.height - b.y - b.height),
  );

/** The leaves that another document has moved at the drawn widths, the furthest first. What is in one of both alone has not moved. */
export function movedBy(before: Standing, after: Structure, bench: Bench): Moved[] {
  const now = standingOf(after, bench);
  const moved: Moved[] = [];
  for (const { id, name, children } of walk(after.root)) {
    if (children.length > 0) continue;
    const far = bench.widths.map((width, i) => {
      const [was, is] = [before[i]?.get(id), now[i]?.get(id)];
      return { width, by: was && is ? apart(was, is) : 0 };
    });
    const most = far.reduce((a, b) => (b.by > a.by ? b : a), { width: 0, by: 0 });
    if (most.by > STILL) moved.push({ id, name, ...most });
  }
  return moved.sort((a, b) => b.by - a.by);
}
