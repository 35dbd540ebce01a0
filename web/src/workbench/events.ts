import type { Box } from '@tinfold/core/layout';
import { Engine } from '@tinfold/core/layout';
import { breakpoints, ruleOf, standing, type Structure } from '@tinfold/core/model';
import { clampFrame, MAX_FRAME, MIN_FRAME } from './store';

/** How the wraps and grids of a layout break: it changes exactly where a line or a column comes or goes. */
function breaks(box: Box): string {
  const flow = box.part.kind === 'container' ? ruleOf(box.part.rules, 'flow') : undefined;
  const own =
    flow === 'wrap' || flow === 'grid' ? `${new Set(box.children.map((c) => Math.round(c.y))).size};` : '';
  return own + box.children.map((c) => breaks(c.box)).join('');
}

/**
 * The next width in a direction at which a wrap or a grid breaks otherwise, a breakpoint begins or that was drawn;
 * else the rail's end.
 */
export function nextEvent(doc: Structure, engine: Engine, from: number, direction: 1 | -1): number {
  const end = direction === 1 ? MAX_FRAME : MIN_FRAME;
  const at = (width: number) => breaks(engine.frame(standing(doc, { width }), width));
  const marks = new Set([doc.drawn.width, ...breakpoints(doc)]);
  const before = at(from);
  for (let width = from + direction; width !== end; width += direction)
    if (marks.has(width) || at(width) !== before) return clampFrame(width);
  return end;
}
