import type { FaultKind, Severity } from './kinds.js';
import { allOver, type Holds, type Term } from './linear.js';
import { at, type Edges, type Index, type Snapshot } from './scene.js';
import { partOf, type Stretch } from './sweep.js';

/** What one check has found, before alike findings are put together. */
export interface Finding {
  readonly kind: FaultKind;
  /** Where its kind does not say it. */
  readonly severity?: Severity;
  readonly part: Index;
  /** What it collides with, or is out of line with; -1 for nothing. */
  readonly other: Index;
  /** The container whose rules are answerable. */
  readonly answerable: Index;
  readonly holds: Holds;
}

/** What a finding is told by: {@link Finding} without its widths. */
export type Subject = Omit<Finding, 'holds'>;

/** Where checks tell what they find, and from which limit on it counts. */
export interface Teller {
  limitOf(subject: Subject, limit: number): number;
  tell(finding: Finding): void;
}

/**
 * A length that is over a limit by less than this is over it by rounding alone, px. Lengths come in 64ths of a px and in
 * shares: none lies on this one.
 */
export const SLACK = 1.003;

export type Side = Exclude<keyof Edges, 'all'>;

/** One look at a stretch of widths. */
export class Look {
  readonly stretch: Stretch;
  readonly first: Snapshot;
  readonly last: Snapshot;
  readonly #teller: Teller;

  constructor(stretch: Stretch, teller: Teller) {
    this.stretch = stretch;
    this.first = stretch.first;
    this.last = stretch.last;
    this.#teller = teller;
  }

  /** The same look at some of its widths. */
  within(from: number, to: number): Look {
    return new Look(partOf(this.stretch, from, to), this.#teller);
  }

  /** Something that is linear in the width, over the stretch. */
  term(of: (s: Snapshot) => number): Term {
    return [of(this.first), of(this.last)];
  }

  /** Tells a finding where a term is over a limit, more so than in the drawing. */
  over(subject: Subject, limit: number, first: number, last: number): void {
    if (first > limit || last > limit) this.allOver(subject, limit, [[first, last]]);
  }

  /** Tells a finding where all terms are over a limit, more so than in the drawing, and all conditions over nought. */
  allOver(subject: Subject, limit: number, terms: readonly Term[], conditions?: readonly Term[]): void {
    for (const [a, b] of terms) if (!(a > limit) && !(b > limit)) return;
    const { from, to } = this.stretch;
    const holds = allOver(terms, this.#teller.limitOf(subject, limit), from, to, conditions);
    if (holds) this.#teller.tell({ ...subject, holds });
  }

  /** Tells a finding that there is or is not, where all conditions are over nought. */
  where(subject: Subject, conditions: readonly Term[]): void {
    this.allOver(subject, 0, [[1, 1]], conditions);
  }

  /** Tells a finding at widths that were found otherwise. */
  at(subject: Subject, holds: Holds): void {
    if (this.#teller.limitOf(subject, 0) < holds.by) this.#teller.tell({ ...subject, holds });
  }

  /** Tells a finding that holds over the whole stretch. */
  throughout(subject: Subject, by: number): void {
    const { from, to } = this.stretch;
    this.at(subject, { from, to, by, worst: from });
  }
}

/** A part's extent across or down the page, px. */
export const widthOf = (s: Snapshot, i: Index): number => at(s.box.right, i) - at(s.box.left, i);
export const heightOf = (s: Snapshot, i: Index): number => at(s.box.bottom, i) - at(s.box.top, i);

/** The four edges with the sign by which going outwards counts up. */
export const SIDES = [
  ['left', -1],
  ['top', -1],
  ['right', 1],
  ['bottom', 1],
] as const;

/** The edges across and down the page, the near one first. */
export const AXES = [
  ['left', 'right'],
  ['top', 'bottom'],
] as const;
