import { inFlow, type Engine } from '../layout/index.js';
import { isHorizontal, ruleOf, type Part, type Rect } from '../model/index.js';

type Boxes = ReadonlyMap<string, Rect>;

/** A bar of links stands at the top, no higher than this and over at least this share of the frame, px. */
const BAR = { top: 64, height: 110, width: 0.6 };
/** Fewer links stay. */
const LEAST_LINKS = 3;
/** The least space between the parts of a bar, and at its ends, px. */
const SPACE = 12;

const isLink = (part: Part): boolean =>
  part.kind === 'text' ||
  (part.kind === 'container' &&
    !part.paint?.fill &&
    part.children.length <= 2 &&
    part.children.some((c) => c.kind === 'text'));

function isLinks(part: Part): boolean {
  const links = inFlow(part);
  return (
    part.kind === 'container' &&
    !part.paint?.fill &&
    isHorizontal(ruleOf(part.rules, 'flow')) &&
    links.length >= LEAST_LINKS &&
    links.every(isLink)
  );
}

/** The links of a top bar, and the frame width below which there is no room for them beside its other parts. */
export function linksThatGiveWay(
  bar: Part,
  boxes: Boxes,
  frame: number,
  engine: Engine,
): { readonly ids: readonly string[]; readonly below: number } | undefined {
  const box = boxes.get(bar.id);
  if (!box || bar.kind !== 'container' || ruleOf(bar.rules, 'flow') !== 'row') return undefined;
  if (box.y > BAR.top || box.height > BAR.height || box.width < frame * BAR.width) return undefined;
  const parts = inFlow(bar);
  const links = parts.filter(isLinks);
  if (links.length === 0 || links.length === parts.length) return undefined;
  const taken = parts.reduce((s, p) => s + engine.intrinsic.contribution(p).max, 0);
  const below = Math.ceil((taken + SPACE * (parts.length + 1)) / 20) * 20;
  return below < frame ? { ids: links.map((l) => l.id), below } : undefined;
}
