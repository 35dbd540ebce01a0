import { applyStep, type Step, type Structure } from '../model/index.js';
import { movedBy, standingOf, type Bench, type Moved } from './stands.js';

/** What an operation does. */
export interface Change {
  /** As it stands in the history. */
  readonly label: string;
  readonly step: Step;
  /** What stands elsewhere at a drawn width afterwards, the furthest first. */
  readonly moved: readonly Moved[];
  /** What has to be said besides: rules of children that had to change with their container's. */
  readonly notes: readonly string[];
  /** The part to take in hand afterwards. */
  readonly select?: string;
  /** Which of its ways was taken, counted from 0. */
  readonly way?: number;
}

/** Why an operation cannot be, and what could be instead. */
export interface Refusal {
  readonly reason: string;
  readonly instead: readonly Change[];
}

export type Answer = Change | Refusal;
/** A refusal with nothing to do instead. */
export const none = (reason: string): Refusal => ({ reason, instead: [] });
export const isRefusal = (answer: Answer): answer is Refusal => 'reason' in answer;

/** One way to do what an operation says. */
export interface WayToDo {
  readonly step: Step;
  readonly notes?: readonly string[];
}

/** No more ways are laid out for one operation. */
const MOST_WAYS = 96;

/** The way of the first copy, for another one: it is not laid out, and whether the document takes it is for who asks. */
function sameWay(ways: Iterable<WayToDo>, at: number): WayToDo | undefined {
  let i = 0;
  for (const way of ways) if (i++ === at) return way;
  return undefined;
}

/**
 * The way after which the least stands elsewhere at the drawn widths; of equal ones the first. A refusal where the document
 * takes none of them.
 */
export function leastMoving(
  structure: Structure,
  bench: Bench,
  label: string,
  ways: Iterable<WayToDo>,
  select?: string,
): Answer {
  if (bench.as) {
    const same = sameWay(ways, bench.as.way);
    return same
      ? { label, step: same.step, moved: [], notes: same.notes ?? [] }
      : none('This copy is made otherwise than the first.');
  }
  const before = standingOf(structure, bench);
  let best: { change: Change; cost: number } | undefined;
  let reason: string | undefined;
  let tried = 0;
  for (const { step, notes = [] } of ways) {
    const way = tried++;
    if (way >= MOST_WAYS) break;
    const result = applyStep(structure, step);
    if (!result.ok) {
      reason ??= result.reason;
      continue;
    }
    const moved = movedBy(before, result.doc, bench);
    const cost = moved.reduce((sum, m) => sum + m.by, 0);
    if (best && cost >= best.cost - 0.01) continue;
    best = { change: { label, step, moved, notes, way, ...(select !== undefined && { select }) }, cost };
    if (moved.length === 0) break;
  }
  return best?.change ?? { reason: reason ?? 'There is nothing to do here.', instead: [] };
}
