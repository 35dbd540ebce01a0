import { reflow, type Engine } from '../../layout/index.js';
import { FILL, fixed, type Part, type Rect, type Rules } from '../../model/index.js';
import type { Boxes } from '../standingPart.js';

/** What keeps its room for the part that is looked at alone: no part of a reading is called so. */
const AROUND = ' around';
/** More room than a container was drawn with, px, so that no rounding of its box breaks its words. */
const ROOM = 0.5;

/** The rules of a container without those of its place, where sizes that come from its parent are those that were drawn. */
function inOwnBox(rules: Rules, own: Rect): Rules {
  const { pin: _pin, gapBefore: _gap, alignSelf: _self, ...rest } = rules;
  const { minWidth: _min, maxWidth: _max, cell: _cell, ...inner } = rest;
  const { width, height } = rules;
  const comesFromOutside = (kind: string | undefined) => kind === 'fill' || kind === 'share';
  return {
    ...inner,
    ...(comesFromOutside(width?.kind) && { width: fixed(own.width) }),
    ...(comesFromOutside(height?.kind) && { height: fixed(own.height) }),
  };
}

/** Where all in a container stands, from its own corner, where the container has the box that it was drawn in. */
export function boxesAlone(part: Part, own: Rect, engine: Engine): Boxes {
  const root: Part = {
    id: AROUND,
    name: AROUND,
    kind: 'container',
    source: [],
    rules: { width: FILL },
    children: [{ ...part, rules: inOwnBox(part.rules, own) }],
  };
  return reflow(root, own.width + ROOM, engine).parts;
}
