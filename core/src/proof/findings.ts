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

/** Collects findings stretch by stretch, from narrow to wide, and joins the runs of each that meet. */
export class Findings {
  readonly #found = new Map<string, { readonly subject: Subject; readonly runs: Holds[] }>();

  add({ holds, ...subject }: Finding): void {
    const key = keyOf(subject);
    const found = this.#found.get(key) ?? { subject, runs: [] };
    this.#found.set(key, found);
    const last = found.runs.at(-1);
    if (!last || last.to < holds.from - 1) found.runs.push(holds);
    else
      found.runs[found.runs.length - 1] = {
        from: Math.min(last.from, holds.from),
        to: Math.max(last.to, holds.to),
        ...(holds.by > last.by ? { by: holds.by, worst: holds.worst } : { by: last.by, worst: last.worst }),
      };
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
