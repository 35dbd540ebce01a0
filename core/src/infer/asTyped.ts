import type { Drawing } from '../drawing/index.js';
import { reflow, type Engine } from '../layout/index.js';
import {
  applyStep,
  standing,
  walk,
  type Edges,
  type Part,
  type RuleChange,
  type Size,
  type Step,
  type Structure,
} from '../model/index.js';
import { deviations, EXACT } from '../proof/index.js';
import { placesIn } from './copies.js';
import { near } from './node.js';

/** By how much numbers that a designer would have typed may put something off its place, px: no eye sees it. */
const OFF = 1;
/** Paddings at facing sides that differ by no more than this were meant to be the same, px: twice what may be off. */
const UNEVEN = 2 * OFF;
/** So many parts are laid out at most: with this many parts on a screen, every change is tried once. */
const MOST_WORK = 50_000;

type Change = readonly [part: Part, set: RuleChange, below?: number];

const LENGTHS = ['gap', 'crossGap', 'gapBefore', 'minWidth', 'maxWidth', 'minHeight', 'maxHeight'] as const;

type Rounding = (px: number) => number;

/** The rules whose numbers are not whole px, with whole ones; what is drawn by itself keeps its size. */
const wholeNumbers =
  (to: Rounding) =>
  (rules: RuleChange, part: Part): RuleChange => {
    const set: { -readonly [K in keyof RuleChange]: RuleChange[K] } = {};
    for (const name of LENGTHS) {
      const px = rules[name];
      if (typeof px === 'number' && !Number.isInteger(px)) set[name] = to(px);
    }
    const sized = (size: Size | null | undefined): Size | undefined =>
      size?.kind === 'fixed' && !Number.isInteger(size.px) ? { ...size, px: to(size.px) } : undefined;
    const [width, height] = part.kind === 'container' ? [sized(rules.width), sized(rules.height)] : [];
    const { padding } = rules;
    return {
      ...set,
      ...(width && { width }),
      ...(height && { height }),
      ...(padding && !Object.values(padding).every(Number.isInteger) && { padding: each(padding, to) }),
    };
  };

/** A number that lies between two whole ones may become either. */
const ROUNDINGS: readonly Rounding[] = [Math.round, Math.floor, Math.ceil];

const each = ({ top, right, bottom, left }: Edges, f: (px: number) => number): Edges => ({
  top: f(top),
  right: f(right),
  bottom: f(bottom),
  left: f(left),
});

/** Paddings that are almost the same at facing sides made the same. */
const evenPadding =
  (to: Rounding) =>
  ({ padding }: RuleChange): RuleChange => {
    if (!padding) return {};
    const even = (a: number, b: number): [number, number] => {
      const middle = to((a + b) / 2);
      return a !== b && near(a, b, UNEVEN) ? [middle, middle] : [a, b];
    };
    const [top, bottom] = even(padding.top, padding.bottom);
    const [left, right] = even(padding.left, padding.right);
    const evened = { top, right, bottom, left };
    return JSON.stringify(evened) === JSON.stringify(padding) ? {} : { padding: evened };
  };

/** What a tidier rule would be, for every part and every range in which it says something of its own. */
function changesOf(root: Part, tidier: (rules: RuleChange, part: Part) => RuleChange): Change[] {
  return [...walk(root)].flatMap((part) =>
    [{ rules: part.rules, width: undefined }, ...(part.below ?? [])].flatMap(({ rules, width }): Change[] => {
      const tidy = tidier(rules, part);
      return Object.keys(tidy).length > 0 ? [width === undefined ? [part, tidy] : [part, tidy, width]] : [];
    }),
  );
}

const stepOf = (changes: readonly Change[]): Step => ({
  kind: 'several',
  steps: changes.map(([{ id }, set, below]) => ({
    kind: 'setRules',
    parts: [{ id, set }],
    ...(below !== undefined && { below }),
  })),
});

/** Changes that are one: a designer types a number once for all copies of a pattern. */
function together(changes: readonly Change[], root: Part): Change[][] {
  const places = placesIn(root);
  const groups = new Map<string, Change[]>();
  for (const change of changes) {
    const [{ id }, set, below] = change;
    const key = JSON.stringify([places.get(id), set, below]);
    groups.set(key, [...(groups.get(key) ?? []), change]);
  }
  return [...groups.values()];
}

/**
 * The structure with the numbers that a designer would have typed: whole px, and the same at facing sides, wherever every item
 * of the drawings still stands within {@link OFF} px of its place, or no further from it than before, and every screen is as high.
 */
export function asTyped(structure: Structure, drawings: readonly Drawing[], engine: Engine): Structure {
  const off = (of: Structure) =>
    drawings.map((d) => new Map(deviations(of, d, engine).map((v) => [v.item, v.by])));
  const heights = (of: Structure) =>
    drawings.map(({ width, height }) => reflow(standing(of, { width }), width, engine, height).height);
  const before = off(structure);
  const high = heights(structure);
  let left = MOST_WORK / Math.max(1, [...walk(structure.root)].length * drawings.length);
  let typed = structure;
  let close = EXACT;
  const isClose = (of: Structure): boolean => {
    left--;
    return (
      off(of).every((items, i) =>
        [...items].every(([id, by]) => by <= Math.max(close, before[i]?.get(id) ?? 0)),
      ) && heights(of).every((h, i) => near(h, high[i] ?? h, EXACT))
    );
  };
  /** Takes all changes at once where they may be, else each half of them by itself. */
  const take = (groups: readonly Change[][]): void => {
    if (groups.length === 0 || left <= 0) return;
    const next = applyStep(typed, stepOf(groups.flat()));
    if (next.ok && isClose(next.doc)) typed = next.doc;
    else if (groups.length > 1) {
      const half = groups.length >> 1;
      take(groups.slice(0, half));
      take(groups.slice(half));
    }
  };
  for (close of [EXACT, OFF])
    for (const tidier of [wholeNumbers, evenPadding])
      for (const to of ROUNDINGS) take(together(changesOf(typed.root, tidier(to)), typed.root));
  return typed;
}
