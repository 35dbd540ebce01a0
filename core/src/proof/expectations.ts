import type { Drawing } from '../drawing/index.js';
import type { Engine } from '../layout/index.js';
import { round, ruleOf, walk, type Part, type Structure } from '../model/index.js';
import { deviations, EXACT } from './faithful.js';
import { joinedRuns, type Fault } from './faults.js';
import type { FaultKind } from './kinds.js';
import { allOver, type Holds } from './linear.js';
import { heightOf, widthOf } from './look.js';
import { USUAL_RANGE, type Range } from './prove.js';
import { rowCounts } from './rows.js';
import { isShown, type Index, type Snapshot } from './scene.js';
import { Layouts, stretches, type Stretch } from './sweep.js';

/** How a number is held to another. */
export type Comparison = 'at most' | 'at least' | 'exactly';

/** Something that the designer has said once and that every later change is held to. */
export type Expectation =
  | { readonly kind: 'none'; readonly fault: FaultKind | 'error' | 'warning'; readonly range: Range }
  | Measured
  | { readonly kind: 'order'; readonly range: Range }
  | { readonly kind: 'as drawn'; readonly width: number };

/** An expectation about how many or how large something is. */
export interface Measured {
  readonly kind: 'columns' | 'lines' | 'width' | 'height';
  /** The name of a part or of a pattern; all parts of that name are meant. */
  readonly part: string;
  readonly is: Comparison;
  readonly number: number;
  readonly range: Range;
}

/** Whether an expectation holds, and where it does not. */
export interface Held {
  readonly expectation: Expectation;
  readonly holds: boolean;
  /** The runs of frame widths at which it does not. */
  readonly broken: readonly Range[];
  /** By how much at the worst: px, or a count. */
  readonly by: number;
  /** Ids of the parts that do not hold to it. */
  readonly parts: readonly string[];
  /** Why it could not be looked at: nothing has that name, or there is no such drawing. */
  readonly reason?: string;
}

/** What expectations are held against. */
export interface Proved {
  readonly structure: Structure;
  readonly engine: Engine;
  /** What was found over {@link range}, without trials. */
  readonly faults: readonly Fault[];
  readonly range: Range;
  /** The drawings of the screen, their items called as in the structure. */
  readonly drawings: readonly Drawing[];
}

/** Lengths may be off by this much, px. */
const LENGTH_SLACK = 0.5;

const within = (a: Range, b: Range): Range => ({ from: Math.max(a.from, b.from), to: Math.min(a.to, b.to) });

/** Tells of each expectation whether it holds. */
export function holdTo(expectations: readonly Expectation[], proved: Proved): Held[] {
  const found = expectations.map((e) => (isMeasured(e) ? new Measuring(e, proved) : undefined));
  const measuring = found.filter((m) => m !== undefined && m.indices.length > 0);
  if (measuring.length > 0) {
    const { structure, engine, range } = proved;
    for (const stretch of stretches(structure, new Layouts(structure, engine), range))
      for (const m of measuring) m?.look(stretch);
  }
  return expectations.map((expectation, i) => found[i]?.held ?? heldByFaults(expectation, proved));
}

const isMeasured = (e: Expectation): e is Measured => 'part' in e;

