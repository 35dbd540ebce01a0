import type { Engine, Placed } from '../layout/index.js';
import { standing, walk, type Conditions, type Part, type Structure } from '../model/index.js';
import type { Line } from '../text/index.js';

/** Numbers of parts are indices into the lists of a scene. */
export type Index = number;

/** How a screen is looked at besides the frame's width. */
export type View = Omit<Conditions, 'width'>;

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
  /** All of them: left, top, right and bottom edges one after the other. */
  readonly all: Float64Array;
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

/** Edges in one list, seen side by side. */
export function edgesIn(all: Float64Array): Edges {
  const count = all.length / 4;
  return {
    all,
    left: all.subarray(0, count),
    top: all.subarray(count, 2 * count),
    right: all.subarray(2 * count, 3 * count),
    bottom: all.subarray(3 * count),
  };
}

/** An entry of a list of numbers that is known to be there. */
export const at = (list: Float64Array, i: Index): number => list[i] as number;

export const isShown = ({ box }: Snapshot, i: Index): boolean => !Number.isNaN(at(box.left, i));

/** Where nothing is shown, for so many parts. */
const blanks = new Map<number, Float64Array>();

function blank(count: number): Float64Array {
  let found = blanks.get(count);
  if (!found) blanks.set(count, (found = new Float64Array(count * 4).fill(NaN)));
  return found.slice();
}

/** The edges of a text's box drawn in to its lines: as far as its widest goes, and as deep as all go. */
function inkOfText(ink: Edges, { content, rules }: Part, lines: readonly Line[], i: Index): void {
  if (content?.kind !== 'text') return;
  let widest = 0;
  for (const line of lines) if (line.width > widest) widest = line.width;
  const free = at(ink.right, i) - at(ink.left, i) - widest;
  const atEnd = rules.direction === 'rtl' ? content.align === 'start' : content.align === 'end';
  const left = at(ink.left, i) + (content.align === 'centre' ? free / 2 : atEnd ? free : 0);
  ink.left[i] = left;
  ink.right[i] = left + widest;
  ink.bottom[i] = at(ink.top, i) + lines.length * content.lineHeight;
}

/** The frame at one width. */
export function snapshot(
  scene: Scene,
  indices: ReadonlyMap<string, Index>,
  engine: Engine,
  width: number,
): Snapshot {
  const { parts, children, view } = scene;
  const count = parts.length;
  const all = blank(count);
  const lines = new Array<readonly Line[] | undefined>(count);
  const texts: Index[] = [];
  const add = ({ box: own, x, y }: Placed, i: Index): void => {
    all[i] = x;
    all[count + i] = y;
    all[2 * count + i] = x + own.width;
    all[3 * count + i] = y + own.height;
    if (own.lines) {
      lines[i] = own.lines;
      texts.push(i);
    }
    const kids = children[i] ?? [];
    let next = 0;
    for (const placed of own.children) {
      const { part } = placed.box;
      // Boxes come in the order of the parts, but for what is hidden or ranked.
      while (next < kids.length && parts[kids[next] as Index] !== part) next++;
      const at = kids[next] ?? indices.get(part.id);
      if (next >= kids.length) next = 0;
      if (at !== undefined) add({ box: placed.box, x: x + placed.x, y: y + placed.y }, at);
    }
  };
  add({ box: engine.frame(parts[0] as Part, width, view.height), x: 0, y: 0 }, 0);
  const ink = edgesIn(all.slice());
  for (const i of texts) inkOfText(ink, parts[i] as Part, lines[i] ?? [], i);
  return { width, box: edgesIn(all), ink, lines };
}
