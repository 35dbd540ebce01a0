import type { IntrinsicWidths } from '../layout/index.js';
import type { Part } from '../model/index.js';
import type { Look } from './look.js';
import { isShown, type Index, type Scene, type Snapshot } from './scene.js';

/** The screen at a width at which it was drawn. */
export interface Reference {
  readonly scene: Scene;
  readonly shot: Snapshot;
}

/**
 * Looks for one kind of fault. Given what is the same at many widths it says what to look at on each stretch of them;
 * undefined where there is nothing to look at.
 */
export type Check = (plan: Plan) => ((look: Look) => void) | undefined;

/** What is the same over all stretches of a range between two breakpoints: the parts with their rules, and the drawings. */
export class Plan {
  readonly scene: Scene;
  /** The drawings, the one whose width is nearest first. */
  readonly references: readonly Reference[];
  readonly intrinsic: IntrinsicWidths;
  /** The numbers of the parts that are shown, parents before children. */
  readonly shown: readonly Index[];

  constructor(scene: Scene, references: readonly Reference[], intrinsic: IntrinsicWidths, shot: Snapshot) {
    this.scene = scene;
    this.references = references;
    this.intrinsic = intrinsic;
    this.shown = scene.parts.map((_, i) => i).filter((i) => isShown(shot, i));
    this.#isShown = new Set(this.shown);
  }

  readonly #isShown: ReadonlySet<Index>;

  isShown(i: Index): boolean {
    return this.#isShown.has(i);
  }

  part(i: Index): Part {
    return this.scene.parts[i] as Part;
  }

  /** A part's parent; the frame is its own. */
  parent(i: Index): Index {
    return Math.max(0, this.scene.parents[i] ?? 0);
  }

  children(i: Index): readonly Index[] {
    return this.scene.children[i] ?? [];
  }

  /** The shown children of a part that take part in its flow. */
  inFlow(i: Index): readonly Index[] {
    return this.children(i).filter((c) => this.isShown(c) && !this.part(c).rules.pin);
  }

  /** The nearest container around a part that cuts off or scrolls what reaches out of it; -1 for none. */
  clipper(i: Index): Index {
    return this.scene.clippers[i] ?? -1;
  }

  /** Whether it has a fill or an outline of its own. */
  isPainted(i: Index): boolean {
    const { paint } = this.part(i);
    return paint?.fill !== undefined || paint?.stroke !== undefined;
  }

  /** The nearest drawing that shows all of some parts. */
  drawn(...parts: readonly Index[]): Snapshot | undefined {
    return this.references.find(({ shot }) => parts.every((i) => isShown(shot, i)))?.shot;
  }
}

/** A check that looks at each of some things; none when there are none. */
export const each = <T>(things: readonly T[], check: (look: Look, thing: T) => void) =>
  things.length === 0
    ? undefined
    : (look: Look): void => {
        for (const thing of things) check(look, thing);
      };
