import { DrawingError, type Drawing } from '../drawing/index.js';
import { matchItems } from './match.js';
import { readLineHeights } from './lineHeights.js';

/** A drawing whose items are called as in the structure that all drawings of its screen make. */
export interface Aligned {
  readonly drawing: Drawing;
  /** The ids that the items have in the drawing itself, by those that they are called by now. */
  readonly own: ReadonlyMap<string, string>;
}

/**
 * Calls what is the same thing in several drawings of one screen by one id: that of the widest drawing. What only a
 * narrower one has is called by its id there, `@` and that drawing's width. Lines of one style are made equally high.
 * The result is in the order of the drawings given. Throws a DrawingError for two drawings of one width.
 */
export function alignDrawings(drawings: readonly Drawing[]): Aligned[] {
  const sorted = drawings.toSorted((a, b) => b.width - a.width);
  const twice = sorted.find((d, i) => Math.round(d.width) === Math.round(sorted[i + 1]?.width ?? NaN));
  if (twice)
    throw new DrawingError(
      `Two drawings are ${Math.round(twice.width)} px wide: keep one drawing of the screen for each width.`,
    );
  const [wide, ...rest] = readLineHeights(sorted);
  if (!wide) return [];
  const aligned = [
    called(wide, new Map()),
    ...rest.map((narrow) => called(narrow, back(matchItems(wide, narrow)), `@${narrow.width}`)),
  ];
  return drawings.flatMap((d) => aligned[sorted.indexOf(d)] ?? []);
}

const back = (match: ReadonlyMap<string, string>): ReadonlyMap<string, string> =>
  new Map([...match].map(([wide, id]) => [id, wide]));

function called(drawing: Drawing, names: ReadonlyMap<string, string>, foreign = ''): Aligned {
  const name = (id: string) => names.get(id) ?? `${id}${foreign}`;
  return {
    drawing: { ...drawing, items: drawing.items.map((item) => ({ ...item, id: name(item.id) })) },
    own: new Map(drawing.items.map(({ id }) => [name(id), id])),
  };
}
