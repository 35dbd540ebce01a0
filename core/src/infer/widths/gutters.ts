import { reflow, type Engine } from '../../layout/index.js';
import {
  right,
  standing,
  updatePart,
  walk,
  withOverride,
  type Part,
  type Structure,
} from '../../model/index.js';
import priors from './phones.json' with { type: 'json' };

/** The frame of a common phone, px. */
const PHONE = 390;

/** Lets what spans the frame of a phone keep its content from the sides as phones' screens do, where it kept it further. */
export function withPhoneGutters(structure: Structure, frame: number, engine: Engine): Structure {
  const { below, most } = priors.gutters;
  const onPhone = standing(structure, { width: PHONE });
  const boxes = reflow(onPhone, PHONE, engine).parts;
  let { root } = structure;
  for (const part of walk(onPhone)) {
    const box = boxes.get(part.id);
    const { padding, pin } = part.rules;
    if (!box || !padding || pin || box.x > 1 || right(box) < PHONE - 1) continue;
    if (Math.max(padding.left, padding.right) <= most) continue;
    const sides = { left: Math.min(padding.left, most), right: Math.min(padding.right, most) };
    root = updatePart(root, part.id, (p: Part) =>
      withOverride(p, Math.min(below, frame), { padding: { ...padding, ...sides } }),
    );
  }
  return { ...structure, root };
}
