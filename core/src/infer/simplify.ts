import { standingBoxes, type Engine } from '../layout/index.js';
import {
  FILL,
  NO_PADDING,
  type Columns,
  findPart,
  overridesAt,
  unsound,
  updatePart,
  walk,
  withChange,
  withOverride,
  type Part,
  type Rect,
  type RuleChange,
  type RuleName,
  type Structure,
} from '../model/index.js';
import { distance } from '../proof/index.js';

/** By how much an item may stand elsewhere when a rule is left out, px. */
const SAME = 1.4;
/** More layouts than this are not worth the shorter description. */
const MOST_LAYOUTS = 4000;

/** Tells whether a changed structure can stand and still shows every item where it stood, at some of the drawn widths. */
export class Keeps {
  readonly #engine: Engine;
  readonly #stood = new Map<number, ReadonlyMap<string, Rect>>();
  layouts = 0;

  constructor(structure: Structure, widths: readonly number[], engine: Engine) {
    this.#engine = engine;
    for (const width of widths) this.#stood.set(width, this.#boxes(structure, width));
  }

  #boxes(structure: Structure, width: number): ReadonlyMap<string, Rect> {
    this.layouts++;
    return standingBoxes(structure, width, this.#engine);
  }

  at(structure: Structure, widths: readonly number[]): boolean {
    if (unsound(structure)) return false;
    return widths.every((width) => {
      const stood = this.#stood.get(width);
      const boxes = this.#boxes(structure, width);
      if (!stood || stood.size !== boxes.size) return false;
      for (const [id, box] of stood) {
        const now = boxes.get(id);
        if (!now || !(distance(now, box) <= SAME)) return false;
      }
      return true;
    });
  }
}

/** The part without some, or all, of what holds below a breakpoint. */
export const withoutBelow = (part: Part, width: number, rules?: readonly RuleName[]): Part =>
  withOverride(part, width, {}, rules ?? (Object.keys(overridesAt(part, width)) as RuleName[]));

/**
 * Says what two drawn widths share once: an override goes where the rule above it gives the same boxes at the narrower
 * width, and where one rule gives the boxes of both widths it stands for both.
 */
export function simplify(
  structure: Structure,
  {
    breakpoint,
    widths,
  }: { readonly breakpoint: number; readonly widths: readonly [wide: number, narrow: number] },
  engine: Engine,
): Structure {
  const keeps = new Keeps(structure, widths, engine);
  const narrow = [widths[1]];
  let now = structure;
  const attempt = (id: string, change: (part: Part) => Part, at: readonly number[]): boolean => {
    if (keeps.layouts > MOST_LAYOUTS) return false;
    const next = { ...now, root: updatePart(now.root, id, change) };
    if (!keeps.at(next, at)) return false;
    now = next;
    return true;
  };
  const bare = (part: Part): Part => withoutBelow({ ...part, children: part.children.map(bare) }, breakpoint);
  const differs = (part: Part): boolean =>
    Object.keys(overridesAt(part, breakpoint)).length > 0 || part.children.some(differs);
  const visit = (id: string): void => {
    const part = findPart(now.root, id);
    if (!part || !differs(part) || attempt(id, bare, narrow)) return;
    const names = Object.keys(overridesAt(part, breakpoint)) as RuleName[];
    if (names.length > 0 && !attempt(id, (p) => withoutBelow(p, breakpoint), narrow))
      // What one rule says may need another that goes later: those that stay are tried again.
      for (const name of [...names, ...names])
        attempt(id, (p) => withoutBelow(p, breakpoint, [name]), narrow);
    attempt(id, (p) => asWideAsBefore(p, breakpoint), narrow);
    part.children.forEach((c) => visit(c.id));
  };
  visit(now.root.id);
  for (const { id } of [...walk(now.root)])
    for (const name of Object.keys(overridesAt(findPart(now.root, id) as Part, breakpoint)) as RuleName[])
      for (const change of forBoth(findPart(now.root, id) as Part, name, breakpoint))
        if (attempt(id, change, widths)) break;
  return now;
}

/** A part whose sides are padded below a breakpoint as above it, whatever its top and foot are. */
function asWideAsBefore(part: Part, breakpoint: number): Part {
  const { padding } = overridesAt(part, breakpoint);
  const { left, right } = part.rules.padding ?? NO_PADDING;
  return padding ? withOverride(part, breakpoint, { padding: { ...padding, left, right } }) : part;
}

/** The least width of a repeating column, px; none for other columns. */
function leastColumn(columns: unknown): number {
  const { kind, min } = (columns ?? {}) as Partial<Extract<Columns, { kind: 'repeat' }>>;
  return kind === 'repeat' && min !== undefined ? min : NaN;
}

/** What is a wrap or a column in a narrow frame may be a wrap in both: in the column, nothing fits beside anything. */
function asWrap(part: Part, breakpoint: number): ((part: Part) => Part)[] {
  const { flow, gap } = overridesAt(part, breakpoint);
  const isOneLine = part.rules.flow === 'row' || part.rules.columns?.kind === 'repeat';
  if (flow === 'wrap' && isOneLine)
    return [
      (p) => ({
        ...withoutBelow(p, breakpoint, ['flow', 'columns']),
        rules: withChange(p.rules, { flow, columns: null }),
      }),
    ];
  if (part.rules.flow !== 'row' || flow !== 'column' || typeof part.rules.gap !== 'number') return [];
  const keepSize = part.children.every((c) => ['fit', 'fixed'].includes(c.rules.width?.kind ?? 'fit'));
  if (!keepSize) return [];
  const crossGap = typeof gap === 'number' ? gap : part.rules.gap;
  const wrap =
    (rules: RuleChange) =>
    (p: Part): Part => ({
      ...withoutBelow(p, breakpoint, ['flow', 'gap', 'align', 'justify']),
      rules: withChange(p.rules, { flow: 'wrap', ...(crossGap !== p.rules.gap && { crossGap }), ...rules }),
    });
  return [wrap({}), wrap({ justify: 'centre' })];
}

/** Ways to say one rule for both widths. */
function forBoth(part: Part, name: RuleName, breakpoint: number): ((part: Part) => Part)[] {
  const value = overridesAt(part, breakpoint)[name];
  const base = part.rules[name];
  if (name === 'flow') return asWrap(part, breakpoint);
  if (['hidden', 'order', 'cell'].includes(name)) return [];
  // Columns that keep beside each other in a narrow frame do so in all wider ones; the other way round it shows nothing.
  if (name === 'columns' && !(leastColumn(value) < leastColumn(base))) return [];
  const set =
    (rules: RuleChange) =>
    (p: Part): Part => ({
      ...withoutBelow(p, breakpoint, [name]),
      rules: withChange(p.rules, rules),
    });
  const ways = [set({ [name]: value })];
  if (name === 'width' && part.rules.width?.kind === 'fixed' && base)
    ways.push(set({ width: FILL, maxWidth: part.rules.width.px }));
  return ways;
}
