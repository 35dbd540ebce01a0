import { alikeKeys, type Part, type Rect } from '../model/index.js';
import type { Found } from './findings.js';
import { KINDS, SEVERITIES, type FaultKind, type Severity } from './kinds.js';

/** Something wrong at a range of frame widths. Faults with one cause at many places are one. */
export interface Fault {
  readonly kind: FaultKind;
  readonly severity: Severity;
  /** Ids of the parts that it shows at, the first {@link MOST_PARTS} of them. */
  readonly parts: readonly string[];
  /** At how many places it shows. */
  readonly count: number;
  /** The narrowest and the widest frame with it, px, and the runs of widths in between. */
  readonly from: number;
  readonly to: number;
  readonly runs: readonly { readonly from: number; readonly to: number }[];
  /** The trial that brings it about; null for the screen as it is. */
  readonly trial: string | null;
  /** How much it is at the worst: px for lengths, else a count or a ratio. */
  readonly by: number;
  /** The id of the container whose rules are answerable. */
  readonly answerable: string;
  /** Where to look: the worst width, and the box of the first part there, px from the frame's top left corner. */
  readonly place: { readonly width: number; readonly box: Rect | null };
}

/** No more parts of one fault are named. */
export const MOST_PARTS = 40;
/** Runs of widths that are no further apart than this, px, are one fault: what comes and goes as words break. */
const ONE_FAULT = 24;

interface Group {
  readonly kind: FaultKind;
  readonly severity: Severity;
  readonly answerable: number;
  readonly found: Found[];
}

/** Runs of widths in order, joined where they meet or overlap. */
export function joinedRuns(
  runs: readonly { readonly from: number; readonly to: number }[],
): { from: number; to: number }[] {
  const result: { from: number; to: number }[] = [];
  for (const { from, to } of runs.toSorted((a, b) => a.from - b.from)) {
    const last = result.at(-1);
    if (last && from <= last.to + 1) last.to = Math.max(last.to, to);
    else result.push({ from, to });
  }
  return result;
}

const rank = (f: Fault): number => SEVERITIES.indexOf(f.severity);

/** Whether a fault is there in a frame of this width, px. */
export const isAt = ({ runs }: Pick<Fault, 'runs'>, width: number): boolean =>
  runs.some((r) => r.from <= width && width <= r.to);

/** How far an order of importance goes: severity first, then how many widths it is at. */
function byWeight(a: Fault, b: Fault): number {
  const widths = (f: Fault) => f.runs.reduce((sum, r) => sum + r.to - r.from + 1, 0);
  return rank(a) - rank(b) || widths(b) - widths(a) || a.from - b.from || a.kind.localeCompare(b.kind);
}

/**
 * Findings as faults, the worst first: those of one kind for which one container, or alike ones, are answerable are
 * one. `parts` are those of the tree by number, under the ids that are to be told; `boxAt` tells where a part stands at a
 * width.
 */
export function faultsOf(
  root: Part,
  parts: readonly Part[],
  all: readonly Found[],
  trial: string | null,
  boxAt: (part: number, width: number) => Rect | null,
): Fault[] {
  const keys = [...alikeKeys(root).values()];
  const groups = new Map<string, Group>();
  for (const found of all) {
    const { kind, severity = KINDS[kind].severity, answerable } = found.subject;
    const key = `${kind} ${severity} ${keys[answerable] ?? ''}`;
    const group = groups.get(key) ?? { kind, severity, answerable, found: [] };
    groups.set(key, group);
    group.found.push(found);
  }
  return [...groups.values()].flatMap((group) => faultsOfGroup(parts, group, trial, boxAt)).sort(byWeight);
}

function faultsOfGroup(
  parts: readonly Part[],
  { kind, severity, answerable, found }: Group,
  trial: string | null,
  boxAt: (part: number, width: number) => Rect | null,
): Fault[] {
  const idOf = (i: number): string => parts[i]?.id ?? '';
  const clusters: { from: number; to: number }[][] = [];
  for (const run of joinedRuns(found.flatMap((f) => f.runs))) {
    const last = clusters.at(-1);
    if (last && run.from - (last.at(-1)?.to ?? 0) <= ONE_FAULT) last.push(run);
    else clusters.push([run]);
  }
  return clusters.map((runs): Fault => {
    const [from, to] = [runs[0]?.from ?? 0, runs.at(-1)?.to ?? 0];
    const inside = found.flatMap(({ subject, runs: own }) =>
      own.filter((r) => r.from <= to && r.to >= from).map((r) => ({ subject, run: r })),
    );
    const worst = inside.reduce(
      (a, b) => (b.run.by > a.run.by ? b : a),
      inside[0] as (typeof inside)[number],
    );
    const shows = new Set(
      inside.flatMap(({ subject }) => [subject.part, ...(subject.other >= 0 ? [subject.other] : [])]),
    );
    const ids = [worst.subject.part, ...[...shows].filter((i) => i !== worst.subject.part)];
    return {
      kind,
      severity,
      parts: [...new Set(ids.slice(0, MOST_PARTS).map(idOf))],
      count: new Set(inside.map(({ subject }) => subject)).size,
      from,
      to,
      runs,
      trial,
      by: worst.run.by,
      answerable: idOf(answerable),
      place: { width: worst.run.worst, box: boxAt(worst.subject.part, worst.run.worst) },
    };
  });
}

/** A fault whose edge moves by less than this is the same, px. */
const EDGE = 2;

/**
 * Whether others say already what a fault says: one of its kind, no less grave, at one of its parts or answerable by the same
 * container, over at least its widths.
 */
export function isSaidBy(fault: Fault, others: readonly Fault[]): boolean {
  const alike = others.filter(
    (f) =>
      f.kind === fault.kind &&
      rank(f) <= rank(fault) &&
      (f.answerable === fault.answerable || f.parts.some((p) => fault.parts.includes(p))),
  );
  return fault.runs.every((run) => alike.some((f) => f.from <= run.from + EDGE && f.to >= run.to - EDGE));
}
