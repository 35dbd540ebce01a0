import { proxy, wrap } from 'comlink';
import type { Drawing, DrawingDecisions, ScreenFrame } from '@tinfold/core/drawing';
import type { Progress } from '@tinfold/core/infer';
import type { Structure } from '@tinfold/core/model';
import type { ReadingWorker, Result, Source } from './reading.worker';

/** A reading under way in a worker of its own; cancelling ends the worker. */
export interface Job<T> {
  readonly result: Promise<T>;
  cancel(): void;
}

/** The reason with which a cancelled job's result is rejected. */
export class Cancelled extends Error {}

function startJob<T>(work: (worker: ReturnType<typeof wrap<ReadingWorker>>) => Promise<T>): Job<T> {
  const worker = new Worker(new URL('./reading.worker.ts', import.meta.url), { type: 'module' });
  let cancel: () => void = () => undefined;
  const cancelled = new Promise<never>((_, reject) => {
    cancel = () => {
      reject(new Cancelled('The reading was stopped.'));
    };
    worker.onerror = () => {
      reject(new Error('The reading broke off: reload the page and try again.'));
    };
  });
  const result = Promise.race([work(wrap<ReadingWorker>(worker)), cancelled]).finally(() => {
    worker.terminate();
  });
  return { result, cancel };
}

const valueOf = <T>(result: Result<T>): T => {
  if (!result.ok) throw new Error(result.reason);
  return result.value;
};

/** Reads a drawing to items and structure; a file that cannot be read rejects with a sentence. */
export const startReading = (
  source: Source,
  decisions: DrawingDecisions,
  onProgress: (p: Progress) => void,
): Job<{ readonly drawing: Drawing; readonly structure: Structure }> =>
  startJob(async (worker) => valueOf(await worker.read(source, decisions, proxy(onProgress))));

export const openDrawing = (source: Source, decisions: DrawingDecisions): Job<Drawing> =>
  startJob(async (worker) => valueOf(await worker.open(source, decisions)));

/** The screens that stand side by side in a file. */
export const findFrames = (source: Source): Job<readonly ScreenFrame[]> =>
  startJob(async (worker) => valueOf(await worker.frames(source)));
