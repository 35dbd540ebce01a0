import type { Engine } from '../layout/index.js';
import { ruleOf, type Structure } from '../model/index.js';
import type { Range } from './prove.js';
import { rowCounts } from './rows.js';
import { isShown, type Snapshot } from './scene.js';
import { beginnings, Layouts, stretches, type Stretch } from './sweep.js';

/** How the lines of wraps and the rows of grids are filled. */
function makeUp({ scene }: Stretch, shot: Snapshot): string {
  let all = '';
  scene.parts.forEach((part, i) => {
    const flow = part.kind === 'container' ? ruleOf(part.rules, 'flow') : undefined;
    if ((flow !== 'wrap' && flow !== 'grid') || !isShown(shot, i)) return;
    const kids = (scene.children[i] ?? []).filter((c) => isShown(shot, c) && !scene.parts[c]?.rules.pin);
    all += `${i}:${rowCounts(shot, kids).join()};`;
  });
  return all;
}

/** The whole widths of a range, the narrowest first, at which a wrap or a grid breaks otherwise or a breakpoint begins. */
export function eventsIn(structure: Structure, engine: Engine, range: Range): number[] {
  const found = new Set(beginnings(structure, range.from, range.to));
  let before: string | undefined;
  for (const stretch of stretches(structure, new Layouts(structure, engine), range)) {
    if (before !== undefined && makeUp(stretch, stretch.first) !== before) found.add(stretch.from);
    before = makeUp(stretch, stretch.last);
  }
  return [...found].sort((a, b) => a - b);
}

/** How one part stands over a range: its ends are those of stretches, so that straight lines between them are exact. */
export interface PartSeries {
  readonly points: readonly {
    readonly frame: number;
    readonly width: number;
    readonly height: number;
    /** The distances between its children along its flow; empty for one or none. */
    readonly gaps: readonly number[];
  }[];
}

/** A part's width, height and gaps against the frame's width. */
export function seriesOf(structure: Structure, engine: Engine, range: Range, id: string): PartSeries {
  const points: PartSeries['points'][number][] = [];
  for (const { scene, first, last } of stretches(structure, new Layouts(structure, engine), range)) {
    const i = scene.parts.findIndex((p) => p.id === id);
    const kids = (scene.children[i] ?? []).filter((c) => isShown(first, c) && !scene.parts[c]?.rules.pin);
    const isColumn = ruleOf(scene.parts[i]?.rules ?? {}, 'flow') === 'column';
    for (const shot of first === last ? [first] : [first, last]) {
      if (i < 0 || !isShown(shot, i)) continue;
      const { left, right, top, bottom } = shot.box;
      const edge = (list: Float64Array, at: number): number => list[at] as number;
      const gaps = kids.slice(1).map((k, n) => {
        const before = kids[n] as number;
        return isColumn ? edge(top, k) - edge(bottom, before) : edge(left, k) - edge(right, before);
      });
      points.push({
        frame: shot.width,
        width: edge(right, i) - edge(left, i),
        height: edge(bottom, i) - edge(top, i),
        gaps: gaps.filter((g) => g >= 0),
      });
    }
  }
  return { points };
}
