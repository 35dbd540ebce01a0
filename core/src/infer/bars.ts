import { inFlow, type Engine } from '../layout/index.js';
import { isHorizontal, ruleOf, type Part, type Rect } from '../model/index.js';

type Boxes = ReadonlyMap<string, Rect>;

/** A bar of links stands at the top, no higher than this and over at least this share of the frame, px. */
const BAR = { top: 64, height: 110, width: 0.6 };
/** Fewer links stay. */
const LEAST_LINKS = 3;
/** The least space between the parts of a bar, and at its ends, px. */
const SPACE = 12;

const isLink = (part: Part): boolean => {
  if (part.kind === 'text') return true;
  const inner = inFlow(part);
  if (part.kind !== 'container' || part.paint?.fill || inner.length > 2) return false;
  const [only] = inner;
  return inner.length === 1 && only ? isLink(only) : inner.some((c) => c.kind === 'text');
};

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

/** A second bar stands below the top bar, no lower than this, and holds so many links, px. */
const SECOND = { from: 40, to: 140, height: 88, links: 5 };

/** Whether a part is a bar of links below the top bar, across the frame. */
export function isSecondBar(bar: Part, boxes: Boxes, frame: number): boolean {
  const box = boxes.get(bar.id);
  if (!box || bar.kind !== 'container' || box.width < frame - 2 || box.height > SECOND.height) return false;
  if (box.y < SECOND.from || box.y > SECOND.to) return false;
  const links = (part: Part): boolean =>
    isHorizontal(ruleOf(part.rules, 'flow')) && inFlow(part).filter(isLink).length >= SECOND.links;
  const [only, ...more] = inFlow(bar);
  return links(bar) || (only !== undefined && more.length === 0 && links(only));
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
