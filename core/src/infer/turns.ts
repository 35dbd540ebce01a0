import type { Engine } from '../layout/index.js';
import { findPart, updatePart, walk, type Part, type RuleName, type Structure } from '../model/index.js';
import { withBelow } from './merge.js';
import { Keeps, overridesAt, withoutBelow } from './simplify.js';

/** The rules that turn a container: what they say decides where its breakpoint lies. */
const TURNS: readonly RuleName[] = ['flow', 'columns', 'hidden'];

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
  for (const guess of walk(guessed)) {
    if (!guess.below) continue;
    const part = findPart(now.root, guess.id);
    if (!part) continue;
    const told = new Map([guess, ...guess.children].map((p) => [p.id, p.below ?? []]));
    const asGuessed = (p: Part): Part =>
      (told.get(p.id) ?? []).reduce(
        (q, o) => withBelow(q, o.width, o.rules),
        withoutBelow(p, breakpoint),
      );
    const whole = { ...now, root: withChildren(now.root, guess.id, asGuessed) };
    if (keeps.at(whole, [width])) {
      now = whole;
      continue;
    }
    const last = guess.below.at(-1);
    const own = overridesAt(part, breakpoint);
    const same = TURNS.some(
      (name) => own[name] !== undefined && JSON.stringify(own[name]) === JSON.stringify(last?.rules[name]),
    );
    if (!same || !last || last.width <= width) continue;
    const moved = (p: Part): Part =>
      withBelow(withoutBelow(p, breakpoint), last.width, overridesAt(p, breakpoint));
    const next = { ...now, root: withChildren(now.root, guess.id, moved) };
    if (keeps.at(next, [width])) now = next;
  }
  return now;
}
