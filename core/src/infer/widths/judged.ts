import type { Drawing } from '../../drawing/index.js';
import { reflow, standingBoxes, type Engine } from '../../layout/index.js';
import {
  applyStep,
  pathTo,
  checkAll,
  breakpoints,
  covers,
  standing,
  type Rect,
  type Step,
  type Structure,
  walk,
} from '../../model/index.js';
import { distance, EXACT, GRAVE_CHECKS, priceAt, prove, waysAgainst, type Fault } from '../../proof/index.js';
import { breakpointSteps } from '../../edit/index.js';
import { inAllCopies } from '../copies.js';
import { isOffGrid, ONE_EDGE } from '../snap.js';
import { heldOtherwise } from './heldOtherwise.js';
import { otherSizes, type Drawn } from './otherSizes.js';
import { bitsOf, KNOWN } from './say.js';

/**
 * The frame widths at which candidates are looked at, px: from a phone's to a desk's in even steps of ratio, fine
 * enough that no two devices that designers tell apart fall between two of them.
 */
const LOOKS: readonly number[] = Array.from({ length: 16 }, (_, i) => Math.round(320 * 6 ** (i / 15)));
/** A fault that costs less than this is left, bits: no change can be said for less. */
const LEAST = 0.3;
/** No more candidates are looked at for one fault; the proof lists the likely ones first. */
const MOST_TRIED = 16;
/** The work that is done at most, in parts looked at in one frame each: two thirds of a second or so, whatever the screen. */
const MOST_WORK = 60_000;

interface State {
  readonly structure: Structure;
  readonly faults: readonly Fault[];
  /** Bits. */
  readonly price: number;
}

interface Candidate {
  readonly structure: Structure;
  readonly say: number;
}

/** What a fault is told by, so that one that nothing helps against is not tried again. */
const keyOf = (f: Fault): string => `${f.kind} ${f.answerable} ${f.parts[0] ?? ''} ${f.from}`;

/**
 * A structure in which a rule is another wherever what it breaks between a phone's and a desk's width costs more than saying
 * the other one. What the drawings show stays where they show it. `tell` hears how much of the work is done, 0 to 1; throwing
 * from it cancels.
 */
export function judged(
  structure: Structure,
  drawings: readonly Drawing[],
  engine: Engine,
  tell: (done: number) => void = () => undefined,
): Structure {
  return new Judging(structure, drawings, engine, tell).result();
}

/** Whether a step takes something away: no fault is worth what nobody can see any more. */
const hides = (step: Step): boolean =>
  step.kind === 'setRules' && step.parts.some(({ set }) => set.hidden === true);

/** A breakpoint of the screen that is no more than this many times as wide serves as well as one of its own: screens have two or three. */
const NEAR = 1.4;

/** A step that holds below a breakpoint of its own, below the next of the screen instead, where one is near. */
function atKnown(step: Step, known: readonly number[]): Step[] {
  if (step.kind !== 'setRules' || step.below === undefined) return [];
  const { below } = step;
  const next = known.findLast((k) => k >= below && k <= below * NEAR);
  return next === undefined || next === below ? [] : [{ ...step, below: next }];
}

/** A step that holds in all frames, in narrow ones alone. */
const onlyBelow = (step: Step, below: number): Step[] =>
  step.kind === 'setRules' && step.below === undefined ? [{ ...step, below }] : [];

/**
 * All that is said below a breakpoint, said from where a fault ends that is due to it, or only up to where one begins. It costs no more
 * than saying which: drawings show that there is one, and not where.
 */
function breakpointsAgainst(structure: Structure, { from, to }: Fault): Step[] {
  const all = breakpoints(structure);
  return all.flatMap((at, i): Step[] => {
    const [wider = Infinity, narrower = 0] = [all[i - 1], all[i + 1]];
    const place = at <= from ? to + 1 : to < at ? from : undefined;
    if (place === undefined || place >= wider || place <= narrower) return [];
    return [{ kind: 'several', steps: breakpointSteps(structure, at, place) }];
  });
}

