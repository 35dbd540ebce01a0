import { useMemo } from 'react';
import type { Bench } from '@tinfold/core/edit';
import type { Reflow } from '@tinfold/core/layout';
import { breakpoints, type Part, type Structure } from '@tinfold/core/model';
import { PartsList, Sizes } from './PartsList';
import type { Known } from './rows';
import { isWide } from './said';
import type { WorkbenchStore } from './store';
import { useThrottled } from './throttled';

/** How often the list follows a drag, ms. */
const FOLLOWS = 160;

/** One width for all of a range between breakpoints, so that what depends on the range alone stays as it is. */
const rangeOf = (doc: Structure, width: number): number =>
  (breakpoints(doc).findLast((b) => width < b) ?? Number.MAX_SAFE_INTEGER) - 0.5;

interface ListedProps {
  readonly use: WorkbenchStore;
  readonly bench: Bench;
  /** The tree as it stands at the caliper, and where its parts are. */
  readonly stands: { readonly root: Part; readonly reflow: Reflow };
  readonly known: Known;
}

/** The parts list at the caliper. The sheet follows the hand; the list's numbers come a few times a second while it moves. */
export function Listed({ use, bench, stands, known }: ListedProps) {
  const doc = use((s) => s.doc);
  const tall = use((s) => s.frameHeight);
  const { root, reflow } = useThrottled(stands, FOLLOWS);
  // The same while neither a breakpoint nor a square frame is passed, so that the list is not drawn anew.
  const inRange = rangeOf(doc, reflow.width);
  const high = tall !== undefined && isWide({ width: reflow.width, height: tall }) ? 0 : undefined;
  const frame = useMemo(
    () => ({ width: inRange, ...(high !== undefined && { height: high }) }),
    [inRange, high],
  );
  return (
    <Sizes value={reflow.parts}>
      <PartsList use={use} root={root} frame={frame} bench={bench} known={known} />
    </Sizes>
  );
}
