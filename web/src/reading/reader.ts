import { proxy, wrap } from 'comlink';
import {
  kindOfSource,
  NO_DECISIONS,
  type Drawing,
  type DrawingDecisions,
  type ScreenFrame,
} from '@tinfold/core/drawing';
import type { Progress, Question } from '@tinfold/core/infer';
import type { Structure } from '@tinfold/core/model';
import type { OwnFont } from '@tinfold/core/text';
import { layOutForeign, layOutPage } from './layOutPage';
import type { Decided, ReadingWorker, Result, Source } from './reading.worker';

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

/**
 * The text of a drawing's file: a PDF as the SVG of its pages, a page with its items where the browser puts them. A file that cannot be
 * read rejects with a sentence. `fonts` are those of the project.
 */
export const sourceTextOf = (file: File, fonts: readonly OwnFont[]): Job<string> =>
  startJob(async (worker) => {
    const text = valueOf(await worker.sourceText(new Uint8Array(await file.arrayBuffer())));
    const kind = kindOfSource(text);
    if (kind === 'html') return layOutPage(text, fonts);
    return kind === 'svg' && /<(?:\w+:)?foreignObject\b/.test(text) ? layOutForeign(text, fonts) : text;
  });

/** Reads the drawings of a screen to a structure; a file that cannot be read rejects with a sentence. */
export const startReading = (
  files: readonly Decided[],
  onProgress: (p: Progress) => void,
): Job<{ readonly drawings: readonly Drawing[]; readonly structure: Structure }> =>
  startJob(async (worker) => valueOf(await worker.read(files, proxy(onProgress))));

export const openDrawing = (file: Decided): Job<Drawing> =>
  startJob(async (worker) => valueOf(await worker.open(file)));

/** The drawings of a screen with their items called as in its structure. */
export const openDrawings = (files: readonly Decided[]): Job<readonly Drawing[]> =>
  startJob(async (worker) => valueOf(await worker.openAll(files)));

/** What the designer should be asked about a structure. */
export const findQuestions = (
  structure: Structure,
  drawnWidths: readonly number[],
  fonts: readonly OwnFont[],
): Job<readonly Question[]> => startJob((worker) => worker.ask(structure, drawnWidths, fonts));

/** The file of a screen's drawing, with what was decided about it. */
export const fileOf = (
  drawing: { readonly name: string; readonly source: string; readonly decisions: DrawingDecisions | null },
  fonts: readonly OwnFont[],
): Decided => ({
  source: { text: drawing.source, name: drawing.name, fonts },
  decisions: { ...NO_DECISIONS, ...drawing.decisions },
});

/** The screens that stand side by side in a file. */
export const findFrames = (source: Source): Job<readonly ScreenFrame[]> =>
  startJob(async (worker) => valueOf(await worker.frames(source)));
