import type { Drawing } from '../drawing/index.js';
import { inFlow, reflow, type Engine } from '../layout/index.js';
import {
  applyStep,
  FILL,
  round,
  ruleOf,
  standing,
  walk,
  type Part,
  type Rect,
  type RuleChange,
  type Step,
  type Structure,
} from '../model/index.js';
import { standsAsBefore } from '../proof/index.js';

/** What is no larger is an icon, which keeps its size, px. */
const ICON = 48;
/** Widths that differ by less are one, px: drawings are off their grid by half a px on each side. */
const SAME = 1.1;

/** No more changes are tried: each lays the whole screen out. */
const MOST = 40;

type Change = readonly [part: Part, set: RuleChange];

const fixedPx = (part: Part): number => (part.rules.width?.kind === 'fixed' ? part.rules.width.px : NaN);

/** A part that is as wide as its content and a padding wider than that fills its place instead. */
function withoutRoom(part: Part, { width }: Rect): readonly Change[] {
  const { padding } = part.rules;
  const size = part.rules.width?.kind ?? 'fit';
  if (part.kind !== 'container' || size !== 'fit' || !padding || padding.right < width / 2) return [];
  return [[part, { width: FILL, padding: { ...padding, right: padding.left } }]];
}

/** What fills its place instead of having a width of its own: a picture keeps its shape. */
function filling(part: Part, box: Rect | undefined): RuleChange {
  const isCut = part.kind === 'picture' && part.rules.height?.kind === 'fixed' && box !== undefined;
  return {
    width: FILL,
    ...(isCut && { height: { kind: 'ratio', width: round(box.width, 2), height: round(box.height, 2) } }),
  };
}

/** Parts of a row that have one width of their own share it instead. */
function withShares(part: Part, boxes: ReadonlyMap<string, Rect>): readonly Change[] {
  if (ruleOf(part.rules, 'flow') !== 'row') return [];
  const kids = inFlow(part);
  const widths = kids.map(fixedPx);
  const [first = NaN] = widths;
  const alike = widths.every((w) => Math.abs(w - first) < SAME);
  if (kids.length < 3 || !alike || first <= ICON) return [];
  return kids.map((c): Change => [c, filling(c, boxes.get(c.id))]);
}

const setting = (changes: readonly Change[]): Step => ({
  kind: 'setRules',
  parts: changes.map(([part, set]) => ({ id: part.id, set })),
});

/**
 * A structure that says less and stands in its drawings where it stood: numbers that only repeat what was drawn are left out,
 * for they would hold at every other width as well.
 */
export function freeWidths(structure: Structure, drawings: readonly Drawing[], engine: Engine): Structure {
  const widths = drawings.map((d) => d.width);
  let best = structure;
  let tried = 0;
  const take = (changes: readonly Change[]): void => {
    if (changes.length === 0 || tried++ >= MOST) return;
    const result = applyStep(best, setting(changes));
    if (result.ok && standsAsBefore(best, result.doc, engine, widths)) best = result.doc;
  };
  const { width, height } = structure.drawn;
  const boxes = reflow(standing(structure, { width }), width, engine, height).parts;
  for (const part of walk(structure.root)) {
    const box = boxes.get(part.id);
    if (!box) continue;
    take(withoutRoom(part, box));
    take(withShares(part, boxes));
  }
  return best;
}
