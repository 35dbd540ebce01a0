import type { Engine } from '../layout/index.js';
import type { Structure } from '../model/index.js';
import { isSaidBy, type Fault } from './faults.js';
import { proving, USUAL_RANGE, type Proof, type ProveOptions, type Range } from './prove.js';
import { tryWith, type Trial } from './trials.js';

/** What a screen is proved for: a range of widths, and the trials that are on, by the names that their faults carry. */
export interface RunOptions extends Pick<ProveOptions, 'drawnWidths' | 'drawings'> {
  readonly range?: Range;
  readonly trials?: Readonly<Record<string, Trial>>;
}

/** How far a run has come. */
export interface RunNews {
  /** From 0 to 1. */
  readonly done: number;
  /** The trial that is looked at; null for the screen as it is. */
  readonly trial: string | null;
  /** The trials that are not finished, this one among them. */
  readonly pending: readonly (string | null)[];
  /** What has been found so far. */
  readonly faults: () => readonly Fault[];
}

/** The structures that a run lays out: the screen as it is, and its copy in each trial. */
export const structuresIn = (structure: Structure, trials: Readonly<Record<string, Trial>>): Structure[] => [
  structure,
  ...Object.values(trials).map((trial) => tryWith(structure, trial).structure),
];

/**
 * Proves a structure as it is and then in each trial. What it does anyway, or in a trial before, needs no trial. Yields
 * as each stretch of widths is judged; stop asking to stop it.
 */
export function* proofRun(
  structure: Structure,
  engine: Engine,
  options: RunOptions = {},
): Generator<RunNews, Pick<Proof, 'faults' | 'drawnSo'>> {
  const { trials = {}, range = USUAL_RANGE, drawnWidths, drawings } = options;
  const common = { range, ...(drawnWidths && { drawnWidths }), ...(drawings && { drawings }) };
  const names = [null, ...Object.keys(trials)];
  const faults: Fault[] = [];
  let drawnSo: readonly Fault[] = [];
  for (const [n, name] of names.entries()) {
    const trial = name === null ? undefined : trials[name];
    const tried = trial && tryWith(structure, trial);
    const steps = tried
      ? proving(tried.structure, engine, {
          ...common,
          view: tried.view,
          original: tried.original,
          base: structure,
          ...(name !== null && { trial: name }),
        })
      : proving(structure, engine, common);
    const fresh = (all: readonly Fault[]) => (n === 0 ? all : all.filter((f) => !isSaidBy(f, faults)));
    for (;;) {
      const step = steps.next();
      if (step.done) {
        faults.push(...fresh(step.value.faults));
        if (n === 0) ({ drawnSo } = step.value);
        break;
      }
      const share = (step.value.width - range.from + 1) / (range.to - range.from + 1);
      yield {
        done: (n + share) / names.length,
        trial: name,
        pending: names.slice(n),
        faults: () => [...faults, ...fresh(step.value.faults())],
      };
    }
  }
  return { faults, drawnSo };
}

/** What {@link proofRun} finds, in one go. */
export function faultsIn(structure: Structure, engine: Engine, options: RunOptions = {}): readonly Fault[] {
  const run = proofRun(structure, engine, options);
  for (;;) {
    const step = run.next();
    if (step.done) return step.value.faults;
  }
}