function heldByFaults(expectation: Expectation, { structure, engine, faults, drawings }: Proved): Held {
  if (expectation.kind === 'as drawn') {
    const drawing = drawings.find((d) => Math.round(d.width) === Math.round(expectation.width));
    if (!drawing) {
      const reason = `The screen has no drawing at ${expectation.width}: add one, or name a width that was drawn.`;
      return { expectation, holds: false, broken: [], by: 0, parts: [], reason };
    }
    const limit = Math.max(EXACT, structure.snap);
    const off = deviations(structure, drawing, engine).filter((d) => !(d.by <= limit));
    const owners = new Map([...walk(structure.root)].flatMap((p) => p.source.map((s) => [s, p.id] as const)));
    return {
      expectation,
      holds: off.length === 0,
      broken: off.length === 0 ? [] : [{ from: drawing.width, to: drawing.width }],
      by: round(Math.max(0, ...off.map((d) => d.by)), 2),
      parts: off.flatMap((d) => owners.get(d.item) ?? []),
    };
  }
  const isMeant = (f: Fault): boolean => {
    if (f.trial !== null) return false;
    if (expectation.kind === 'order') return f.kind === 'order';
    if (expectation.kind !== 'none') return false;
    const { fault } = expectation;
    if (fault === 'error') return f.severity === 'error';
    return fault === 'warning' ? f.severity !== 'note' : f.kind === fault;
  };
  const { range } = expectation as { range: Range };
  const against = faults.filter((f) => isMeant(f) && f.runs.some((r) => isSome(within(r, range))));
  return {
    expectation,
    holds: against.length === 0,
    broken: joinedRuns(against.flatMap((f) => f.runs.map((r) => within(r, range)).filter(isSome))),
    by: round(Math.max(0, ...against.map((f) => f.by)), 2),
    parts: [...new Set(against.flatMap((f) => f.parts))],
  };
}

const isSome = ({ from, to }: Range): boolean => from <= to;

/** The parts of a name, or of a pattern of that name; capitals do not matter. */
const named = (root: Part, name: string): [Index, Part][] =>
  [...walk(root)].flatMap((part, i) =>
    [part.name, part.pattern].some((n) => n?.toLowerCase() === name.toLowerCase()) ? [[i, part]] : [],
  );

/** Measures one expectation along the stretches of a sweep. */
class Measuring {
  readonly #expectation: Measured;
  readonly #range: Range;
  readonly indices: readonly Index[];
  readonly #broken = new Map<Index, Holds[]>();
  readonly #reason: string | undefined;
  readonly #parts: readonly Part[];

