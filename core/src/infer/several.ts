import type { Drawing } from '../drawing/index.js';
import { Engine, standingBoxes } from '../layout/index.js';
import {
  bottom,
  findPart,
  LAYING_RULES,
  pathTo,
  standing,
  updatePart,
  walk,
  type LengthToken,
  type Part,
  type Rules,
  type Structure,
} from '../model/index.js';
import type { TextMeasurer } from '../text/index.js';
import { deviations, standsAsBefore } from '../proof/index.js';
import { asTyped } from './asTyped.js';
import { Builder } from './build.js';
import { Merger } from './merge.js';
import { stackForPhones } from './narrow.js';
import { named } from './names/named.js';
import { near } from './node.js';
import { freeWidths } from './freeWidths.js';
import { readDrawing, snapOf, toleranceOf, withGuesses, type ReadOptions } from './read.js';
import { Regrouper } from './regroup.js';
import { fitWords } from './repair.js';
import { settle } from './settle/settle.js';
import { simplify } from './simplify.js';
import { snapItems } from './snap.js';
import { markTables } from './tables.js';
import { TABLET, turnWhereGuessed } from './turns.js';
import { judged } from './widths/judged.js';
import { withBarsOfPhones, withGuttersOfPhones } from './widths/phones.js';

/** Breakpoints are whole steps of this, px. */
const STEP = 20;
/** How far from the narrower drawing to the wider one, in ratio, the narrower one's rules hold by default. */
const NARROW_SERVES = 0.4;

/** What is drawn as wide as a tablet or wider is drawn for the frames below the next of these widths, px. */
const USUAL_BREAKPOINTS = [640, 960, 1160];

function breakpointBetween(narrow: number, wide: number): number {
  const next = USUAL_BREAKPOINTS.find((b) => b > narrow && b < wide);
  return narrow >= TABLET && next !== undefined
    ? next
    : Math.round((narrow * (wide / narrow) ** NARROW_SERVES) / STEP) * STEP;
}

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
  const read = readDrawing(wide, measurer, options, rest);
  const [next] = rest;
  const whole = (structure: Structure): Structure => {
    const free = asTyped(freeWidths(structure, drawings, engine), drawings, engine);
    const said = options.without?.has('judge')
      ? free
      : judged(free, drawings, engine, (done) => options.onProgress?.({ stage: 'judging', done }));
    return { ...named(said, engine), snap: snapOf(said, drawings, engine) };
  };
  if (!next) return whole(read.structure);
  const { tokens: _guessed, ...bare } = read.structure;
  const asDrawn = inOthersGrouping({ ...bare, root: read.asDrawn }, wide, next, measurer, options);
  const { guessed } =
    asDrawn === read.asDrawn
      ? read
      : withGuesses(asDrawn, wide, engine, { without: options.without, isOneOfSeveral: true });
  let result: Structure = { ...bare, root: asDrawn };
  let before = wide.width;
  for (const narrow of rest) {
    const breakpoint = breakpointBetween(narrow.width, before);
    const both = merged(result, narrow, breakpoint, measurer, options);
    const simple = simplify(both, { breakpoint, widths: [wide.width, narrow.width] }, engine);
    result = turnWhereGuessed(simple, guessed, { breakpoint, width: narrow.width }, engine);
    before = narrow.width;
  }
  if (!options.without?.has('narrow frames')) result = guessedBelow(result, drawings, engine, options);
  return whole(result);
}

/** A structure with what most screens do in frames that are narrower than the narrowest drawing. */
function guessedBelow(
  structure: Structure,
  drawings: readonly Drawing[],
  engine: Engine,
  { without }: ReadOptions,
): Structure {
  const narrowest = drawings.reduce((a, b) => (b.width < a.width ? b : a));
  const { width } = narrowest;
  if (width < TABLET) return structure;
  if (without?.has('phones')) return stackForPhones(structure, width, engine);
  const barred = withBarsOfPhones(structure, narrowest, engine);
  return withGuttersOfPhones(stackForPhones(barred, width, engine), narrowest, engine);
}

/** A drawing read in the grouping of a tree, as a tree of the same ids; and where that grouping does not hold. */
function readIn(
  grouping: Part,
  drawing: Drawing,
  measurer: TextMeasurer,
  options: ReadOptions,
  own?: ReadonlySet<string>,
): { tree: Part; afresh: ReadonlySet<string> } {
  const tolerance = toleranceOf(options);
  const regrouper = new Regrouper(snapItems(drawing.items), tolerance, own);
  const frame = { x: 0, y: 0, width: drawing.width, height: drawing.height };
  const node = markTables(regrouper.root(grouping, frame));
  const taken = new Set([...walk(grouping)].map((p) => p.id));
  const builder = new Builder(tolerance, measurer, `n${Math.round(drawing.width)}-`, taken);
  const draft = builder.root(drawing, { ...node, of: grouping.id });
  const settled = settle(draft, builder.targets, drawing, builder.engine);
  return { tree: fitWords(settled, drawing, builder.engine), afresh: regrouper.afresh };
}

/**
 * The wide drawing's tree, but where a container's grouping does not hold in the other drawing and the other's holds in
 * both, that one; the wide drawing stands in it as before.
 */
