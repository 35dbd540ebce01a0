import { expose } from 'comlink';
import type { Drawing } from '@tinfold/core/drawing';
import { Engine } from '@tinfold/core/layout';
import type { Structure } from '@tinfold/core/model';
import {
  deviations,
  eventsIn,
  holdTo,
  isSaidBy,
  mendingAll,
  mendsFor,
  parseExpectation,
  proofReport,
  proposeExpectations,
  proving,
  seriesOf,
  tryWith,
  formatExpectation,
  type Fault,
  type Held,
  type Mend,
  type Mended,
  type PartSeries,
  type Range,
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

/** How far the proof has come: `done` runs from 0 to 1. */
export interface ProofNews {
  readonly done: number;
}

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

const pause = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

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

const triedWith = ({ structure, trials }: Pick<ProofTask, 'structure' | 'trials'>) =>
  Object.entries(trials).map(([name, trial]) => ({ name, ...tryWith(structure, trial) }));

const expectationsOf = (sentences: readonly string[]) =>
  sentences.flatMap((s) => {
    const result = parseExpectation(s);
    return result.ok ? [result.value] : [];
  });

const mendOptions = ({ range, trials }: Pick<ProofTask, 'range' | 'trials'>) => ({
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

  /** Proves a structure; undefined when it was stopped. */
  async prove(task: ProofTask, tell: (news: ProofNews) => void): Promise<ProofResult | undefined> {
    const own = ++generation;
    const began = performance.now();
    const { structure, range } = task;
    const tried = triedWith(task);
    const engine = await engineFor([structure, ...tried.map((t) => t.structure)]);
    if (own !== generation) return undefined;
    const common = { range, drawings: screen.drawings };
    const runs = [
      proving(structure, engine, common),
      ...tried.map(({ name, structure: copy, view, original }) =>
        proving(copy, engine, { ...common, view, original, base: structure, trial: name }),
      ),
    ];
    const faults: Fault[] = [];
    let [drawnSo, told]: [readonly Fault[], number] = [[], 0];
    for (const [n, steps] of runs.entries()) {
      const proof = await inSlices(steps, own, ({ width }) => {
        if (performance.now() - told < TELL) return;
        told = performance.now();
        const share = (width - range.from + 1) / (range.to - range.from + 1);
        tell({ done: (n + share) / runs.length });
      });
      if (!proof) return undefined;
      if (n === 0) drawnSo = proof.drawnSo;
      // What the screen does anyway needs no trial.
      faults.push(...proof.faults.filter((f) => n === 0 || !isSaidBy(f, faults)));
    }
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
    const engine = await engineFor([task.structure, ...triedWith(task).map((t) => t.structure)]);
    const steps = mendsFor(task.structure, engine, fault, faults, mendOptions(task));
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
    const engine = await engineFor([task.structure, ...triedWith(task).map((t) => t.structure)]);
    const mended = await inSlices(mendingAll(task.structure, engine, mendOptions(task)), own, (s) => {
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
