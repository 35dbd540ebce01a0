import { proxy, wrap } from 'comlink';
import type { Drawing, DrawingDecisions } from '@tinfold/core/drawing';
import type { Progress } from '@tinfold/core/infer';
import type { ReadingWorker, ReadResult } from './reading.worker';

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

export const startReading = (
  source: string,
  name: string,
  decisions: DrawingDecisions,
  onProgress: (p: Progress) => void,
): Job<ReadResult> =>
  startJob((worker) => worker.read(source, name, decisions, proxy(onProgress)) as Promise<ReadResult>);

export const openDrawing = (source: string, name: string, decisions: DrawingDecisions): Job<Drawing> =>
  startJob((worker) => worker.open(source, name, decisions));
