import { bottom, right } from '../model/index.js';
import { isLeaf, isText, near, type Node, type Tolerance } from './node.js';
import { isSeparator } from './joinedLines.js';
import { areLevelPairs } from './levelPairs.js';
import { listRows } from './listRows.js';
import { markedList, type Marked } from './marked.js';
import { giveSeparators, meetingRows, withOwnEdges, withSeparators } from './separators.js';
import {
  CLEAR,
  commonest,
  gapsOf,
  groupNode,
  nestByGaps,
  sharedSide,
  slabs,
  stackCost,
  type Axis,
  type Priced,
  TOUCHING,
} from './stack.js';
import { withRail } from './withRail.js';

/** Rows that have separators as their edges may cost so much more than with the separators between them. */
const WITH_EDGES = 1;

/** So many separators hold bands apart, which may cost so much more than what lies between them one by one. */
const LEAST_BANDS = 2;
const BANDS = 1;

/** So many columns of so many things each are cards. */
const LEAST_COLUMNS = 3;

/** Two rows of two things of unlike kinds are two columns where the rows stand so many times closer. */
const PAIR = 2;
const CLOSER = 4;

/** Whether the things of two rows stand much further from each other than the rows, which hold unlike things. */
function standApart([above, below]: readonly (readonly Node[])[]): boolean {
  if (!above || below?.length !== PAIR || above[0]?.signature === below[0]?.signature) return false;
  const across = [above, below].map((row) => Math.max(...gapsOf(inOrder(row), 'row')));
  const between = Math.min(...below.map((n) => n.box.y)) - Math.max(...above.map((n) => bottom(n.box)));
  return Math.min(...across) > CLOSER * Math.max(between, 1);
}

const inOrder = (row: readonly Node[]): Node[] => row.toSorted((a, b) => a.box.x - b.box.x);

/** What is so tall and wide beside so many rows is a column of its own, px. */
const RAIL = { height: 120, width: 96, rows: 3 };

/** A piece of a stack: what it was cut from, and what became of it. */
interface Piece {
  readonly slab: readonly Node[];
  readonly whole: Priced;
}

/** Whether a slab is a separator. */
const isLine = (slab: readonly Node[]): boolean => slab.length === 1 && slab.every(isSeparator);

/** Searches for the cheapest way to nest nodes into rows and columns. */
export class Grouper {
  readonly #tolerance: Tolerance;
  readonly #known = new Map<string, Priced>();

  constructor(tolerance: Tolerance) {
    this.#tolerance = tolerance;
  }

  /** The nodes as one: a single one as it is, several as the cheapest nest of stacks. */
  group(nodes: readonly Node[]): Node {
    return this.#best(nodes).node;
  }

  #best(nodes: readonly Node[]): Priced {
    const [only] = nodes;
    if (nodes.length === 1 && only) return { node: only, cost: 0 };
    const key = nodes
      .map((n) => n.order)
      .sort((a, b) => a - b)
      .join();
    const known = this.#known.get(key);
    if (known) return known;
    const cut = (clear: number) =>
      (['column', 'row'] as const).flatMap((axis) => this.#cut(nodes, axis, clear) ?? []);
    const apart = cut(CLEAR);
    const tries = apart.length > 0 ? apart : cut(TOUCHING);
    const cheapest = this.#tolerance.without?.has('shortest description') ? tries.slice(0, 1) : tries;
    const best = cheapest.reduce<Priced | undefined>((a, b) => (a && a.cost <= b.cost ? a : b), undefined);
    const result = best
      ? { ...best, node: meetingRows(withOwnEdges(withRail(listRows(best.node)))) }
      : {
          node: groupNode(
            'free',
            nodes.toSorted((a, b) => a.order - b.order),
          ),
          cost: nodes.length * 4,
        };
    this.#known.set(key, result);
    return result;
  }

