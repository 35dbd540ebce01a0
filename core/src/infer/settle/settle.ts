import type { Drawing, Item } from '../../drawing/index.js';
import { reflow, type Engine } from '../../layout/index.js';
import { walk, type Part, type Rect } from '../../model/index.js';
import { withDrawnAligns } from './across.js';
import { boxesAlone } from './alone.js';
import { withDrawnGaps, withMiddles } from './along.js';
import { isMisplaced, misplaces, standingIn, type Standing } from './misplaced.js';
import { pinnedAsDrawn, withPinned } from './pinned.js';
import { withDrawnSizes } from './sizes.js';
import { withDrawnColumns, withDrawnTracks } from './tracks.js';

/** More rounds than this and the drawing is no screen. */
const MAX_ROUNDS = 40;

/** One way to say otherwise what a container's children are to do; undefined where it says nothing new. */
type Way = (part: Part, standing: readonly Standing[], own: Rect) => Part | undefined;

/**
 * Makes the tree stand where it was drawn. A container that misplaces a child by more than may be called a snap, although it has
 * the box that it was drawn in, says more: sizes, distances, alignments, and last that single children hang where they were
 * drawn. `targets` are the boxes that parts were meant to have; containers that are added get theirs.
 */
export function settle(draft: Part, targets: Map<string, Rect>, drawing: Drawing, engine: Engine): Part {
  return new Settling(targets, drawing, engine).settled(draft);
}

class Settling {
  readonly #targets: Map<string, Rect>;
  readonly #drawing: Drawing;
  readonly #engine: Engine;
  readonly #items: ReadonlyMap<string, Item>;

  constructor(targets: Map<string, Rect>, drawing: Drawing, engine: Engine) {
    this.#targets = targets;
    this.#drawing = drawing;
    this.#engine = engine;
    this.#items = new Map(drawing.items.map((i) => [i.id, i]));
  }

  settled(draft: Part): Part {
    let root = draft;
    for (let round = 0; round < MAX_ROUNDS; round++) {
      const placed = reflow(root, this.#drawing.width, this.#engine).parts;
      const wrong = new Set(
        [...walk(root)].filter((p) => misplaces(p, placed, this.#targets)).map((p) => p.id),
      );
      if (wrong.size === 0) break;
      const next = this.#mended(root, wrong);
      if (next === root) break;
      root = next;
    }
    return root;
  }

  /** The tree with what is wrong mended from the inside out. */
  #mended(part: Part, wrong: ReadonlySet<string>): Part {
    const children = part.children.map((c) => this.#mended(c, wrong));
    const next = children.every((c, i) => c === part.children[i]) ? part : { ...part, children };
    return wrong.has(part.id) ? this.#container(next) : next;
  }

  /** A container that stands as drawn in its own box. */
  #container(part: Part): Part {
    const own = this.#targets.get(part.id);
    if (!own || part.rules.flow === 'free' || this.#stands(part, own)) return part;
    for (const ways of [
      [withMiddles],
      [withDrawnColumns],
      [withDrawnSizes, this.#aligns],
      [withDrawnSizes, withDrawnSizes, this.#aligns, withDrawnGaps],
      [withDrawnTracks, withDrawnSizes],
    ] satisfies Way[][]) {
      const found = this.#by(part, own, ways);
      if (found) return found;
    }
    return this.#pinned(part, own);
  }

  readonly #aligns: Way = (part, standing, own) => withDrawnAligns(part, standing, own, this.#targets);

  #standing(part: Part, own: Rect): readonly Standing[] {
    return standingIn(part, boxesAlone(part, own, this.#engine), this.#targets);
  }

  #stands(part: Part, own: Rect): boolean {
    return !this.#standing(part, own).some(isMisplaced);
  }

  /** The container after all of some ways; undefined where it still misplaces a child. */
  #by(part: Part, own: Rect, ways: readonly Way[]): Part | undefined {
    let result = part;
    for (const way of ways) result = way(result, this.#standing(result, own), own) ?? result;
    return result !== part && this.#stands(result, own) ? result : undefined;
  }

  /** A container in which what it misplaces hangs where it was drawn, or all where the rest does not stand then. */
  #pinned(part: Part, own: Rect): Part {
    const astray = new Set(
      this.#standing(part, own)
        .filter(isMisplaced)
        .map((s) => s.child.id),
    );
    const flowing = part.children.filter((c) => !c.rules.pin);
    if (flowing.filter((c) => astray.has(c.id)).length * 2 <= flowing.length) {
      const some = withPinned(part, astray, this.#targets, this.#items);
      if (this.#stands(some, own)) return some;
      const spaced = this.#by(some, own, [withDrawnSizes, this.#aligns, withDrawnGaps]);
      if (spaced) return spaced;
    }
    return pinnedAsDrawn(part, this.#targets, this.#items);
  }
}
