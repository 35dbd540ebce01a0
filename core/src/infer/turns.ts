import type { Engine } from '../layout/index.js';
import {
  findPart,
  overridesAt,
  unsound,
  updatePart,
  type Override,
  walk,
  withOverride,
  type Part,
  type RuleName,
  type Structure,
} from '../model/index.js';
import { Keeps, withoutBelow } from './simplify.js';

/** The rules that turn a container: what they say decides where its breakpoint lies. */
const TURNS: readonly RuleName[] = ['flow', 'columns', 'hidden'];

/** Breakpoints that differ by less than this share were meant to be one. */
const ONE_BREAKPOINT = 0.16;
/** What turns in wider frames than this, px, turns by itself. */
const LAST_TURN = 1000;
/** What a tablet’s drawing does not do yet is guessed for frames narrower than it by this share. */
const NARROWER = 0.85;
/** A drawing as wide as a tablet tells its breakpoint better than any guess nearby, px. */
export const TABLET = 560;

const isNear = (a: number, b: number): boolean => Math.abs(a - b) < Math.max(a, b) * ONE_BREAKPOINT;

/** What steps with the frame without turning anything. */
const MEASURES: ReadonlySet<string> = new Set(['maxWidth', 'padding']);

/** Whether anything that a container and its children are told changes more than its measures. */
const turnsAt = (told: ReadonlyMap<string, readonly Override[]>): boolean =>
  [...told.values()].flat().some((o) => Object.keys(o.rules).some((name) => !MEASURES.has(name)));

/** A part with its children, changed together: what a turn says of a container it says of them, too. */
function withChildren(root: Part, id: string, change: (part: Part) => Part): Part {
  return updatePart(root, id, (part) => change({ ...part, children: part.children.map(change) }));
}

/**
 * Where the wide drawing alone told at which width a container is to turn, and the narrower drawing shows that it does
 * turn so, it turns at that width. `guessed` is the tree of the wide drawing with such turns.
 */
export function turnWhereGuessed(
  structure: Structure,
  guessed: Part,
  { breakpoint, width }: { readonly breakpoint: number; readonly width: number },
  engine: Engine,
): Structure {
  const keeps = new Keeps(structure, [width], engine);
  let now = structure;
  const turns: number[] = [];
  // What is shown in place of other things comes where those go.
  const replaced = new Set(
    [...walk(now.root)]
      .filter((p) => p.children.some((c) => overridesAt(c, breakpoint).hidden === null))
      .flatMap((p) => p.children.map((c) => c.id)),
  );
  for (const guess of walk(guessed)) {
    const part = replaced.has(guess.id) ? undefined : findPart(now.root, guess.id);
    if (!part) continue;
    if (!guess.below) continue;
    const told = new Map([guess, ...guess.children].map((p) => [p.id, p.below ?? []]));
    const widths = [...new Set([...told.values()].flat().map((o) => o.width))].sort((a, b) => b - a);
    // Of several steps down the narrower ones may be too many.
    const taken = widths.toReversed().some((least) => {
      const steps = (p: Part, from: Part): Part =>
        (told.get(p.id) ?? [])
          .filter((o) => o.width >= least)
          .reduce((q, o) => withOverride(q, o.width, o.rules), from);
      const ways: ((p: Part) => Part)[] = [
        (p) => steps(p, withoutBelow(p, breakpoint)),
        // What the narrower drawing shows besides stays.
        (p) => ((told.get(p.id) ?? []).length > 0 ? steps(p, withoutBelow(p, breakpoint)) : p),
        ...(turnsAt(told) ? [] : [(p: Part) => steps(p, p)]),
      ];
      const whole = ways
        .map((way) => ({ ...now, root: withChildren(now.root, guess.id, way) }))
        .find((w) => keeps.at(w, [width]));
      if (!whole) return false;
      now = whole;
      if (turnsAt(told)) turns.push(least);
      return true;
    });
    if (taken) continue;
    const own = overridesAt(part, breakpoint);
    const turned = guess.below.findLast((o) =>
      TURNS.some(
        (name) => own[name] !== undefined && JSON.stringify(own[name]) === JSON.stringify(o.rules[name]),
      ),
    );
    const last = turned?.width ?? 0;
    if (last <= width) {
      const below = Math.round((width * NARROWER) / 20) * 20;
      const later = (p: Part): Part =>
        (told.get(p.id) ?? []).reduce((q, o) => withOverride(q, Math.min(o.width, below), o.rules), p);
      const next = { ...now, root: withChildren(now.root, guess.id, later) };
      if (width >= TABLET && turnsAt(told) && !unsound(next)) now = next;
      continue;
    }
    const atGuess = (p: Part): Part =>
      withOverride(withoutBelow(p, breakpoint), last, overridesAt(p, breakpoint));
    const next = { ...now, root: withChildren(now.root, guess.id, atGuess) };
    if (!keeps.at(next, [width])) continue;
    now = next;
    turns.push(last);
  }
  // What else changes changes with the container that turns first: one breakpoint says more than two.
  const first = Math.max(breakpoint, ...turns.filter((t) => t <= LAST_TURN));
  const told = isNear(first, breakpoint) && width >= TABLET ? breakpoint : first;
  // A rail that goes a little earlier takes the rest with it.
  const main = Math.max(told, ...turns.filter((t) => t > LAST_TURN && isNear(t, told)));
  for (const turn of new Set([breakpoint, ...turns])) {
    if (turn === main || (turn !== breakpoint && !isNear(turn, main))) continue;
    const together = moved(now, turn, main);
    if (keeps.at(together, [width])) now = together;
  }
  return now;
}

/** The structure with all that holds below one breakpoint holding below another. */
function moved(structure: Structure, from: number, to: number): Structure {
  const part = (p: Part): Part => ({
    ...withOverride(withoutBelow(p, from), to, { ...overridesAt(p, from), ...overridesAt(p, to) }),
    children: p.children.map(part),
  });
  return {
    ...structure,
    root: part(structure.root),
    ...(structure.tokens && {
      tokens: structure.tokens.map((t) =>
        t.kind === 'length' && t.below
          ? { ...t, below: t.below.map((s) => (s.width === from ? { ...s, width: to } : s)) }
          : t,
      ),
    }),
  };
}
