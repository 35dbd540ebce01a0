import { textBox, type Engine, type Placed } from '../layout/index.js';
import { standing, walk, type Conditions, type Part, type Structure } from '../model/index.js';
import type { Line } from '../text/index.js';

/** Numbers of parts are indices into the lists of a scene. */
export type Index = number;

/** How a screen is looked at besides the frame's width. */
export type View = Omit<Conditions, 'width'> & { readonly height?: number };

/**
 * The parts of a structure by number, parents before children. The numbers are the same at every width; the rules are
 * those that hold at one.
 */
export interface Scene {
  readonly parts: readonly Part[];
  readonly parents: readonly Index[];
  readonly children: readonly (readonly Index[])[];
  /** The nearest container around each part that cuts off what reaches out of it or scrolls it; -1 for none. */
  readonly clippers: readonly Index[];
  readonly view: View;
}

const scenes = new WeakMap<Part, Scene>();

/** The scene of a structure as it stands at a width; the same object for all widths of one range. */
export function sceneAt(structure: Structure, width: number, view: View): Scene {
  const root = standing(structure, { ...view, width });
  const known = scenes.get(root);
  if (known && known.view.height === view.height) return known;
  const parts: Part[] = [];
  const parents: Index[] = [];
  const clippers: Index[] = [];
  const children: Index[][] = [];
  const add = (part: Part, parent: Index, clipper: Index): void => {
    const own = parts.length;
    parts.push(part);
    parents.push(parent);
    clippers.push(clipper);
    children.push([]);
    children[parent]?.push(own);
    const cuts = part.rules.clip === true || part.rules.scroll === true;
    for (const child of part.children) add(child, own, cuts ? own : clipper);
  };
  add(root, -1, -1);
  const scene = { parts, parents, children, clippers, view };
  scenes.set(root, scene);
  return scene;
}

/** The numbers of parts by their ids. */
export const indicesOf = (root: Part): ReadonlyMap<string, Index> =>
  new Map([...walk(root)].map((p, i) => [p.id, i]));

/** Edges by part number, px from the frame's top left corner; NaN for what is not shown. */
export interface Edges {
  readonly left: Float64Array;
  readonly top: Float64Array;
  readonly right: Float64Array;
  readonly bottom: Float64Array;
}

/** A scene laid out at one width. */
export interface Snapshot {
  readonly width: number;
  /** The boxes of the parts. */
  readonly box: Edges;
  /** What is seen of them: of a text its lines, which may reach out of its box. */
  readonly ink: Edges;
  readonly lines: readonly (readonly Line[] | undefined)[];
}

const edges = (count: number): Edges => {
  const all = new Float64Array(count * 4).fill(NaN);
  const side = (n: number) => all.subarray(n * count, (n + 1) * count);
  return { left: side(0), top: side(1), right: side(2), bottom: side(3) };
};

/** An entry of a list of numbers that is known to be there. */
export const at = (list: Float64Array, i: Index): number => list[i] as number;

export const isShown = ({ box }: Snapshot, i: Index): boolean => !Number.isNaN(at(box.left, i));

export function snapshot(
  scene: Scene,
  indices: ReadonlyMap<string, Index>,
  engine: Engine,
  width: number,
): Snapshot {
  const { parts, view } = scene;
  const box = edges(parts.length);
  const ink = edges(parts.length);
  const lines = new Array<readonly Line[] | undefined>(parts.length);
  const add = ({ box: own, x, y }: Placed): void => {
    const i = indices.get(own.part.id);
    if (i !== undefined) {
      box.left[i] = ink.left[i] = x;
      box.top[i] = ink.top[i] = y;
      box.right[i] = ink.right[i] = x + own.width;
      box.bottom[i] = ink.bottom[i] = y + own.height;
      const { content, rules } = own.part;
      if (own.lines && content?.kind === 'text') {
        lines[i] = own.lines;
        const words = textBox(
          content,
          own.lines,
          { x, y, width: own.width, height: own.height },
          rules.direction,
        );
        ink.left[i] = words.x;
        ink.right[i] = words.x + words.width;
        ink.bottom[i] = words.y + words.height;
      }
    }
    for (const child of own.children) add({ box: child.box, x: x + child.x, y: y + child.y });
  };
  add({ box: engine.frame(parts[0] as Part, width, view.height), x: 0, y: 0 });
  return { width, box, ink, lines };
}
