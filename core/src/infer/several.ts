import type { Drawing, Item } from '../drawing/index.js';
import { Engine } from '../layout/index.js';
import { standing, type LengthToken, type Part, type Structure } from '../model/index.js';
import type { TextMeasurer } from '../text/index.js';
import { Builder } from './build.js';
import { matchItems } from './match.js';
import { Merger } from './merge.js';
import { readDrawing, TOLERANCE, type ReadOptions } from './read.js';
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
  const read = readDrawing(wide, measurer, options);
  let structure = read.structure;
  let before = wide.width;
  for (const narrow of rest) {
    const match = matchItems(wide, narrow);
    const matched = new Set(match.values());
    const foreign = narrow.items.flatMap(({ id }) =>
      matched.has(id) ? [] : [[foreignId(id, narrow), id] as const],
    );
    ids.push(new Map([...match, ...foreign]));
    structure = withNarrower(structure, { ...read, drawing: narrow }, match, before, measurer);
    before = narrow.width;
  }
  return { structure, ids: drawings.map((d) => ids[sorted.indexOf(d)] ?? new Map()) };
}

function withNarrower(
  structure: Structure,
  { asDrawn, guessed, drawing }: { asDrawn: Part; guessed: Part; drawing: Drawing },
  match: ReadonlyMap<string, string>,
  wider: number,
  measurer: TextMeasurer,
): Structure {
  const engine = new Engine(measurer);
  const items = snapItems(drawing.items);
  const byId = new Map(items.map((i) => [i.id, i]));
  const matched = new Map(
    [...match].flatMap(([wideId, id]): [string, Item][] => {
      const item = byId.get(id);
      return item ? [[wideId, item]] : [];
    }),
  );
  const first = structure.root.below === undefined && structure.tokens === undefined;
  const base: Structure = first ? { ...structure, root: asDrawn } : structure;
  const frame = { x: 0, y: 0, width: drawing.width, height: drawing.height };
  const node = new Regrouper(items, matched, TOLERANCE).root(base.root, frame);
  const builder = new Builder(TOLERANCE, measurer, `n${Math.round(drawing.width)}-`);
  const draft = { ...builder.root(drawing, node), id: base.root.id };
  builder.targets.set(draft.id, frame);
  const settled = settle(draft, builder.targets, drawing, builder.engine);
  const breakpoint = breakpointBetween(drawing.width, wider);
  const lengths = (base.tokens ?? []).filter((t): t is LengthToken => t.kind === 'length');
  const stands = standing(base, { width: drawing.width });
  const merged = new Merger(breakpoint, stands, lengths).merge(base.root, calledByMatch(settled, match, drawing));
  const both: Structure = {
    ...base,
    root: merged.root,
    ...(merged.tokens.length > 0 && { tokens: merged.tokens }),
  };
  const simple = simplify(both, { breakpoint, widths: [structure.drawn.width, drawing.width] }, engine);
  return turnWhereGuessed(simple, guessed, { breakpoint, width: drawing.width }, engine);
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
