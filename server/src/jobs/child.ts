/** The process that a job is computed in: it can be ended whatever it is at, and its worker goes on listening. */
import { once } from 'node:events';
import { DrawingError } from '@tinfold/core/drawing';
import { runCounts, TRIAL_NAMES, USUAL_RANGE } from '@tinfold/core/proof';
import type { OwnFonts } from '@tinfold/host/ownFonts';
import { proveTask } from '@tinfold/host/proving';
import { openSources, readScreens } from '@tinfold/host/reading';
import type { FontWithFile, Outcome, Task, Told } from './task.js';

const tell = (told: Told) => process.send?.(told);
const tellProgress = (done: number): void => {
  tell({ kind: 'progress', done });
};

const ownFonts = (fonts: readonly FontWithFile[]): OwnFonts => ({
  fonts,
  file: (id) => Promise.resolve(fonts.find((f) => f.id === id)?.bytes),
});

async function outcomeOf(task: Task): Promise<Outcome> {
  const own = ownFonts(task.fonts);
  if (task.kind === 'reading') {
    const screens = await readScreens(task.source, own, tellProgress);
    return { kind: 'reading', screens };
  }
  const { drawings } = await openSources(task.drawings, own);
  const { faults } = await proveTask({
    structure: task.structure,
    drawings: drawings.map((d) => d.drawing),
    range: USUAL_RANGE,
    trials: TRIAL_NAMES,
    expectations: [],
    own,
    onProgress: tellProgress,
  });
  const counts = { ...USUAL_RANGE, trials: TRIAL_NAMES, ...runCounts(faults) };
  return { kind: 'proof', counts };
}

// Without its worker nobody wants what it makes.
process.on('disconnect', () => {
  process.exit(1);
});
const [task] = (await once(process, 'message')) as [Task];
const outcome = await outcomeOf(task).catch((error: unknown): Outcome => {
  if (error instanceof DrawingError) return { kind: 'refused', reason: error.message };
  throw error;
});
tell({ kind: 'outcome', outcome });
