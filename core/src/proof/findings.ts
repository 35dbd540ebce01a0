import { KINDS } from './kinds.js';
import type { Finding, Subject } from './look.js';
import type { Holds } from './linear.js';

/** What was found of one subject: the runs of widths at which it holds, the narrowest first. */
export interface Found {
  readonly subject: Subject;
  readonly runs: readonly Holds[];
}

const keyOf = ({ kind, severity, part, other }: Subject): string =>
  `${kind} ${severity ?? ''} ${part} ${other}`;

/** How much worse than in the drawing something may be before it is a fault, px. */
const WORSE = 4.003;

const joined = (a: Holds, b: Holds): Holds => ({
  from: Math.min(a.from, b.from),
  to: Math.max(a.to, b.to),
  ...(b.by > a.by ? { by: b.by, worst: b.worst } : { by: a.by, worst: a.worst }),
});

/** Collects findings stretch by stretch, from narrow to wide, and joins the runs of each that meet. */
export class Findings {
  readonly #found = new Map<string, { readonly subject: Subject; readonly runs: Holds[] }>();

  add({ holds, ...subject }: Finding): void {
    const key = keyOf(subject);
    const found = this.#found.get(key) ?? { subject, runs: [] };
    this.#found.set(key, found);
    let own = holds;
    // Two sides of one thing may be told of one stretch, the further first.
    let place = found.runs.length;
    while (place > 0 && (found.runs[place - 1] as Holds).to >= own.from - 1) {
      const before = found.runs[place - 1] as Holds;
      if (before.from <= own.to + 1) {
        own = joined(before, own);
        found.runs.splice(place - 1, 1);
      }
      place--;
    }
    found.runs.splice(place, 0, own);
  }

  get all(): readonly Found[] {
    return [...this.#found.values()];
  }

  /** The limit over which something is a fault, where this is what the drawing does itself. */
  limitFor(subject: Subject, limit: number): number {
    const drawn = this.#found.get(keyOf(subject));
    if (!drawn) return limit;
    if (!KINDS[subject.kind].grows) return Infinity;
    return Math.max(limit, ...drawn.runs.map((r) => r.by + WORSE));
  }
}
