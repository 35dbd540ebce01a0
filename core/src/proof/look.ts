import type { IntrinsicWidths } from '../layout/index.js';
import type { Part } from '../model/index.js';
import type { FaultKind, Severity } from './kinds.js';
import { allOver, type Holds, type Term } from './linear.js';
import { at, isShown, type Index, type Scene, type Snapshot } from './scene.js';
import type { Stretch } from './sweep.js';

/** The screen as it was drawn, at the drawn width that is nearest to the widths looked at. */
export interface Reference {
  readonly scene: Scene;
  readonly shot: Snapshot;
}

/** What one check has found, before alike findings are put together. */
export interface Finding {
  readonly kind: FaultKind;
  /** Where its kind does not say it. */
  readonly severity?: Severity;
  readonly part: Index;
  /** What it collides with, or is out of line with. */
  readonly other: Index;
  /** The container whose rules are answerable. */
  readonly answerable: Index;
  readonly holds: Holds;
}

/** What a finding is told by: {@link Finding} without its widths. */
export type Subject = Omit<Finding, 'holds'>;

/**
 * A length that is over a limit by less than this is over it by rounding alone, px. Lengths come in 64ths of a px and in
 * shares: none lies on this one.
 */
export const SLACK = 1.003;

/** One look at a stretch of widths: what checks ask, and where they tell what they find. */
export class Look {
  readonly stretch: Stretch;
  readonly scene: Scene;
  readonly reference: Reference | undefined;
  readonly intrinsic: IntrinsicWidths;
  readonly #limitOf: (subject: Subject, limit: number) => number;
  readonly #tell: (finding: Finding) => void;

  constructor(
    stretch: Stretch,
    reference: Reference | undefined,
    intrinsic: IntrinsicWidths,
    limitOf: (subject: Subject, limit: number) => number,
    tell: (finding: Finding) => void,
  ) {
    this.stretch = stretch;
    this.scene = stretch.scene;
    this.reference = reference;
    this.intrinsic = intrinsic;
    this.#limitOf = limitOf;
    this.#tell = tell;
  }

  part(i: Index): Part {
    return this.scene.parts[i] as Part;
  }

  /** The numbers of the parts that are shown. */
  *shown(): Generator<Index> {
    const { first } = this.stretch;
    for (let i = 0; i < this.scene.parts.length; i++) if (isShown(first, i)) yield i;
  }

  /** The shown children of a part that take part in its flow. */
  inFlow(i: Index): Index[] {
    return (this.scene.children[i] ?? []).filter(
      (c) => isShown(this.stretch.first, c) && !this.part(c).rules.pin,
    );
  }

  /** One edge less another, over the stretch. */
  between(less: (s: Snapshot) => Float64Array, i: Index, more: (s: Snapshot) => Float64Array, j: Index): Term {
    const { first, last } = this.stretch;
    return [at(more(first), j) - at(less(first), i), at(more(last), j) - at(less(last), i)];
  }

  /** Whether a part was shown in the drawing. */
  wasShown(i: Index): boolean {
    return this.reference !== undefined && isShown(this.reference.shot, i);
  }

  /** Tells a finding where all terms are over a limit, more so than in the drawing. */
  over(subject: Subject, limit: number, ...terms: readonly Term[]): void {
    const { from, to } = this.stretch;
    for (const [a, b] of terms) if (!(a > limit) && !(b > limit)) return;
    const holds = allOver(terms, this.#limitOf(subject, limit), from, to);
    if (holds) this.#tell({ ...subject, holds });
  }

  /** Tells a finding at widths that were found otherwise. */
  at(subject: Subject, holds: Holds): void {
    if (this.#limitOf(subject, 0) < holds.by) this.#tell({ ...subject, holds });
  }

  /** Tells a finding that holds over the whole stretch. */
  throughout(subject: Subject, by: number): void {
    const { from, to } = this.stretch;
    this.at(subject, { from, to, by, worst: from });
  }
}

/** The edges of boxes and of what is seen of them. */
export const boxLeft = (s: Snapshot): Float64Array => s.box.left;
export const boxTop = (s: Snapshot): Float64Array => s.box.top;
export const boxRight = (s: Snapshot): Float64Array => s.box.right;
export const boxBottom = (s: Snapshot): Float64Array => s.box.bottom;
export const inkLeft = (s: Snapshot): Float64Array => s.ink.left;
export const inkTop = (s: Snapshot): Float64Array => s.ink.top;
export const inkRight = (s: Snapshot): Float64Array => s.ink.right;
export const inkBottom = (s: Snapshot): Float64Array => s.ink.bottom;

/** The four edges with the sign by which going outwards counts up. */
export const SIDES = [
  { name: 'left', box: boxLeft, ink: inkLeft, sign: -1 },
  { name: 'top', box: boxTop, ink: inkTop, sign: -1 },
  { name: 'right', box: boxRight, ink: inkRight, sign: 1 },
  { name: 'bottom', box: boxBottom, ink: inkBottom, sign: 1 },
] as const;

/** By how much an edge of one lies further out than the same edge of another. */
export function beyond(
  { first, last }: Stretch,
  inner: (s: Snapshot) => Float64Array,
  i: Index,
  outer: (s: Snapshot) => Float64Array,
  j: Index,
  sign: number,
): Term {
  return [
    (at(inner(first), i) - at(outer(first), j)) * sign,
    (at(inner(last), i) - at(outer(last), j)) * sign,
  ];
}
