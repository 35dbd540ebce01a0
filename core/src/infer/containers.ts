import { reflow, type Engine } from '../layout/index.js';
import { ruleOf, updatePart, walk, withOverride, type Part } from '../model/index.js';

/**
 * The widths of the content column of twelve columns that the web's common grids step through: from the first frame
 * width down to the next it is so wide, px. In frames narrower than the last it fills them.
 */
const STEPS = [
  { below: 1200, width: 960 },
  { below: 992, width: 720 },
  { below: 768, width: 540 },
] as const;
const FILLS_BELOW = 576;
/** The widest steps, and the gutters between the columns, of which half is at either side, px. */
const WIDEST = [1140, 1200, 1320];
const GUTTERS = [24, 30];
/** How exactly a column has to have such a width, px. */
const EXACT = 0.6;

/** The gutter of a content column that is as wide as one that steps; undefined for other columns. */
export function steppedGutter(maxWidth: Part['rules']['maxWidth']): number | undefined {
  if (typeof maxWidth !== 'number') return undefined;
  return GUTTERS.find((g) => WIDEST.some((w) => Math.abs(w - g - maxWidth) <= EXACT));
}

/** The frame widths, from wide to narrow, at which columns on such a grid give way to fewer, px. */
export const GRID_BREAKPOINTS = { columns: 992, few: FILLS_BELOW } as const;

/** The ids of the parts in content columns that step, and of these. */
export function partsOnSteps(root: Part): ReadonlySet<string> {
  const found = [...walk(root)].filter((p) => steppedGutter(p.rules.maxWidth) !== undefined);
  return new Set(found.flatMap((p) => [...walk(p)].map((q) => q.id)));
}

/** Lets content columns that are as wide as those of the web's common grids step down as these do. */
export function stepContainers(root: Part, drawnWidth: number, engine: Engine): Part {
  const boxes = reflow(root, drawnWidth, engine).parts;
  let result = root;
  for (const parent of walk(root)) {
    const limited = parent.children.filter((c) => steppedGutter(c.rules.maxWidth) !== undefined);
    const [first] = limited;
    const gutter = steppedGutter(first?.rules.maxWidth);
    const box = boxes.get(parent.id);
    if (!first || gutter === undefined || !box || ruleOf(parent.rules, 'flow') !== 'column') continue;
    if (box.width < drawnWidth - 2) continue;
    const padding = parent.rules.padding;
    const stepped = (part: Part): Part => {
      const steps = STEPS.filter((s) => s.below <= drawnWidth);
      const narrower = steps.reduce((p, s) => withOverride(p, s.below, { maxWidth: s.width - gutter }), part);
      return withOverride(narrower, FILLS_BELOW, { maxWidth: null });
    };
    result = updatePart(result, parent.id, (part) => {
      const children = part.children.map((c) => (limited.some((l) => l.id === c.id) ? stepped(c) : c));
      const sides = { left: gutter / 2, right: gutter / 2 };
      return withOverride(
        { ...part, children },
        Math.min(1200, drawnWidth),
        padding ? { padding: { ...padding, ...sides } } : {},
      );
    });
  }
  return result;
}