function inOthersGrouping(
  structure: Structure,
  wide: Drawing,
  other: Drawing,
  measurer: TextMeasurer,
  options: ReadOptions,
): Part {
  const { root } = structure;
  const asGrouped = readIn(root, other, measurer, options);
  const flowing = new Set([...walk(root)].filter((p) => !p.rules.pin).map((p) => p.id));
  const hanging = new Set([...asGrouped.afresh, ...hangingIn(asGrouped.tree, flowing)]);
  const { tree, afresh } =
    hanging.size > asGrouped.afresh.size ? readIn(root, other, measurer, options, hanging) : asGrouped;
  if (afresh.size === 0) return root;
  let grouping = root;
  for (const id of afresh) {
    const found = findPart(tree, id);
    if (!found) continue;
    const items = new Set([...walk(found)].flatMap((p) => p.source));
    const isThere = (part: Part): boolean => [...walk(part)].some((p) => p.source.some((i) => items.has(i)));
    // What the other drawing does not show stays beside what it groups.
    grouping = updatePart(grouping, id, (part) => ({
      ...part,
      children: [...found.children, ...part.children.filter((c) => !isThere(c))],
    }));
  }
  const again = readIn(grouping, wide, measurer, options);
  const engine = new Engine(measurer);
  let result = root;
  for (const id of afresh) {
    const found = findPart(again.tree, id);
    if (!found || [...walk(found)].some((p) => again.afresh.has(p.id) || p.rules.flow === 'free')) continue;
    if (hangingIn(found, flowing).length > 0) continue;
    // As it stood among its own, or as it stands in the other grouping.
    const tries = [(part: Part): Rules => ({ ...found.rules, ...seatOf(part.rules) }), () => found.rules];
    const stands = (root: Part) =>
      standsAsBefore({ ...structure, root: result }, { ...structure, root }, engine, [wide.width]);
    const tried = tries
      .map((rules) => updatePart(result, id, (part) => ({ ...found, name: part.name, rules: rules(part) })))
      .find(stands);
    if (tried) result = tried;
  }
  return result;
}

/** How a part sits in what holds it, and its padding. */
const seatOf = (rules: Rules): Rules =>
  Object.fromEntries(
    Object.entries(rules).filter(([name]) => !(LAYING_RULES as readonly string[]).includes(name)),
  );

/** The containers of a tree in which something hangs that is `flowing` elsewhere, by their ids. */
const hangingIn = (tree: Part, flowing: ReadonlySet<string>): string[] =>
  [...walk(tree)]
    .filter((part) => part.children.some((c) => c.rules.pin && flowing.has(c.id)))
    .map((part) => part.id);

/** An item that stands this far from its place in a narrower drawing is in the wrong grouping there, px. */
const ASTRAY = 8;
/** How often the grouping is given up somewhere before what is left is reported. */
const ROUNDS = 6;

/**
 * The structure with the rules that a narrower drawing shows below a breakpoint. Where its grouping leaves items astray
 * there, the container around them is shown in another make-up.
 */
function merged(
  base: Structure,
  narrow: Drawing,
  breakpoint: number,
  measurer: TextMeasurer,
  options: ReadOptions,
): Structure {
  const lengths = (base.tokens ?? []).filter((t): t is LengthToken => t.kind === 'length');
  const stands = standing(base, { width: narrow.width });
  const engine = new Engine(measurer);
  const own = new Set<string>();
  for (let round = 0; ; round++) {
    const { tree } = readIn(base.root, narrow, measurer, options, own);
    const { root, tokens } = new Merger(breakpoint, stands, lengths).merge(base.root, tree);
    const result = { ...base, root, ...(tokens.length > 0 && { tokens }) };
    const around = new Set(
      astrayFirst(result, narrow, engine).flatMap((id) => containerOf(base.root, id, own) ?? []),
    );
    if (round === ROUNDS || around.size === 0) return result;
    for (const id of around) own.add(id);
  }
}

/** What stands off its place in a drawing and not only because something above it does, by the ids of the items. */
function astrayFirst(structure: Structure, drawing: Drawing, engine: Engine): string[] {
  const astray = new Map(deviations(structure, drawing, engine).map((d) => [d.item, d.by]));
  const placed = standingBoxes(structure, drawing.width, engine);
  const shifts: [x: number, y: number][] = [];
  return drawing.items
    .toSorted((a, b) => a.box.y - b.box.y || a.box.x - b.box.x)
    .filter((item) => (astray.get(item.id) ?? 0) > ASTRAY)
    .flatMap(({ id, box }) => {
      const now = placed.get(id);
      if (!now) return [id];
      const shift = [now.x - box.x, bottom(now) - bottom(box)] as const;
      if (shifts.some((s) => near(s[0], shift[0], ASTRAY) && near(s[1], shift[1], ASTRAY))) return [];
      shifts.push([...shift]);
      return [id];
    });
}

/** The innermost container around an item that still has the wide drawing's grouping, by its id. */
function containerOf(root: Part, item: string, own: ReadonlySet<string>): string | undefined {
  const leaf = [...walk(root)].find((p) => p.source.includes(item));
  const path = leaf ? pathTo(root, leaf.id) : [root];
  const first = path.findIndex((p) => own.has(p.id));
  return path.slice(0, first < 0 ? undefined : first).findLast((p) => p.kind === 'container')?.id;
}
