import type { Drawing } from '../drawing/index.js';
import type { Engine } from '../layout/index.js';
import { bottom, right, walk, type Part, type Rect, type Structure } from '../model/index.js';
import { CHECKS } from './checks/index.js';
import { faultsOf, type Fault } from './faults.js';
import { Findings } from './findings.js';
import { Look, type Teller } from './look.js';
import { Plan, type Check, type Reference } from './plan.js';
import {
  at,
  edgesIn,
  isShown,
  type Edges,
  type Index,
  type Scene,
  type Snapshot,
  type View,
} from './scene.js';
import { eachOf, Layouts, stretches } from './sweep.js';
import type { Originals } from './trials.js';

/** Whole frame widths, both ends included, px. */
export interface Range {
  readonly from: number;
  readonly to: number;
}

/** The widths that a screen is proved for where nothing else is said. */
export const USUAL_RANGE: Range = { from: 320, to: 1920 };

export interface ProveOptions {
  /** {@link USUAL_RANGE} where it is left out. */
  readonly range?: Range;
  /** The widths of its drawings; that of the structure where it is left out. */
  readonly drawnWidths?: readonly number[];
  /** The drawings themselves, where they are at hand: then these say what they do, not the structure at their widths. */
  readonly drawings?: readonly Drawing[];
  /** What is looked for; everything where it is left out. */
  readonly checks?: readonly Check[];
  readonly view?: View;
  /** The name that the faults carry. */
  readonly trial?: string;
  /** The screen as it is, where the structure is a copy of it with other content; ids lead back by `original`. */
  readonly base?: Structure;
  readonly original?: Originals;
  /** Only these widths are judged, the narrowest first and each by itself: a first look, or what the sweep is measured against. */
  readonly only?: readonly number[];
}

/** What a proof has found. */
export interface Proof {
  readonly range: Range;
  readonly faults: readonly Fault[];
  /** What the drawings themselves do at their own widths. */
  readonly drawnSo: readonly Fault[];
}

/** The edges of a layout in the order of other parts, of which each has a number in it or none. */
function reordered(edges: Edges, order: readonly (Index | undefined)[]): Edges {
  const side = (list: Float64Array) => order.map((i) => (i === undefined ? NaN : at(list, i)));
  const { left, top, right: end, bottom: foot } = edges;
  return edgesIn(Float64Array.from([left, top, end, foot].flatMap(side)));
}

/** The number that each part of a copy has in the screen itself; undefined for what is new in the copy. */
function originals(copy: readonly Part[], base: Structure, original: Originals) {
  const numbers = new Map([...walk(base.root)].map((p, i) => [p.id, i]));
  return copy.map((p) => (original.get(p.id) === null ? undefined : numbers.get(original.get(p.id) ?? p.id)));
}

/** A layout in other numbers. */
const renumbered = (shot: Snapshot, order: readonly (Index | undefined)[]): Snapshot => ({
  width: shot.width,
  box: reordered(shot.box, order),
  ink: reordered(shot.ink, order),
  lines: order.map((i) => (i === undefined ? undefined : shot.lines[i])),
});

/** A layout with what a drawing has where the drawing has it. */
function placedAsDrawn(shot: Snapshot, structure: Structure, drawing: Drawing | undefined): Snapshot {
  if (!drawing) return shot;
  const items = new Map(drawing.items.map((item) => [item.id, item.box]));
  const ink = edgesIn(shot.ink.all.slice());
  [...walk(structure.root)].forEach((part, i) => {
    const box = items.get(part.source[0] ?? '');
    if (!box || !isShown(shot, i)) return;
    ink.left[i] = box.x;
    ink.top[i] = box.y;
    ink.right[i] = right(box);
    ink.bottom[i] = bottom(box);
  });
  return { ...shot, ink };
}

/** What is looked at on each stretch of one range. */
function looksOf(checks: readonly Check[], plan: Plan): ((look: Look) => void)[] {
  return checks.map((check) => check(plan)).filter((check) => check !== undefined);
}

/** What the drawings do themselves, each at its own width. */
function drawnFindings(references: readonly Reference[], checks: readonly Check[], engine: Engine): Findings {
  const drawn = new Findings();
  const teller: Teller = {
    limitOf: (_, limit) => limit,
    tell: (finding) => {
      drawn.add(finding);
    },
  };
  for (const { scene, shot } of references) {
    const { width } = shot;
    const look = new Look({ from: width, to: width, scene, first: shot, last: shot }, teller);
    const plan = new Plan(scene, [{ scene, shot }], engine.intrinsic, shot);
    for (const check of looksOf(checks, plan)) check(look);
  }
  return drawn;
}

