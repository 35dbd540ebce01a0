import { reflow, type Engine } from '../../layout/index.js';
import { applyStep, standing, type Step, type Structure } from '../../model/index.js';
import { standsAsBefore } from '../faithful.js';
import { isSaidBy, type Fault } from '../faults.js';
import { SEVERITIES, type Severity } from '../kinds.js';
import type { Range } from '../prove.js';
import { faultsIn, type RunOptions } from '../run.js';
import type { Trial } from '../trials.js';
import { waysAgainst } from './ways.js';

/** How many faults there are of each severity. */
export type Counts = Readonly<Record<Severity, number>>;

/** A change that removes a fault, with what the proof says after it. */
export interface Mend {
  readonly label: string;
  readonly step: Step;
  readonly before: Counts;
  readonly after: Counts;
  /** Whether it has no side effect: nothing else moves in the drawings, nothing is taken away, no fault is new. */
  readonly certain: boolean;
}

/** No more ways are proved over the whole range for one fault. */
const MOST_PROVED = 6;

export const countsOf = (faults: readonly Fault[]): Counts =>
  Object.fromEntries(SEVERITIES.map((s) => [s, faults.filter((f) => f.severity === s).length])) as Counts;

/** How many faults of each severity a run has found, by the names that it is kept under. */
export function runCounts(faults: readonly Fault[]): {
  readonly errors: number;
  readonly warnings: number;
  readonly notes: number;
} {
  const { error, warning, note } = countsOf(faults);
  return { errors: error, warnings: warning, notes: note };
}

const meets = (a: Range, b: Range): boolean => a.from <= b.to && b.from <= a.to;
const isSame = (a: Fault, b: Fault): boolean =>
  a.kind === b.kind &&
  a.trial === b.trial &&
  a.parts.some((p) => b.parts.includes(p) || b.answerable === a.answerable);

/** Whether a fault is still there in some of its widths. */
const persists = (fault: Fault, after: readonly Fault[]): boolean =>
  after.some((f) => isSame(f, fault) && f.runs.some((r) => fault.runs.some((o) => meets(r, o))));

/**
 * The changes that remove a fault and make none that is new, the cheapest first. `known` is what {@link faultsIn} says
 * of the structure.
 */
export function* mendsFor(
  structure: Structure,
  engine: Engine,
  fault: Fault,
  known: readonly Fault[],
  options: RunOptions = {},
): Generator<Mend> {
  const widths = options.drawnWidths ?? options.drawings?.map((d) => d.width) ?? [structure.drawn.width];
  const before = countsOf(known);
  let proved = 0;
  const { width } = structure.drawn;
  const drawn = reflow(standing(structure, { width }), width, engine, structure.drawn.height).parts;
  const drawnWidth = (id: string): number => drawn.get(id)?.width ?? Infinity;
  for (const way of waysAgainst(structure, fault, drawnWidth)) {
    const result = applyStep(structure, way.step);
    if (!result.ok || result.doc === structure) continue;
    if (!helpsAtOnce(result.doc, engine, fault, options)) continue;
    const asDrawn = standsAsBefore(structure, result.doc, engine, widths);
    if (!asDrawn) continue;
    if (++proved > MOST_PROVED) return;
    const after = faultsIn(result.doc, engine, options);
    if (persists(fault, after)) continue;
    const fresh = after.filter(
      (f) =>
        f.severity !== 'note' &&
        !isSaidBy(
          f,
          // What a trial had before may be told of another now.
          f.trial === null ? known.filter((k) => k.trial === null) : known,
        ),
    );
    if (fresh.length > 0) continue;
    const counts = countsOf(after);
    if (counts.error > before.error || (counts.error === before.error && counts.warning > before.warning))
      continue;
    yield { label: way.label, step: way.step, before, after: counts, certain: way.doubtful !== true };
  }
}

/** A first look at three widths of the fault, so that ways that do nothing are not proved. */
function helpsAtOnce(after: Structure, engine: Engine, fault: Fault, options: RunOptions): boolean {
  const { trials = {} } = options;
  const only = fault.trial === null ? {} : { [fault.trial]: trials[fault.trial] as Trial };
  return [...new Set([fault.place.width, fault.from, fault.to])].every((width) => {
    const found = faultsIn(after, engine, { ...options, trials: only, range: { from: width, to: width } });
    return !persists(fault, found);
  });
}

/** What became of mending all that is certain. */
export interface Mended {
  readonly structure: Structure;
  /** One edit: the mends that were taken, in order. */
  readonly step: Step;
  readonly labels: readonly string[];
  readonly before: Counts;
  readonly after: Counts;
  readonly faults: readonly Fault[];
}

/** No more mends are taken in one go. */
const MOST_TAKEN = 60;

/**
 * Takes the certain mends one after the other, the gravest fault first, each proved on the result of the one before.
 * Yields the number of mends taken so far; stop asking to stop it.
 */
export function* mendingAll(
  start: Structure,
  engine: Engine,
  options: RunOptions = {},
): Generator<{ readonly taken: number; readonly left: number }, Mended> {
  let structure = start;
  let faults = faultsIn(structure, engine, options);
  const before = countsOf(faults);
  const steps: Step[] = [];
  const labels: string[] = [];
  const hopeless = new Set<string>();
  const keyOf = (f: Fault) => `${f.kind} ${f.trial ?? ''} ${f.answerable} ${f.parts[0] ?? ''} ${f.from}`;
  while (steps.length < MOST_TAKEN) {
    const next = faults.find((f) => f.severity !== 'note' && !hopeless.has(keyOf(f)));
    if (!next) break;
    yield { taken: steps.length, left: faults.length };
    const mend = firstCertain(mendsFor(structure, engine, next, faults, options));
    if (!mend) {
      hopeless.add(keyOf(next));
      continue;
    }
    const result = applyStep(structure, mend.step);
    if (!result.ok) throw new Error(`A mend that was proved is refused: ${result.reason}`);
    structure = result.doc;
    steps.push(mend.step);
    labels.push(mend.label);
    faults = faultsIn(structure, engine, options);
    // What could not be mended before may be now.
    hopeless.clear();
  }
  return { structure, step: { kind: 'several', steps }, labels, before, after: countsOf(faults), faults };
}

function firstCertain(mends: Generator<Mend>): Mend | undefined {
  for (const mend of mends) if (mend.certain) return mend;
  return undefined;
}
