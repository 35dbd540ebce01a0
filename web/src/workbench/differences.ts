import type { Drawing } from '@tinfold/core/drawing';
import type { Engine } from '@tinfold/core/layout';
import { walk, type Structure } from '@tinfold/core/model';
import { deviations, EXACT } from '@tinfold/core/proof';

/** A part that stands elsewhere than one of its items was drawn. */
export interface Difference {
  readonly part: string;
  readonly item: string;
  /** The width of the drawing, px. */
  readonly width: number;
  /** How far its edge that is furthest off is from where it was drawn, px. */
  readonly by: number;
}

/** What stands elsewhere than drawn, in each drawing; what a drawing shows and the structure does not is told by the proof. */
export function differencesOf(
  structure: Structure,
  drawings: readonly Drawing[],
  engine: Engine,
): readonly Difference[] {
  const owners = new Map(
    [...walk(structure.root)].flatMap((p) => p.source.map((item) => [item, p.id] as const)),
  );
  return drawings.flatMap((drawing) =>
    deviations(structure, drawing, engine).flatMap(({ item, by }): Difference[] => {
      const part = owners.get(item);
      const astray = by > Math.max(EXACT, structure.snap) && Number.isFinite(by);
      return part !== undefined && astray ? [{ part, item, width: drawing.width, by }] : [];
    }),
  );
}

/** The parts that differ, with the furthest that each does. */
export function furthest(differences: readonly Difference[]): ReadonlyMap<string, Difference> {
  const found = new Map<string, Difference>();
  for (const d of differences) if (d.by > (found.get(d.part)?.by ?? 0)) found.set(d.part, d);
  return found;
}