  #cut(nodes: readonly Node[], axis: Axis, clear = CLEAR): Priced | undefined {
    const cut = slabs(nodes, axis, clear);
    if (cut.length < 2) return undefined;
    if (axis === 'row') {
      if (areLevelPairs(cut, this.#tolerance.same)) return undefined;
      return this.#nest(
        cut.map((slab) => ({ slab, whole: this.#best(slab) })),
        axis,
      );
    }
    const pieces = this.#joinLines(cut);
    const apart = this.#nest(pieces, axis);
    const together = this.#withEdges(pieces);
    if (!together) return apart;
    const bands = this.#bands(cut);
    if (bands && bands.cost <= Math.min(together.cost, apart.cost) + BANDS) return bands;
    const around = this.#betweenSeparators(cut);
    if (around && around.cost <= together.cost && around.cost <= apart.cost) return around;
    if (together.cost <= apart.cost + WITH_EDGES || apart.node.item) return together;
    const children = giveSeparators(apart.node.children);
    const [only] = children;
    const whole = children.length === 1 && only ? only : groupNode(axis, children, apart.node.pins);
    return { node: whole, cost: apart.cost };
  }

  /** The stack with its separators as the edges of the rows beside them; undefined where they are no edges. */
  #withEdges(pieces: readonly Piece[]): Priced | undefined {
    const edged = withSeparators(pieces.map((p) => p.whole.node));
    if (edged.length === pieces.length) return undefined;
    return this.#nest(
      edged.map(({ node, at, lines }) => ({
        slab: [at, ...lines].flatMap((i) => (pieces[i] as Piece).slab),
        whole: { node, cost: (pieces[at] as Piece).whole.cost },
      })),
      'column',
    );
  }

  /** The stack as bands that several separators hold apart, each band as one. */
  #bands(cut: readonly Node[][]): Priced | undefined {
    if (cut.filter(isLine).length < LEAST_BANDS) return undefined;
    const [first, last] = [cut.findIndex(isLine), cut.findLastIndex(isLine)];
    const bands: Node[][] = [];
    for (const slab of cut.slice(first, last + 1)) {
      const band = bands.at(-1);
      if (band && !isLine(slab) && !isLine(band)) band.push(...slab);
      else bands.push([...slab]);
    }
    const kinds = new Set(bands.filter((b) => !isLine(b)).map((b) => this.#best(b).node.signature));
    /** What lies beyond the outermost lines is a band where it is made as those between them. */
    const beyond = (slabsOf: readonly Node[][]): Node[][] => {
      const all = slabsOf.flat();
      if (all.length > 0 && kinds.has(this.#best(all).node.signature)) return [all];
      return this.#joinLines(slabsOf).map((piece) => [...piece.slab]);
    };
    bands.unshift(...beyond(cut.slice(0, first)));
    bands.push(...beyond(cut.slice(last + 1)));
    if (bands.length === cut.length) return undefined;
    return this.#withEdges(bands.map((slab) => ({ slab, whole: this.#best(slab) })));
  }

  /** What lies between separators at both ends of a stack, or beyond one, where it is a row that has them as edges. */
  #betweenSeparators(cut: readonly Node[][]): Priced | undefined {
    const ends = [cut[0], cut.at(-1)].filter((slab) => slab !== undefined).filter(isLine);
    const inside = cut.filter((slab) => !ends.includes(slab)).flat();
    if (inside.length < 2 || ends.length === 0) return undefined;
    const { node, cost } = this.#best(inside);
    const stack = [...ends.flat(), node].sort((a, b) => a.box.y - b.box.y);
    const [only, ...more] = giveSeparators(stack);
    return only && more.length === 0 ? { node: only, cost } : undefined;
  }

  #nest(pieces: readonly Piece[], axis: Axis): Priced {
    const [only] = pieces;
    if (only && pieces.length === 1) return only.whole;
    const list = markedList(
      pieces.map((p) => p.whole.node),
      axis,
      this.#tolerance.same,
    );
    const stack = list ? this.#asList(pieces, list, axis) : pieces;
    return nestByGaps(
      stack.map((p) => p.whole),
      axis,
      this.#tolerance,
      (from, to) => this.#best(stack.slice(from, to).flatMap((p) => p.slab)),
    );
  }

  /** Pieces with the entries of a list in the room that its marked one shows, and the list as one beside other things. */
  #asList(pieces: readonly Piece[], { entries, from, to }: Marked, axis: Axis): readonly Piece[] {
    const roomy = pieces.map((p) => ({
      ...p,
      whole: { ...p.whole, node: entries.get(p.whole.node) ?? p.whole.node },
    }));
    if (to - from === pieces.length) return roomy;
    const list = roomy.slice(from, to);
    const children = list.map((p) => p.whole);
    const node = groupNode(
      axis,
      children.map((c) => c.node),
    );
    const whole = { node, cost: stackCost(children, axis, this.#tolerance) };
    return [...roomy.slice(0, from), { slab: list.flatMap((p) => p.slab), whole }, ...roomy.slice(to)];
  }

  /** Puts consecutive rows of alike things together where they make a grid or a wrap. */
  #joinLines(rows: readonly Node[][]): Piece[] {
    const pieces: Piece[] = [];
    for (let from = 0; from < rows.length;) {
      let to = from + 1;
      let joined: Priced | undefined;
      while (to < rows.length) {
        const longer = this.#linesOfAlike(rows.slice(from, to + 1));
        if (!longer) break;
        joined = longer;
        to++;
      }
      if (!joined) {
        const columns =
          this.#columnsOfAlike(rows, from) ?? this.#besideRail(rows, from) ?? this.#goingOn(rows, from);
        joined = columns?.whole;
        to = columns?.to ?? to;
      }
      const slab = rows.slice(from, to).flat();
      pieces.push({ slab, whole: joined ?? this.#best(slab) });
      from = to;
    }
    return pieces;
  }

  /**
   * Rows from one on that together make alike columns of unlike things, as cards without paint do: pictures, below
   * them titles, below these words. Their spaces need not tell it.
   */
  #columnsOfAlike(rows: readonly Node[][], from: number): { whole: Priced; to: number } | undefined {
    if (this.#tolerance.without?.has('similarity')) return undefined;
    const count = rows[from]?.length ?? 0;
    const isPair = count === PAIR && standApart(rows.slice(from, from + PAIR));
    if (!isPair && (count < LEAST_COLUMNS || rows[from]?.every(isText))) return undefined;
    const inColumns = (to: number): Node[][] | undefined => {
      const run = rows.slice(from, to);
      const columns = slabs(run.flat(), 'row');
      const whole = columns.every((c) => run.every((row) => row.some((n) => c.includes(n))));
      return whole && columns.length === count ? columns : undefined;
    };
    let to = from + 1;
    while (to < rows.length && inColumns(to + 1)) to++;
    const columns = to - from < (isPair ? PAIR : LEAST_COLUMNS) ? undefined : inColumns(to);
    const cards = columns?.map((c) => this.#best(c));
    const [first] = cards ?? [];
    if (!cards || !first || cards.some((c) => c.node.signature !== first.node.signature)) return undefined;
    return {
      whole: nestByGaps(cards, 'row', this.#tolerance, (a, b) =>
        this.#best((columns ?? []).slice(a, b).flat()),
      ),
      to,
    };
  }

  /** Something tall at the left with what goes on below it in the column beside it: two columns. */
  #besideRail(rows: readonly Node[][], from: number): { whole: Priced; to: number } | undefined {
    const [rail, ...beside] = slabs(rows[from] ?? [], 'row');
    if (!rail || beside.length === 0) return undefined;
    const height = Math.max(...rail.map((n) => bottom(n.box))) - Math.min(...rail.map((n) => n.box.y));
    const start = Math.min(...beside.flat().map((n) => n.core.x));
    if (height < RAIL.height || start - Math.min(...rail.map((n) => n.box.x)) < RAIL.width) return undefined;
    let to = from + 1;
    while (to < rows.length && rows[to]?.every((n) => n.core.x >= start - this.#tolerance.same)) to++;
    if (to - from < RAIL.rows) return undefined;
    const whole = this.#cut(rows.slice(from, to).flat(), 'row');
    return whole && { whole, to };
  }

  /**
   * Two columns of which one goes on below: a row there begins and ends where the column does, and holds no copies of what
   * stands above it.
   */
  #goingOn(rows: readonly Node[][], from: number): { whole: Priced; to: number } | undefined {
    const columns = slabs(rows[from] ?? [], 'row');
    if (columns.length !== 2) return undefined;
    const by = 2 * this.#tolerance.same;
    const start = (nodes: readonly Node[]) => Math.min(...nodes.map((n) => n.core.x));
    const end = (nodes: readonly Node[]) => Math.max(...nodes.map((n) => right(n.core)));
    const goesOn = (row: readonly Node[]): boolean =>
      columns.some(
        (column) =>
          row.length > 1 &&
          near(start(row), start(column), by) &&
          near(end(row), end(column), by) &&
          !row.some((n) => column.some((c) => near(n.box.width, c.box.width, by))),
      );
    let to = from + 1;
    while (to < rows.length && goesOn(rows[to] ?? [])) to++;
    const whole = to > from + 1 ? this.#cut(rows.slice(from, to).flat(), 'row') : undefined;
    return whole && { whole, to };
  }

  /** Several rows of alike things: a grid when the columns line up, a wrap when they only follow each other. */
  #linesOfAlike(rows: readonly Node[][]): Priced | undefined {
    const lines = rows.map(inOrder);
    const all = lines.flat();
    const [first] = all;
    if (!first || lines.length < 2 || !lines.some((l) => l.length > 1)) return undefined;
    if (this.#tolerance.without?.has('similarity')) return undefined;
    if (!all.every((n) => alike(n, first))) return undefined;
    const by = this.#tolerance.same;
    // Pictures and shapes of unlike heights are a large one and small ones, not one thing again.
    if (isLeaf(first) && !isText(first) && !all.every((n) => near(n.box.height, first.box.height, 2 * by)))
      return undefined;
    const wide = lines[0] ?? [];
    const between = lines
      .slice(1)
      .map(
        (line, i) =>
          Math.min(...line.map((n) => n.box.y)) - Math.max(...(lines[i] ?? []).map((n) => bottom(n.box))),
      );
    if (commonest(between, this.#tolerance.same * 2).count < between.length) return undefined;
    const aligned = lines.every(
      (line) => line.length <= wide.length && line.every((n, i) => near(n.box.x, wide[i]?.box.x ?? NaN, by)),
    );
    const sameWidth = all.every((n) => near(n.box.width, first.box.width, by));
    const full = lines.slice(0, -1).every((l) => l.length === wide.length);
    if (aligned && sameWidth && full && wide.length > 1) return { node: groupNode('grid', all), cost: 3 };
    const gaps = lines.flatMap((l) => gapsOf(l, 'row'));
    const isTable = aligned && lines.length > 2 && all.every(isText);
    if (isTable) return undefined;
    const even = gaps.length > 0 && commonest(gaps, by).count === gaps.length;
    return even && sharedSide(lines, by) && !all.every(isText)
      ? { node: groupNode('wrap', all), cost: 3 }
      : undefined;
  }
}

/** Whether two nodes look like copies of one thing: both painted or both not, alike in make-up or in size. */
export function alike(a: Node, b: Node): boolean {
  if (a.signature === b.signature) return true;
  if (isLeaf(a) !== isLeaf(b) || a.item?.kind !== b.item?.kind || !a.item) return false;
  return near(a.box.height, b.box.height, 2) && near(a.box.width, b.box.width, 2);
}
