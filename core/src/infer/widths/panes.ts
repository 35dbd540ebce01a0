import { inFlow } from '../../layout/index.js';
import { FILL, right, ruleOf, updatePart, walk, withOverride, type Part } from '../../model/index.js';
import type { Boxes } from '../standingPart.js';
import priors from './phones.json' with { type: 'json' };

/** A pane takes all but a hair of the frame's height. */
const PANE = 0.95;

/** The picture that is all of one side of a row of the whole screen; undefined for other rows. */
export function picturePane(
  row: Part,
  boxes: Boxes,
  frame: { width: number; height: number },
): Part | undefined {
  const own = boxes.get(row.id);
  if (row.kind !== 'container' || ruleOf(row.rules, 'flow') !== 'row' || !own || own.width < frame.width - 1)
    return undefined;
  return inFlow(row).find((child) => {
    const box = boxes.get(child.id);
    const isAtSide = box && (box.x <= 1 || right(box) >= frame.width - 1);
    return isAtSide && child.kind === 'picture' && box.height >= frame.height * PANE;
  });
}

/**
 * A picture that fills one side of the screen makes room for what stands beside it, as most that were counted do. `shown` is the
 * tree as it stands in the drawing.
 */
export function withoutPicturePane(
  root: Part,
  shown: Part,
  boxes: Boxes,
  frame: { width: number; height: number },
): Part {
  for (const row of walk(shown)) {
    const picture = picturePane(row, boxes, frame);
    if (!picture) continue;
    const below = Math.min(priors.panes.goneBelow, frame.width);
    const gutter = priors.gutters.most;
    return updatePart(root, row.id, (part) => {
      const { padding } = part.rules;
      const children = part.children.map((c) =>
        c.id === picture.id
          ? withOverride(c, below, { hidden: true })
          : c.rules.pin
            ? c
            : withOverride(c, below, { width: FILL, gapBefore: null }),
      );
      const sides = padding && {
        padding: {
          ...padding,
          left: Math.min(padding.left, gutter),
          right: padding.left > 0 || padding.right > 0 ? gutter : 0,
        },
      };
      return withOverride({ ...part, children }, below, { ...sides, minHeight: frame.height });
    });
  }
  return root;
}