  constructor(expectation: Measured, { structure, range }: Proved) {
    this.#expectation = expectation;
    this.#range = within(expectation.range, range);
    this.#parts = [...walk(structure.root)];
    const meant = named(structure.root, expectation.part);
    const numbers = new Map(this.#parts.map((p, i) => [p.id, i]));
    const inside = meant.map(([, part]) => (expectation.kind === 'columns' ? listIn(part) : part));
    const suited = expectation.kind === 'lines' ? inside.flatMap(textsIn) : inside;
    this.indices = suited.map((p) => numbers.get(p.id) ?? 0);
    if (meant.length === 0)
      this.#reason = `Nothing is called “${expectation.part}”: use a name from the parts list.`;
    else if (suited.length === 0) this.#reason = `“${expectation.part}” has no words: name a text.`;
  }

  look(stretch: Stretch): void {
    const { from, to } = within(stretch, this.#range);
    if (from > to) return;
    for (const i of this.indices) {
      if (!isShown(stretch.first, i)) continue;
      const value = (s: Snapshot) => this.#value(s, stretch, i);
      for (const sign of this.#signs()) {
        const off = (s: Snapshot) => (value(s) - this.#expectation.number) * sign;
        const holds = allOver(
          [[off(stretch.first), off(stretch.last)]],
          LENGTH_SLACK,
          stretch.from,
          stretch.to,
        );
        const cut = holds && within(holds, this.#range);
        if (holds && cut && isSome(cut)) this.#add(i, { ...holds, ...cut });
      }
    }
  }

  /** On which sides of the number the value may not be: 1 above, -1 below. */
  #signs(): readonly (1 | -1)[] {
    const { is } = this.#expectation;
    return is === 'at most' ? [1] : is === 'at least' ? [-1] : [1, -1];
  }

  #value(s: Snapshot, { scene }: Stretch, i: Index): number {
    switch (this.#expectation.kind) {
      case 'width':
        return widthOf(s, i);
      case 'height':
        return heightOf(s, i);
      case 'lines':
        return s.lines[i]?.length ?? 0;
      case 'columns': {
        const kids = (scene.children[i] ?? []).filter((c) => isShown(s, c) && !scene.parts[c]?.rules.pin);
        return Math.max(0, ...rowCounts(s, kids));
      }
    }
  }

  #add(i: Index, holds: Holds): void {
    const runs = this.#broken.get(i) ?? [];
    this.#broken.set(i, runs);
    const last = runs.at(-1);
    if (last && last.to >= holds.from - 1)
      runs[runs.length - 1] = {
        ...last,
        to: Math.max(last.to, holds.to),
        by: Math.max(last.by, holds.by),
      };
    else runs.push(holds);
  }

  get held(): Held {
    const runs = [...this.#broken.values()].flat();
    const broken = joinedRuns(runs);
    return {
      expectation: this.#expectation,
      holds: broken.length === 0 && this.#reason === undefined,
      broken,
      by: round(Math.max(0, ...runs.map((r) => r.by)), 2),
      parts: [...this.#broken.keys()].map((i) => this.#parts[i]?.id ?? ''),
      ...(this.#reason !== undefined && { reason: this.#reason }),
    };
  }
}

/** What in a part stands in columns: the container with the most children of one pattern, else the part itself. */
function listIn(part: Part): Part {
  const lists = [...walk(part)].map((p) => ({
    p,
    count: p.children.filter((c) => c.pattern !== undefined && !c.rules.pin).length,
  }));
  return lists.reduce((a, b) => (b.count > a.count ? b : a), { p: part, count: 1 }).p;
}

const textsIn = (part: Part): Part[] => [...walk(part)].filter((p) => p.content?.kind === 'text');

/** No more expectations are proposed at once. */
const MOST_PROPOSED = 8;
/** Widths are proposed as whole steps of this, px. */
const STEP = 10;

/** Expectations that hold now, for the designer to choose from; the most telling first. */
export function proposeExpectations(proved: Proved): Expectation[] {
  const { structure, engine, drawings, range } = proved;
  const found: Expectation[] = [
    { kind: 'none', fault: 'side-scroll', range },
    { kind: 'none', fault: 'error', range },
    ...drawings.map((d): Expectation => ({ kind: 'as drawn', width: d.width })),
    { kind: 'order', range },
  ];
  const layouts = new Layouts(structure, engine);
  const lists = [...walk(structure.root)].flatMap((part, i) =>
    part.children.filter((c) => c.pattern !== undefined).length > 1 &&
    ['grid', 'wrap', 'row'].includes(ruleOf(part.rules, 'flow'))
      ? [{ part, i }]
      : [],
  );
  for (const { part, i } of lists) {
    let narrowest = Infinity;
    /** The widest frame up to which all stand one below another. */
    let single = 0;
    let turned = false;
    for (const stretch of stretches(structure, layouts, range)) {
      const kids = (stretch.scene.children[i] ?? []).filter((c) => isShown(stretch.first, c));
      for (const shot of [stretch.first, stretch.last])
        for (const kid of kids) narrowest = Math.min(narrowest, widthOf(shot, kid));
      turned ||= Math.max(0, ...rowCounts(stretch.last, kids)) !== 1;
      if (!turned) single = stretch.to;
    }
    if (single > range.from && single < range.to)
      found.push({
        kind: 'columns',
        part: part.name,
        is: 'exactly',
        number: 1,
        range: { from: USUAL_RANGE.from, to: single },
      });
    const pattern = part.children.find((c) => c.pattern !== undefined)?.pattern;
    const least = Math.floor(narrowest / STEP) * STEP;
    if (pattern !== undefined && least > 0 && least < Infinity)
      found.push({ kind: 'width', part: pattern, is: 'at least', number: least, range });
  }
  const held = holdTo(found, proved);
  return found.filter((_, n) => held[n]?.holds).slice(0, MOST_PROPOSED);
}
