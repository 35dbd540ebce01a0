import type { Drawing } from '@tinfold/core/drawing';
import { Engine } from '@tinfold/core/layout';
import type { Structure } from '@tinfold/core/model';
import {
  deviations,
  holdTo,
  parseExpectation,
  proofRun,
  structuresIn,
  TRIALS,
  type Expectation,
  type Held,
  type Range,
  type Reported,
  type TrialName,
} from '@tinfold/core/proof';
import { ownFamilies } from '@tinfold/core/text';
import { facesOfStructure, loadMeasurer } from './fonts.js';
import { NO_FONTS, ownFileOf, type OwnFonts } from './ownFonts.js';

/** What is proved, and how. */
export interface Task {
  readonly structure: Structure;
  /** The drawings of the screen, their items called as in the structure; none for a structure from a file. */
  readonly drawings: readonly Drawing[];
  readonly range: Range;
  readonly trials: readonly TrialName[];
  readonly expectations: readonly Expectation[];
  /** The fonts of the project. */
  readonly own?: OwnFonts;
  /** Called as the work goes on; `done` runs from 0 to 1. */
  readonly onProgress?: (done: number, what: string) => void;
}

/** A proof with all that a report tells of. */
export type Proven = Reported & { readonly expectations: readonly Held[] };

/** Proves a structure as it is and in each of the trials, and holds it to what is expected. */
export async function proveTask(task: Task): Promise<Proven> {
  const { structure, drawings, range, trials, expectations, own = NO_FONTS, onProgress } = task;
  const tried = Object.fromEntries(trials.map((name) => [name, TRIALS[name]]));
  const families = ownFamilies(own.fonts);
  const faces = structuresIn(structure, tried).flatMap((s) => facesOfStructure(s, families));
  const engine = new Engine(await loadMeasurer(faces, families, ownFileOf(own)));
  const run = proofRun(structure, engine, {
    range,
    trials: tried,
    ...(drawings.length > 0 && { drawings }),
  });
  let step = run.next();
  for (; !step.done; step = run.next()) onProgress?.(step.value.done, step.value.trial ?? 'as it is');
  const { faults } = step.value;
  const proved = { structure, engine, range, drawings, faults: faults.filter((f) => f.trial === null) };
  return {
    structure,
    engine,
    range,
    faults,
    trials,
    expectations: holdTo(expectations, proved),
    drawings: drawings.map((d) => ({ width: d.width, deviations: deviations(structure, d, engine) })),
  };
}

/**
 * Reads expectations from a text, one a line; lines that are empty or begin with # say nothing. Throws a SyntaxError that
 * names the line.
 */
export function readExpectations(text: string): Expectation[] {
  return text.split(/\r?\n/).flatMap((line, i) => {
    if (/^\s*(?:#|$)/.test(line)) return [];
    const result = parseExpectation(line);
    if (!result.ok) throw new SyntaxError(`Line ${i + 1}: ${result.reason}`);
    return [result.value];
  });
}