/**
 * Proves a structure over a range of widths: between two events all boxes are linear in the width, so that each stretch
 * is judged once and every whole width is covered exactly. Yields what has been found so far and the widest frame that
 * was looked at; stop asking to stop it.
 */
export function* proving(
  structure: Structure,
  engine: Engine,
  options: ProveOptions = {},
): Generator<{ readonly width: number; readonly faults: () => readonly Fault[] }, Proof> {
  const { range = USUAL_RANGE, trial = null, base = structure, original, only, checks = CHECKS } = options;
  // A frame that fills its window is as high as the drawing, unless something else is said.
  const view: View = { height: structure.drawn.height, ...options.view };
  const drawnWidths = options.drawnWidths ?? options.drawings?.map((d) => d.width) ?? [structure.drawn.width];
  const parts = [...walk(structure.root)];
  const layouts = new Layouts(base, engine, { height: base.drawn.height });
  const viewed = new Layouts(structure, engine, view);
  const asDrawn = drawnWidths.map((width): Reference => ({
    scene: layouts.scene(width),
    shot: placedAsDrawn(
      layouts.at(width),
      base,
      options.drawings?.find((d) => d.width === width),
    ),
  }));
  const drawn = drawnFindings(asDrawn, checks, engine);
  const order = base === structure ? undefined : originals(parts, base, original ?? new Map());
  const references = order
    ? asDrawn.map(({ scene, shot }) => ({ scene, shot: renumbered(shot, order) }))
    : asDrawn;
  const inBase = (i: Index): Index => (order ? (order[i] ?? -1) : i);
  const nearest = (width: number) =>
    references.toSorted(
      (a, b) => Math.abs(Math.log(a.shot.width / width)) - Math.abs(Math.log(b.shot.width / width)),
    );
  const boxAt = (part: Index, width: number): Rect | null => {
    const shot = viewed.at(width);
    if (!isShown(shot, part)) return null;
    const { left, top, right, bottom } = shot.box;
    const [x, y] = [at(left, part), at(top, part)];
    return { x, y, width: at(right, part) - x, height: at(bottom, part) - y };
  };

  const findings = new Findings();
  const named = original ? parts.map((p) => ({ ...p, id: original.get(p.id) ?? p.id })) : parts;
  const faults = () => faultsOf(structure.root, named, findings.all, trial, boxAt);
  const marks = drawnWidths
    .toSorted((a, b) => a - b)
    .flatMap((w, i, all) => {
      const next = all[i + 1];
      // From the middle between two drawings on, in ratio, the wider one is the nearer.
      return [
        Math.floor(w),
        Math.floor(w) + 1,
        ...(next === undefined ? [] : [Math.ceil(Math.sqrt(w * next))]),
      ];
    });
  const all = only ? eachOf(viewed, only) : stretches(structure, viewed, range, marks);
  const teller: Teller = {
    limitOf: (subject, limit) =>
      drawn.limitFor({ ...subject, part: inBase(subject.part), other: inBase(subject.other) }, limit),
    tell: (finding) => {
      findings.add(finding);
    },
  };
  let planned: { scene: Scene; nearest: Reference | undefined; checks: ((look: Look) => void)[] } | undefined;
  for (const stretch of all) {
    const { scene } = stretch;
    const byDistance = nearest(stretch.from);
    if (planned?.scene !== scene || planned.nearest !== byDistance[0]) {
      const plan = new Plan(scene, byDistance, engine.intrinsic, stretch.first);
      planned = { scene, nearest: byDistance[0], checks: looksOf(checks, plan) };
    }
    const look = new Look(stretch, teller);
    for (const check of planned.checks) check(look);
    yield { width: stretch.to, faults };
  }
  return {
    range,
    faults: faults(),
    drawnSo: base === structure ? faultsOf(structure.root, parts, drawn.all, trial, boxAt) : [],
  };
}

/** Proves a structure as {@link proving} does, in one go. */
export function prove(structure: Structure, engine: Engine, options: ProveOptions = {}): Proof {
  const steps = proving(structure, engine, options);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
