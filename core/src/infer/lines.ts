import { bottom } from '../model/index.js';
import type { Builder } from './build.js';
import type { Node } from './node.js';
import { commonest, gapsOf } from './stack.js';

/** Things in lines, with the gap in a line and that between lines, px. */
export interface Lines {
  readonly rows: Node[][];
  readonly gap: number;
  readonly crossGap: number;
}

/** The lines that things stand in, which are in reading order. */
export function linesOf(children: readonly Node[], b: Builder): Lines {
  const rows: Node[][] = [];
  for (const child of children) {
    const row = rows.at(-1);
    const last = row?.at(-1);
    if (row && last && child.box.x > last.box.x) row.push(child);
    else rows.push([child]);
  }
  const gaps = rows.flatMap((row) => gapsOf(row, 'row'));
  const down = rows.slice(1).map((row, i) => {
    const above = rows[i] as Node[];
    return Math.min(...row.map((n) => n.box.y)) - Math.max(...above.map((n) => bottom(n.box)));
  });
  const gap = b.px(commonest(gaps, b.tolerance.same).value);
  return { rows, gap, crossGap: down.length > 0 ? b.px(commonest(down, b.tolerance.same).value) : gap };
}