/** Faults of one kind that one container is answerable for, as one over all looks that show it. */
function overLooks(faults: readonly Fault[]): readonly Fault[] {
  const byCause = new Map<string, Fault>();
  for (const fault of faults) {
    const key = `${fault.kind} ${fault.answerable}`;
    const known = byCause.get(key);
    byCause.set(
      key,
      known
        ? {
            ...known,
            from: Math.min(known.from, fault.from),
            to: Math.max(known.to, fault.to),
            runs: [...known.runs, ...fault.runs],
            count: Math.max(known.count, fault.count),
          }
        : fault,
    );
  }
  return [...byCause.values()];
}

class Judging {
  readonly #drawings: readonly Drawing[];
  readonly #engine: Engine;
  readonly #tell: (done: number) => void;
  /** Where everything stands at each drawn width. */
  readonly #drawn: readonly ReadonlyMap<string, Rect>[];
  /** How far each drawing lets its items stand from there, px: one off its grid is off by so much itself. */
  readonly #close: readonly number[];
  readonly #drawnBox: Drawn;
  #state: State;
  readonly #parts: number;
  /** How much kept the structure from standing before. */
  readonly #problems: number;
  #work = 0;

  constructor(
    structure: Structure,
    drawings: readonly Drawing[],
    engine: Engine,
    tell: (done: number) => void,
  ) {
    this.#drawings = drawings;
    this.#engine = engine;
    this.#tell = tell;
    this.#drawn = drawings.map((d) => standingBoxes(structure, d.width, engine));
    this.#close = drawings.map((d) => (isOffGrid(d.items) ? ONE_EDGE : EXACT));
    const sorted = drawings.toSorted((a, b) => b.width - a.width);
    const boxes = sorted.map(({ width, height }) => ({
      width,
      parts: reflow(standing(structure, { width }), width, engine, height).parts,
    }));
    this.#drawnBox = (id, below = Infinity) => boxes.find((d) => d.width < below)?.parts.get(id);
    this.#parts = [...walk(structure.root)].length;
    this.#problems = checkAll(structure).length;
    this.#state = this.#look(structure);
  }

  result(): Structure {
    const left = new Set<string>();
    while (this.#work < MOST_WORK) {
      const worst = this.#worst(left);
      if (!worst) break;
      const better = this.#betterThan(worst);
      if (better) {
        this.#state = better;
        left.clear();
      } else left.add(keyOf(worst));
    }
    return this.#state.structure;
  }

