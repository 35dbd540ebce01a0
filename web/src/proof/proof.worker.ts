import { expose } from 'comlink';
import type { Drawing } from '@tinfold/core/drawing';
import { Engine } from '@tinfold/core/layout';
import type { Structure } from '@tinfold/core/model';
import {
  deviations,
  eventsIn,
  holdTo,
  mendingAll,
  mendsFor,
  parseExpectation,
  proofReport,
  proposeExpectations,
  proofRun,
  seriesOf,
  structuresIn,
  formatExpectation,
  type Fault,
  type Held,
  type Mend,
  type Mended,
  type PartSeries,
  type Range,
  type RunNews,
  type Trial,
} from '@tinfold/core/proof';
import type { OwnFont } from '@tinfold/core/text';
import { facesOfStructure, loadMeasurer } from '../reading/fonts';

/** What is proved. */
export interface ProofTask {
  readonly structure: Structure;
  readonly range: Range;
  /** The trials that are on, by the names that their faults carry. */
  readonly trials: Readonly<Record<string, Trial>>;
  /** What the screen is held to, a sentence each. */
  readonly expectations: readonly string[];
}

/** How far the proof has come, with what it has found so far. */
export type ProofNews = Pick<RunNews, 'done' | 'pending'> & { readonly faults: readonly Fault[] };

export interface ProofResult {
  readonly faults: readonly Fault[];
  readonly drawnSo: readonly Fault[];
  /** The widths at which a wrap or grid breaks otherwise. */
  readonly events: readonly number[];
  readonly held: readonly Held[];
  readonly ms: number;
}

/** How long the worker computes before it listens, ms. */
const SLICE = 40;
/** How often it tells how far it is, ms. */
const TELL = 120;

let screen: { drawings: readonly Drawing[]; fonts: readonly OwnFont[] } = { drawings: [], fonts: [] };
/** Counts up when work is to stop: what belongs to an earlier number ends. */
let generation = 0;
/** Until then the machine is left to the hand that drags, by this worker's clock, ms. */
let restsUntil = 0;

const pause = (ms = 0): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Runs steps in slices; undefined when the work was stopped meanwhile. */
async function inSlices<T, R>(
  steps: Generator<T, R>,
  own: number,
  each?: (value: T) => void,
): Promise<R | undefined> {
  let from = performance.now();
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    each?.(step.value);
    if (performance.now() - from < SLICE) continue;
    await pause();
    while (own === generation && performance.now() < restsUntil) await pause(restsUntil - performance.now());
    if (own !== generation) return undefined;
    from = performance.now();
  }
}

/** One engine for each set of fonts, which keeps what it has laid out. */
const engines = new Map<unknown, Engine>();

async function engineFor(structures: readonly Structure[]): Promise<Engine> {
  const measurer = await loadMeasurer(
    structures.flatMap((s) => facesOfStructure(s, screen.fonts)),
    screen.fonts,
  );
  const engine = engines.get(measurer) ?? new Engine(measurer);
  engines.set(measurer, engine);
  return engine;
}

const expectationsOf = (sentences: readonly string[]) =>
  sentences.flatMap((s) => {
    const result = parseExpectation(s);
    return result.ok ? [result.value] : [];
  });

const runOptions = ({ range, trials }: Pick<ProofTask, 'range' | 'trials'>) => ({
  range,
  trials,
  drawings: screen.drawings,
});

const proofWorker = {
  /** The screen that all further work is about. */
  open(drawings: readonly Drawing[], fonts: readonly OwnFont[]): void {
    screen = { drawings, fonts };
  },

  /** Ends all work under way. */
  stop(): void {
    generation++;
  },

  /** Leaves the machine to others for so long, ms; what is under way goes on after it. */
  rest(ms: number): void {
    restsUntil = performance.now() + ms;
  },

  /** Proves a structure; undefined when it was stopped. */
  async prove(task: ProofTask, tell: (news: ProofNews) => void): Promise<ProofResult | undefined> {
    const own = ++generation;
    const began = performance.now();
    const { structure, range } = task;
    const engine = await engineFor(structuresIn(structure, task.trials));
    if (own !== generation) return undefined;
    let told = 0;
    const run = await inSlices(proofRun(structure, engine, runOptions(task)), own, (news) => {
      if (performance.now() - told < TELL) return;
      told = performance.now();
      tell({ done: news.done, pending: news.pending, faults: news.faults() });
    });
    if (!run) return undefined;
    const { faults, drawnSo } = run;
    const plain = faults.filter((f) => f.trial === null);
    const held = holdTo(expectationsOf(task.expectations), {
      structure,
      engine,
      range,
      faults: plain,
      drawings: screen.drawings,
    });
    const events = eventsIn(structure, engine, range);
    return own === generation ? { faults, drawnSo, events, held, ms: performance.now() - began } : undefined;
  },

  /** The mends of one fault, told as they are found; a proof that begins meanwhile ends the search. */
  async mends(
    task: Pick<ProofTask, 'structure' | 'range' | 'trials'>,
    fault: Fault,
    faults: readonly Fault[],
    tell: (mend: Mend) => void,
  ): Promise<boolean> {
    const own = generation;
    const engine = await engineFor(structuresIn(task.structure, task.trials));
    const steps = mendsFor(task.structure, engine, fault, faults, runOptions(task));
    const done = await inSlices(
      (function* () {
        for (const mend of steps) {
          tell(mend);
          yield;
        }
        return true;
      })(),
      own,
    );
    return done === true;
  },

  /** Takes all mends that are certain; undefined when it was stopped. */
  async mendAll(
    task: Pick<ProofTask, 'structure' | 'range' | 'trials'>,
    tell: (taken: number) => void,
  ): Promise<Omit<Mended, 'structure' | 'faults'> | undefined> {
    const own = ++generation;
    const engine = await engineFor(structuresIn(task.structure, task.trials));
    const mended = await inSlices(mendingAll(task.structure, engine, runOptions(task)), own, (s) => {
      tell(s.taken);
    });
    if (!mended) return undefined;
    const { step, labels, before, after } = mended;
    return { step, labels, before, after };
  },

  /** How a part stands over the range. */
  async series(structure: Structure, range: Range, part: string): Promise<PartSeries> {
    return seriesOf(structure, await engineFor([structure]), range, part);
  },

  /** Expectations that hold now, as sentences. */
  async propose(structure: Structure, range: Range, faults: readonly Fault[]): Promise<readonly string[]> {
    const engine = await engineFor([structure]);
    return proposeExpectations({
      structure,
      engine,
      range,
      faults: faults.filter((f) => f.trial === null),
      drawings: screen.drawings,
    }).map(formatExpectation);
  },

  /** The report of a proof, as an HTML page. */
  async report(task: ProofTask, faults: readonly Fault[], held: readonly Held[]): Promise<string> {
    const { structure, range, trials } = task;
    const engine = await engineFor([structure]);
    return proofReport({
      structure,
      engine,
      range,
      faults,
      expectations: held,
      trials: Object.keys(trials),
      drawings: screen.drawings.map((d) => ({
        width: d.width,
        deviations: deviations(structure, d, engine),
      })),
    });
  },
};

export type ProofWorker = typeof proofWorker;
expose(proofWorker);
