import type { Drawing } from '../drawing/index.js';
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
import { Merger } from './merge.js';
import { readDrawing, TOLERANCE, withGuesses, type ReadOptions } from './read.js';
import { Regrouper } from './regroup.js';
import { settle } from './repair.js';
import { simplify } from './simplify.js';
import { snapItems } from './snap.js';
import { turnWhereGuessed } from './turns.js';

/** Breakpoints are whole steps of this, px. */
const STEP = 20;
/** How far from the narrower drawing to the wider one, in ratio, the narrower one's rules hold by default. */
const NARROW_SERVES = 0.4;

const breakpointBetween = (narrow: number, wide: number): number =>
  Math.round((narrow * (wide / narrow) ** NARROW_SERVES) / STEP) * STEP;

/**
 * Reads drawings of one screen, whose items are called alike (see {@link alignDrawings}), into one structure: the
 * widest gives the grouping, and every narrower one the rules that hold instead from a breakpoint down. Throws a
 * RangeError for no drawing.
 */
export function readSeveral(
  drawings: readonly Drawing[],
  measurer: TextMeasurer,
  options: ReadOptions = {},
): Structure {
  const [wide, ...rest] = drawings.toSorted((a, b) => b.width - a.width);
  if (!wide) throw new RangeError('There is no drawing to read.');
  const engine = new Engine(measurer);
  const read = readDrawing(wide, measurer, options);
  const [next] = rest;
  if (!next) return read.structure;
  const { structure, asDrawn, guessed } = withGuesses(
    inOthersGrouping(read.asDrawn, wide, next, measurer),
    wide,
    engine,
  );
  let result: Structure = { ...structure, root: asDrawn };
  let before = wide.width;
  for (const narrow of rest) {
    const breakpoint = breakpointBetween(narrow.width, before);
    const both = merged(result, narrow, breakpoint, measurer);
    const simple = simplify(both, { breakpoint, widths: [wide.width, narrow.width] }, engine);
    result = turnWhereGuessed(simple, guessed, { breakpoint, width: narrow.width }, engine);
    before = narrow.width;
  }
  return result;
}

/** A drawing read in the grouping of a tree, as a tree of the same ids; and where that grouping does not hold. */
function readIn(
  grouping: Part,
  drawing: Drawing,
  measurer: TextMeasurer,
): { tree: Part; afresh: ReadonlySet<string> } {
  const regrouper = new Regrouper(snapItems(drawing.items), TOLERANCE);
  const frame = { x: 0, y: 0, width: drawing.width, height: drawing.height };
  const node = regrouper.root(grouping, frame);
  const builder = new Builder(TOLERANCE, measurer, `n${Math.round(drawing.width)}-`);
  const draft = builder.root(drawing, { ...node, of: grouping.id });
  return { tree: settle(draft, builder.targets, drawing, builder.engine), afresh: regrouper.afresh };
}

/**
 * The wide drawing's tree, but where a container's grouping does not hold in the other drawing and the other's holds in
 * both, that one.
 */
function inOthersGrouping(root: Part, wide: Drawing, other: Drawing, measurer: TextMeasurer): Part {
  const { tree, afresh } = readIn(root, other, measurer);
  if (afresh.size === 0) return root;
  let grouping = root;
  for (const id of afresh) {
    const found = findPart(tree, id);
    if (found) grouping = updatePart(grouping, id, (part) => ({ ...part, children: found.children }));
  }
  const again = readIn(grouping, wide, measurer);
  let result = root;
  for (const id of afresh) {
    const found = findPart(again.tree, id);
    const holds = found && ![...walk(found)].some((p) => again.afresh.has(p.id) || p.rules.flow === 'free');
    if (holds) result = updatePart(result, id, (part) => ({ ...found, name: part.name }));
  }
  return result;
}

/** The structure with the rules that a narrower drawing shows below a breakpoint. */
function merged(base: Structure, narrow: Drawing, breakpoint: number, measurer: TextMeasurer): Structure {
  const lengths = (base.tokens ?? []).filter((t): t is LengthToken => t.kind === 'length');
  const stands = standing(base, { width: narrow.width });
  const { tree } = readIn(base.root, narrow, measurer);
  const { root, tokens } = new Merger(breakpoint, stands, lengths).merge(base.root, tree);
  return { ...base, root, ...(tokens.length > 0 && { tokens }) };
}