  #look(structure: Structure): State {
    const errors = this.#errorsAt(structure, LOOKS);
    return { structure, faults: errors, price: errors.reduce((sum, f) => sum + priceAt(f, LOOKS.length), 0) };
  }

  #errorsAt(structure: Structure, only: readonly number[]): readonly Fault[] {
    this.#work += this.#parts * only.length;
    this.#tell(Math.min(1, this.#work / MOST_WORK));
    const options = { drawings: this.#drawings, checks: GRAVE_CHECKS, only };
    return prove(structure, this.#engine, options).faults.filter((f) => f.severity === 'error');
  }

  #worst(left: ReadonlySet<string>): Fault | undefined {
    let worst: { fault: Fault; price: number } | undefined;
    for (const fault of overLooks(this.#state.faults)) {
      const price = priceAt(fault, LOOKS.length);
      if (price >= LEAST && price > (worst?.price ?? 0) && !left.has(keyOf(fault))) worst = { fault, price };
    }
    return worst && { ...worst.fault, to: this.#edgeOf(worst.fault) };
  }

  /** The widest frame with a fault, px: between the widest look that shows it and the next. */
  #edgeOf(fault: Fault): number {
    const next = LOOKS[LOOKS.indexOf(fault.to) + 1];
    if (next === undefined) return fault.to;
    let [low, high] = [fault.to, next];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      const found = this.#errorsAt(this.#state.structure, [middle]);
      if (found.some((f) => f.kind === fault.kind && f.answerable === fault.answerable)) low = middle;
      else high = middle;
    }
    return low;
  }

  /** The cheapest of what could be said against a fault; undefined where all cost more than the fault. */
  #betterThan(fault: Fault): State | undefined {
    const misfits: Step[] = [];
    return (
      this.#cheapest(this.#candidates(fault, misfits)) ?? this.#cheapest(this.#inNarrowFrames(fault, misfits))
    );
  }

  #cheapest(candidates: Iterable<Candidate>): State | undefined {
    let best: State | undefined;
    let least = this.#state.price;
    let tried = 0;
    for (const { structure, say } of candidates) {
      if (tried++ >= MOST_TRIED || this.#work >= MOST_WORK) break;
      const next = this.#look(structure);
      if (next.price + say < least) [best, least] = [next, next.price + say];
    }
    return best;
  }

  /** What could be said against a fault; steps that help and do not stand as drawn are added to `misfits`. */
  *#candidates(fault: Fault, misfits: Step[]): Generator<Candidate> {
    const { structure } = this.#state;
    const drawn = this.#drawings.map((d) => d.width);
    const steps = [
      ...otherSizes(structure, fault, this.#drawnBox),
      ...heldOtherwise(structure, fault, this.#drawnBox),
      ...waysAgainst(structure, fault, (id) => this.#drawnBox(id)?.width ?? Infinity)
        .map((way) => way.step)
        .filter((step) => !hides(step) && !this.#lowers(step)),
    ];
    const known = breakpoints(structure);
    const moved = breakpointsAgainst(structure, fault);
    const ofAll = inAllCopies(structure);
    for (const one of [...moved, ...steps.flatMap((s) => [...atKnown(s, known), s])]) {
      // What holds for one copy of a pattern holds for all, unless the others cannot do it.
      for (const step of [ofAll(one), one]) {
        const now = step && this.#helpedBy(step, fault);
        if (!step || !now) continue;
        if (this.#standsAsDrawn(now))
          yield { structure: now, say: moved.includes(one) ? KNOWN : bitsOf(one, drawn, known) };
        else misfits.push(step);
      }
    }
  }

  /** What helps and does not fit as drawn, said of narrow frames alone. */
  *#inNarrowFrames(fault: Fault, misfits: readonly Step[]): Generator<Candidate> {
    const drawn = this.#drawings.map((d) => d.width);
    const known = breakpoints(this.#state.structure);
    for (const step of misfits.flatMap((s) => onlyBelow(s, fault.to + 1))) {
      const now = this.#helpedBy(step, fault);
      if (now && this.#standsAsDrawn(now)) yield { structure: now, say: bitsOf(step, drawn, known) };
    }
  }

  /** The structure after a step that helps against a fault and breaks nothing; undefined where it does not. */
  #helpedBy(step: Step, fault: Fault): Structure | undefined {
    const { structure } = this.#state;
    const result = applyStep(structure, step);
    if (!result.ok || result.doc === structure || checkAll(result.doc).length > this.#problems)
      return undefined;
    return this.#helps(result.doc, fault) ? result.doc : undefined;
  }

  /** Whether a step puts into the flow what was drawn over its siblings: a dialog, a sheet or a badge is no part of what is below it. */
  #lowers(step: Step): boolean {
    if (step.kind !== 'setRules') return false;
    return step.parts.some(({ id, set }) => {
      const over = this.#drawnBox(id);
      if (set.pin !== null || !over) return false;
      const parent = pathTo(this.#state.structure.root, id).at(-2);
      return (parent?.children ?? []).some((c) => {
        const under = c.id === id || c.rules.pin ? undefined : this.#drawnBox(c.id);
        return under !== undefined && covers(under, over);
      });
    });
  }

  /** Whether a fault is gone in one of the frames that show it. */
  #helps(structure: Structure, fault: Fault): boolean {
    return [...new Set([fault.from, fault.to])].some(
      (width) =>
        !this.#errorsAt(structure, [width]).some(
          (f) =>
            f.kind === fault.kind &&
            (f.answerable === fault.answerable || f.parts.some((p) => fault.parts.includes(p))),
        ),
    );
  }

  #standsAsDrawn(structure: Structure): boolean {
    return this.#drawings.every((drawing, i) => {
      const places = standingBoxes(structure, drawing.width, this.#engine);
      const close = this.#close[i] ?? EXACT;
      return [...(this.#drawn[i] ?? [])].every(([id, box]) => {
        const now = places.get(id);
        return now !== undefined && distance(box, now) <= close;
      });
    });
  }
}
