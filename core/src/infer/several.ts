import type { Drawing, Item } from '../drawing/index.js';
import { Engine } from '../layout/index.js';
import {
  findPart,
  standing,
  updatePart,
  walk,
  type LengthToken,
  type Part,
  type Structure,
} from '../model/index.js';
import type { TextMeasurer } from '../text/index.js';
import { Builder } from './build.js';
import { matchItems } from './match.js';
import { Merger } from './merge.js';
import { readDrawing, TOLERANCE, withGuesses, type ReadOptions } from './read.js';
import { sharePitches } from './pitches.js';
import { Regrouper } from './regroup.js';
import { settle } from './repair.js';
import { simplify } from './simplify.js';
import { snapItems } from './snap.js';
import { turnWhereGuessed } from './turns.js';

/** What was read from several drawings of one screen. */
export interface Several {
  readonly structure: Structure;
  /**
   * For each drawing, in the order given: the ids of its items by the ids of the structure's sources. Those of the
   * widest drawing are its own; what only another has is called by its id there, `@` and that drawing's width.
   */
  readonly ids: readonly ReadonlyMap<string, string>[];
}

/** The id under which an item that only a narrower drawing has goes into the structure. */
const foreignId = (id: string, drawing: Drawing): string => `${id}@${drawing.width}`;

/** Breakpoints are whole steps of this, px. */
const STEP = 20;
/** How far from the narrower drawing to the wider one, in ratio, the narrower one's rules hold by default. */
const NARROW_SERVES = 0.4;

const breakpointBetween = (narrow: number, wide: number): number =>
  Math.round((narrow * (wide / narrow) ** NARROW_SERVES) / STEP) * STEP;

/**
 * Reads several drawings of one screen into one structure: the widest gives the grouping, and every narrower one the
 * rules that hold instead from a breakpoint down. Ids need not agree between drawings. Throws a RangeError for no
 * drawing.
 */
export function readSeveral(
  drawings: readonly Drawing[],
  measurer: TextMeasurer,
  options: ReadOptions = {},
): Several {
  const sorted = drawings.toSorted((a, b) => b.width - a.width);
  const [wide, ...rest] = sharePitches(sorted);
  if (!wide) throw new RangeError('There is no drawing to read.');
  const ids: ReadonlyMap<string, string>[] = [new Map(wide.items.map((i) => [i.id, i.id]))];
  const engine = new Engine(measurer);
  const read = readDrawing(wide, measurer, options);
  let structure = read.structure;
  let before = wide.width;
  for (const narrow of rest) {
    const other: Other = { drawing: narrow, items: snapItems(narrow.items), match: matchItems(wide, narrow) };
    const matched = new Set(other.match.values());
    const foreign = narrow.items.flatMap(({ id }) =>
      matched.has(id) ? [] : [[foreignId(id, narrow), id] as const],
    );
    ids.push(new Map([...other.match, ...foreign]));
    const first = narrow === rest[0];
    const regrouped = first ? inOthersGrouping(read.asDrawn, wide, other, measurer) : read.asDrawn;
    const { asDrawn, guessed } = regrouped === read.asDrawn ? read : withGuesses(regrouped, wide, engine);
    const base = first ? { ...structure, root: asDrawn } : structure;
    const breakpoint = breakpointBetween(narrow.width, before);
    const both = merged(base, other, breakpoint, measurer);
    const simple = simplify(both, { breakpoint, widths: [wide.width, narrow.width] }, engine);
    structure = turnWhereGuessed(simple, guessed, { breakpoint, width: narrow.width }, engine);
    before = narrow.width;
  }
  return { structure, ids: drawings.map((d) => ids[sorted.indexOf(d)] ?? new Map()) };
}

/** A narrower drawing, its items off their half px, and its items' ids by those of the widest. */
interface Other {
  readonly drawing: Drawing;
  readonly items: readonly Item[];
  readonly match: ReadonlyMap<string, string>;
}

/** A drawing read in the grouping of a tree, as a tree of the same ids; and where that grouping does not hold. */
function readIn(
  grouping: Part,
  { drawing, items, match }: Other,
  measurer: TextMeasurer,
): { tree: Part; afresh: ReadonlySet<string> } {
  const byId = new Map(items.map((i) => [i.id, i]));
  const matched = new Map(
    [...match].flatMap(([wideId, id]): [string, Item][] => {
      const item = byId.get(id);
      return item ? [[wideId, item]] : [];
    }),
  );
  const frame = { x: 0, y: 0, width: drawing.width, height: drawing.height };
  const regrouper = new Regrouper(items, matched, TOLERANCE);
  const node = regrouper.root(grouping, frame);
  const builder = new Builder(TOLERANCE, measurer, `n${Math.round(drawing.width)}-`);
  const draft = builder.root(drawing, { ...node, of: grouping.id });
  const settled = settle(draft, builder.targets, drawing, builder.engine);
  return { tree: calledByMatch(settled, match, drawing), afresh: regrouper.afresh };
}

/**
 * The wide drawing's tree, but where a container's grouping does not hold in the other drawing and the other's holds in
 * both, that one.
 */
function inOthersGrouping(root: Part, wide: Drawing, other: Other, measurer: TextMeasurer): Part {
  const { tree, afresh } = readIn(root, other, measurer);
  if (afresh.size === 0) return root;
  const own = new Map(wide.items.map((i) => [i.id, i.id]));
  let grouping = root;
  for (const id of afresh) {
    const found = findPart(tree, id);
    if (found) grouping = updatePart(grouping, id, (part) => ({ ...part, children: found.children }));
  }
  const again = readIn(grouping, { drawing: wide, items: snapItems(wide.items), match: own }, measurer);
  let result = root;
  for (const id of afresh) {
    const found = findPart(again.tree, id);
    const holds = found && ![...walk(found)].some((p) => again.afresh.has(p.id) || p.rules.flow === 'free');
    if (holds) result = updatePart(result, id, (part) => ({ ...found, name: part.name }));
  }
  return result;
}

/** The structure with the rules that the other drawing shows below a breakpoint. */
function merged(base: Structure, other: Other, breakpoint: number, measurer: TextMeasurer): Structure {
  const lengths = (base.tokens ?? []).filter((t): t is LengthToken => t.kind === 'length');
  const stands = standing(base, { width: other.drawing.width });
  const { tree } = readIn(base.root, other, measurer);
  const { root, tokens } = new Merger(breakpoint, stands, lengths).merge(base.root, tree);
  return { ...base, root, ...(tokens.length > 0 && { tokens }) };
}

/** The tree with its sources called as in the structure: by the ids of the widest drawing. */
function calledByMatch(root: Part, match: ReadonlyMap<string, string>, drawing: Drawing): Part {
  const back = new Map([...match].map(([wide, id]) => [id, wide]));
  const rename = (part: Part): Part => ({
    ...part,
    source: part.source.map((id) => back.get(id) ?? foreignId(id, drawing)),
    children: part.children.map(rename),
  });
  return rename(root);
}
