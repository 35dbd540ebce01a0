import { cellsOf, cellsUnder, mergeCells, type Bench, type Cells } from '@tinfold/core/edit';
import type { Reflow } from '@tinfold/core/layout';
import { findPart, parentOf, ruleOf, standing, type Part, type Rect } from '@tinfold/core/model';
import { take } from './taken';
import { frameOf } from './said';
import type { WorkbenchStore } from './store';

const HOW =
  'Take a grid or a part in it in hand, and draw over its cells with Alt held, at a width at which it has all its columns.';

const isGrid = (part: Part | undefined): part is Part =>
  part?.kind === 'container' && ruleOf(part.rules, 'flow') === 'grid';

/** Merges cells of the grid in hand, or of the one that the part in hand stands in. */
function merge(
  use: WorkbenchStore,
  bench: Bench,
  root: Part,
  cells: (grid: Part) => Cells | undefined,
): void {
  const { doc, selected = '', refuse } = use.getState();
  const own = findPart(root, selected);
  const grid = isGrid(own) ? own : parentOf(root, selected);
  const found = isGrid(grid) ? cells(grid) : undefined;
  const said = grid && findPart(doc.root, grid.id);
  // In another range the cells are others than those that the rules for all frames speak of.
  if (!grid || !found || JSON.stringify(said?.rules.columns) !== JSON.stringify(grid.rules.columns))
    refuse(HOW);
  else take(use, mergeCells(doc, grid.id, found, bench));
}

/** Merges the cells that a frame drawn on the sheet meets. */
export const mergeUnder = (
  use: WorkbenchStore,
  bench: Bench,
  root: Part,
  reflow: Reflow,
  drawn: Rect,
): void => {
  merge(use, bench, root, (grid) => cellsUnder(grid, reflow.parts, drawn));
};

/** Merges the cells in which the parts in hand stand, and those between them. */
export function mergeInHand(use: WorkbenchStore, bench: Bench): void {
  const state = use.getState();
  const ids = [state.selected ?? '', ...state.also];
  merge(use, bench, standing(state.doc, frameOf(state)), (grid) => cellsOf(grid, ids));
}
