import { MAX_FRAME, MIN_FRAME } from '../workbench/store';

/** The next width in a direction at which something is marked, breaks otherwise, or a fault begins or ends. */
export function nextOf(widths: readonly number[], from: number, direction: 1 | -1): number {
  const beyond = widths.filter((w) => (w - from) * direction > 0 && w >= MIN_FRAME && w <= MAX_FRAME);
  if (beyond.length === 0) return direction === 1 ? MAX_FRAME : MIN_FRAME;
  return direction === 1 ? Math.min(...beyond) : Math.max(...beyond);
}
