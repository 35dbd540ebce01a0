import { containmentOf, type Drawing } from '../drawing/index.js';
import type { Engine } from '../layout/index.js';
import type { Part, Structure } from '../model/index.js';
import { deviations, EXACT } from '../proof/index.js';
import type { TextMeasurer } from '../text/index.js';
import { Builder } from './build.js';
import { contentColumn } from './contentColumn.js';
import { OtherDrawing } from './elsewhere.js';
import { iconBoxes } from './icons.js';
import { readLineHeights } from './lineHeights.js';
import type { Node, Principle, Tolerance } from './node.js';
import { DRAWN_WIDE, stackNarrow } from './narrow.js';
import { markPatterns } from './patterns.js';
import { fitWords, flattenRest } from './repair.js';
import { settle } from './settle/settle.js';
import { pushFeetDown } from './spacers.js';
import { stepDown } from './steps.js';
import { snapItems } from './snap.js';
import { markTables } from './tables.js';
import { withBarsOfPhones, withGuttersOfPhones } from './widths/phones.js';
import { TreeBuilder } from './tree.js';

/** How far reading has come; `done` runs from 0 to 1. */
export interface Progress {
  readonly stage: 'containing' | 'grouping' | 'sizing' | 'checking' | 'judging';
  readonly done: number;
}

export interface ReadOptions {
  /** Called between stages; throwing from it cancels the reading. */
  readonly onProgress?: (progress: Progress) => void;
  /** What the reader is not to go by, so that its share in the result can be measured. */
  readonly without?: ReadonlySet<Principle>;
}

/** What counts as equal; drawings off their grid are snapped to it first. */
const SAME = 1.1;

/** What a reading goes by, beside `others` of the same screen. */
export const toleranceOf = ({ without }: ReadOptions, others: readonly Drawing[] = []): Tolerance => ({
  same: SAME,
  ...(others.length > 0 && { elsewhere: others.map((drawing) => new OtherDrawing(drawing)) }),
  ...(without && { without }),
});

/**
 * Reads a drawing into the structure that it most likely stands for. Deterministic: the same drawing gives the same
 * structure. At the drawn width every item stands within {@link EXACT} px of where it was drawn, or within the
 * structure's `snap`.
 */
export const readStructure = (
  drawing: Drawing,
  measurer: TextMeasurer,
  options: ReadOptions = {},
): Structure => readDrawing(drawing, measurer, options).structure;

/** A structure, and its tree without and with what is guessed for narrower frames. */
export interface Read {
  readonly structure: Structure;
  readonly asDrawn: Part;
  readonly guessed: Part;
}

/** Reads a drawing as {@link readStructure} does, alone or as the widest beside `others` of the same screen. */
export function readDrawing(
  drawn: Drawing,
  measurer: TextMeasurer,
  options: ReadOptions,
  others: readonly Drawing[] = [],
): Read {
  const [drawing = drawn] = readLineHeights([drawn]);
  const tell = (stage: Progress['stage'], done: number) => options.onProgress?.({ stage, done });
  tell('containing', 0);
  const { held } = containmentOf(snapItems(drawing.items));
  tell('grouping', 0.25);
  const frame = { x: 0, y: 0, width: drawing.width, height: drawing.height };
  const tolerance = toleranceOf(options, others);
  const content = new TreeBuilder(tolerance, iconBoxes(drawing.items), contentColumn(drawing)).content(
    held,
    frame,
    false,
  );
  tell('sizing', 0.5);
  const node: Node = {
    box: frame,
    core: frame,
    children: content.children,
    pins: content.pins,
    signature: '',
    order: -1,
    ...(content.flow && { flow: content.flow }),
  };
  const builder = new Builder(tolerance, measurer);
  const draft = builder.root(drawing, markTables(node));
  tell('checking', 0.75);
  return completed(draft, builder, drawing, tell, others.length > 0);
}

/** The parts of a drawing, made to stand where it was drawn, with what is guessed for narrower frames. */
function completed(
  draft: Part,
  builder: Builder,
  drawing: Drawing,
  tell: (stage: Progress['stage'], done: number) => void,
  isOneOfSeveral: boolean,
): Read {
  const settled = settle(draft, builder.targets, drawing, builder.engine);
  const { without } = builder.tolerance;
  const placed = flattenRest(fitWords(settled, drawing, builder.engine), drawing, builder.engine);
  const marked = without?.has('patterns') ? placed : markPatterns(placed);
  const asDrawn = pushFeetDown(marked, drawing.width, builder.engine);
  tell('checking', 1);
  return withGuesses(asDrawn, drawing, builder.engine, { without, isOneOfSeveral });
}

/** What is guessed: `isOneOfSeveral` where a narrower drawing tells what bars, panes and gutters do there. */
interface GuessOptions {
  readonly without: ReadOptions['without'];
  readonly isOneOfSeveral?: boolean;
}

/** A tree as it was drawn with what is guessed for narrower frames, as a structure. */
export function withGuesses(
  asDrawn: Part,
  drawing: Drawing,
  engine: Engine,
  { without, isOneOfSeveral = false }: GuessOptions,
): Read {
  const bare: Structure = {
    version: 1,
    name: drawing.name,
    drawn: { width: drawing.width, height: drawing.height },
    snap: 0,
    root: asDrawn,
  };
  const isToldOtherwise = isOneOfSeveral || without?.has('phones') === true;
  const told = without?.has('narrow frames') ? bare : guessedBelow(bare, drawing, engine, isToldOtherwise);
  return {
    structure: { ...told, snap: snapOf(told, [drawing], engine) },
    asDrawn,
    guessed: told.root,
  };
}

/** A structure with what most screens do in frames that are narrower than the one drawn; on phones, unless `isToldOtherwise`. */
function guessedBelow(
  structure: Structure,
  drawing: Drawing,
  engine: Engine,
  isToldOtherwise: boolean,
): Structure {
  const barred = isToldOtherwise ? structure : withBarsOfPhones(structure, drawing, engine);
  const narrow = stackNarrow(barred.root, drawing.width, engine, !isToldOtherwise);
  const { root, tokens } =
    narrow === structure.root || drawing.width < DRAWN_WIDE ? { root: narrow, tokens: [] } : stepDown(narrow);
  const stepped: Structure = { ...structure, ...(tokens.length > 0 && { tokens }), root };
  return isToldOtherwise ? stepped : withGuttersOfPhones(stepped, drawing, engine);
}

/** By how much an item stands off its place in any of the drawings, px, up to the next hundredth; 0 within {@link EXACT}. */
export function snapOf(structure: Structure, drawings: readonly Drawing[], engine: Engine): number {
  const off = drawings
    .flatMap((d) => deviations(structure, d, engine))
    .reduce((max, d) => Math.max(max, d.by), 0);
  return off > EXACT && off < Infinity ? Math.ceil(off * 100) / 100 : 0;
}
