/** A space within a stretched box from so many px on may be room that is left. */
const PUSHED = 56;

/**
 * Which of the spaces in a column, px, is room that is left, as where its last things were pushed to its foot: one that is at
 * least twice as wide as each of the others. Undefined where none is.
 */
export function roomLeftAt(spaces: readonly number[]): number | undefined {
  const widest = Math.max(...spaces);
  const at = spaces.indexOf(widest);
  const stands = widest >= PUSHED && spaces.every((s, i) => i === at || s <= widest / 2);
  return stands ? at : undefined;
}
