import {
  FILL,
  findPart,
  FIT,
  NO_PADDING,
  pathTo,
  plainText,
  ruleOf,
  standing,
  type Part,
  type RuleChange,
  type Step,
  type Structure,
} from '../../model/index.js';
import { gapUnder } from '../../layout/index.js';
import type { Fault } from '../faults.js';
import type { FaultKind } from '../kinds.js';

/** A change that a designer would try against a fault. */
export interface Way {
  /** What it does, as an answer to “what shall be done?”. */
  readonly label: string;
  readonly step: Step;
  /** How much it changes: the cheapest that helps comes first. */
  readonly cost: number;
  /** Whether it takes something away or guesses, so that the designer has to choose it. */
  readonly doubtful?: boolean;
}

/** What ways are made from. */
interface Seen {
  readonly structure: Structure;
  readonly fault: Fault;
  /** The parts from the frame to the answerable one, as they stand at the fault's worst width. */
  readonly path: readonly Part[];
  /** Those between the answerable one and the part that it shows at: what only wraps a line has no line of its own. */
  readonly inner: readonly Part[];
  /** The part that it shows at. */
  readonly at: Part | undefined;
  /** How wide a part was drawn, px; Infinity for one that the drawing does not show. */
  readonly drawnWidth: (id: string) => number;
  /** Where a change would begin to hold: just above the fault; undefined where that is above the drawn width. */
  readonly below: number | undefined;
}

/** Breakpoints are whole steps of this, px. */
const STEP = 20;
/** The gap of a column that a row turns into, where the row's is no number, px. */
const GAP = 16;
/** Parts that fill a row may be narrower than drawn by this share before it breaks. */
const BREAKS_UNDER = 0.75;
/** The least target, px (WCAG 2.2 §2.5.8). */
const TARGET = 24;
/** Words a line for readers: 70 characters, half an em each, is what books have. */
const READABLE = 70 * 0.5;

type Change = readonly [part: Part, set: RuleChange];

/** Rules of some parts at once: for all frames, or for those below a width. */
function setting(changes: readonly Change[], below?: number): Step {
  return {
    kind: 'setRules',
    ...(below !== undefined && { below }),
    parts: changes.map(([part, set]) => ({ id: part.id, set })),
  };
}

const inFlow = (part: Part): Part[] => part.children.filter((c) => !c.rules.pin && !c.rules.hidden);
const named = (part: Part): string => `“${part.name.length > 24 ? `${part.name.slice(0, 23)}…` : part.name}”`;

/** Ways that make room along a line: for what holds things side by side. */
function* roomInLine({ path, inner, below, drawnWidth }: Seen): Generator<Way> {
  const isLine = (p: Part) => ['row', 'grid', 'wrap'].includes(ruleOf(p.rules, 'flow'));
  const lines = [...path.filter(isLine).slice(-2), ...inner.filter(isLine)];
  for (const line of lines.toReversed()) {
    const flow = ruleOf(line.rules, 'flow');
    const kids = inFlow(line);
    if (flow === 'grid') yield* fewerColumns(line, below);
    if (kids.length < 2 || flow === 'grid') continue;
    const own = ruleOf(line.rules, 'gap');
    const gap = typeof own === 'number' ? Math.max(0, own) : GAP;
    const under = gapUnder(gap);
    const wrapping = { flow: 'wrap', gap, ...(under !== gap && { crossGap: under }) } as const;
    if (flow === 'row') {
      yield {
        label: `Let ${named(line)} wrap${below === undefined ? '' : ` below ${below}`}`,
        step: setting([[line, wrapping]], below),
        cost: 2,
      };
      const fills = kids.filter((c) => c.rules.width?.kind === 'fill');
      const narrowest = Math.min(...fills.map((c) => drawnWidth(c.id)));
      const least = Math.floor((narrowest * BREAKS_UNDER) / STEP) * STEP;
      if (fills.length > 1 && least > 0 && least < Infinity)
        yield {
          label: `Break ${named(line)} where its parts would be under ${least}`,
          step: setting([[line, wrapping], ...fills.map((c): Change => [c, { minWidth: least }])]),
          cost: 2.2,
        };
      const fixedKids = kids.filter((c) => c.rules.width?.kind === 'fixed' && c.kind !== 'text');
      const wide = fixedKids.filter((c) => widthPx(c) > TARGET * 4);
      if (wide.length > 0)
        yield {
          label: `Let ${wide.length === 1 ? named(wide[0] as Part) : `the fixed parts of ${named(line)}`} give way first`,
          step: setting(wide.map((c): Change => [c, { width: FILL, maxWidth: widthPx(c) }])),
          cost: 1.5,
        };
      const pictures = kids.filter((c) => c.kind === 'picture' && c.rules.givesWay !== 'first');
      if (pictures.length > 0)
        yield {
          label: 'Let the picture shrink first',
          step: setting(pictures.map((c): Change => [c, { givesWay: 'first' }])),
          cost: 1.2,
        };
    }
    if (below !== undefined)
      yield {
        label: `One below another under ${below}: ${named(line)}`,
        step: setting(
          [
            [line, { flow: 'column', gap: under, align: 'stretch', justify: null, reverse: null }],
            ...kids.map((c): Change => [c, inColumn(c)]).filter(([, set]) => Object.keys(set).length > 0),
          ],
          below,
        ),
        cost: 3,
      };
  }
}

const widthPx = (part: Part): number => (part.rules.width?.kind === 'fixed' ? part.rules.width.px : 0);

/** What a child of a row says otherwise in a column: it is as wide as that, no wider than it was where it was fixed. */
function inColumn(child: Part): RuleChange {
  const px = widthPx(child);
  if (!['fill', 'share', 'fixed'].includes(child.rules.width?.kind ?? 'fit')) return {};
  const isSmall = px > 0 && (child.kind !== 'container' || px <= TARGET * 4);
  if (isSmall) return { minWidth: null };
  return { width: FILL, minWidth: null, maxWidth: px > 0 ? px : null };
}

function* fewerColumns(grid: Part, below: number | undefined): Generator<Way> {
  const { columns } = grid.rules;
  const count =
    columns?.kind === 'count'
      ? columns.count
      : columns?.kind === 'tracks'
        ? columns.tracks.length
        : (columns?.most ?? 0);
  if (below === undefined || count < 2) return;
  const spans = inFlow(grid).filter((c) => c.rules.cell);
  for (const fewer of new Set([Math.ceil(count / 2), 1])) {
    if (fewer >= count) continue;
    yield {
      label: `${fewer === 1 ? 'One column' : `${fewer} columns`} below ${below}: ${named(grid)}`,
      step: setting(
        [
          [grid, { columns: { kind: 'count', count: fewer } }],
          ...spans.map((c): Change => [c, { cell: null }]),
        ],
        below,
      ),
      cost: fewer === 1 ? 3 : 2.5,
    };
  }
}

/** Ways that let widths give way which now do not: limits dropped, shares and fills instead of px. */
function* widthsThatGive({ path, at, below }: Seen): Generator<Way> {
  const around = [...path.slice(1), ...(at && !path.includes(at) ? [at] : [])];
  for (const part of around.toReversed().slice(0, 4)) {
    const { width, minWidth } = part.rules;
    if (width?.kind === 'fixed')
      yield {
        label: `Let ${named(part)} be narrower than ${width.px}`,
        step: setting([[part, { width: FILL, maxWidth: width.px, minWidth: null }]]),
        cost: 1,
      };
    if (minWidth !== undefined)
      yield {
        label: `Drop the min width of ${named(part)}${below === undefined ? '' : ` below ${below}`}`,
        step: setting([[part, { minWidth: null }]], below),
        cost: 1.5,
      };
    if (part.kind === 'text' && width?.kind === 'fit' && part.rules.pin)
      yield {
        label: `Keep ${named(part)} within its place`,
        step: setting([[part, { maxWidth: null, pin: { left: 0, ...part.rules.pin, right: 0 } }]], below),
        cost: 2.5,
        doubtful: true,
      };
  }
}

/** Paddings and gaps that step down in narrow frames. */
function* spaceThatSteps({ path, below }: Seen): Generator<Way> {
  if (below === undefined) return;
  const padded = path.filter((p) => {
    const { left, right } = p.rules.padding ?? NO_PADDING;
    return left + right >= 32;
  });
  if (padded.length === 0) return;
  const halved = (n: number) => Math.round(n / 2);
  yield {
    label: `Half the side paddings below ${below}`,
    step: setting(
      padded.map((p): Change => {
        const padding = p.rules.padding ?? NO_PADDING;
        return [p, { padding: { ...padding, left: halved(padding.left), right: halved(padding.right) } }];
      }),
      below,
    ),
    cost: 2,
  };
}

/** Heights that follow the content. */
function* heightsThatFit({ path, at }: Seen): Generator<Way> {
  const around = [...path, ...(at && !path.includes(at) ? [at] : [])].toReversed();
  const fixedOnes = around.filter(
    (p) => p.rules.height?.kind === 'fixed' && (p.kind === 'container' || p.kind === 'text'),
  );
  const px = (p: Part): number => (p.rules.height?.kind === 'fixed' ? p.rules.height.px : 0);
  const grown = (p: Part): RuleChange =>
    p.kind === 'text' ? { height: FIT, maxHeight: null } : { height: FIT, minHeight: px(p), maxHeight: null };
  for (const part of fixedOnes.slice(0, 3))
    yield {
      label: `Let ${named(part)} be as high as its content`,
      step: setting([[part, grown(part)]]),
      cost: 1,
    };
  if (fixedOnes.length > 1)
    yield {
      label: 'Let all around be as high as their content',
      step: setting(fixedOnes.map((p): Change => [p, grown(p)])),
      cost: 1.6,
    };
  const limited = around.find((p) => p.rules.maxHeight !== undefined);
  if (limited)
    yield {
      label: `Drop the max height of ${named(limited)}`,
      step: setting([[limited, { maxHeight: null }]]),
      cost: 1.2,
    };
}

/** Words that may break, or take more lines. */
function* wordsThatBreak({ at }: Seen): Generator<Way> {
  if (!at) return;
  const { maxLines } = at.rules;
  if (maxLines !== undefined) {
    yield {
      label: `Let ${named(at)} take ${maxLines + 1} lines`,
      step: setting([[at, { maxLines: maxLines + 1 }]]),
      cost: 1,
    };
    yield {
      label: `Let ${named(at)} take all its lines`,
      step: setting([[at, { maxLines: null }]]),
      cost: 1.4,
    };
  }
}

/** What hangs out of the flow put elsewhere, or into it. */
function* pinsElsewhere({ fault, structure, below, path }: Seen): Generator<Way> {
  const parts = standing(structure, { width: fault.place.width });
  const pinned = fault.parts.flatMap((id) => {
    const own = pathTo(parts, id).findLast((p) => p.rules.pin);
    return own ? [own] : [];
  });
  const [part] = pinned;
  const pin = part?.rules.pin;
  if (!part || !pin) return;
  const { left, right, leftShare, ...rest } = pin;
  if ((left ?? leftShare) !== undefined && right === undefined)
    yield {
      label: `Pin ${named(part)} to the right edge instead`,
      step: setting([[part, { pin: { ...rest, right: 0 } }]], below),
      cost: 2,
      doubtful: true,
    };
  const parent = pathTo(parts, part.id).at(-2);
  if (parent && ruleOf(parent.rules, 'flow') !== 'free')
    yield {
      label: `Put ${named(part)} into the flow${below === undefined ? '' : ` below ${below}`}`,
      step: setting([[part, { pin: null }]], below),
      cost: 2.2,
      doubtful: true,
    };
  if (parent && ruleOf(parent.rules, 'flow') === 'free' && below !== undefined) {
    const kids = parent.children.filter((c) => !c.rules.hidden);
    const sorted = kids.toSorted((a, b) => (a.rules.pin?.top ?? 0) - (b.rules.pin?.top ?? 0));
    yield {
      label: `One below another under ${below}: ${named(parent)}`,
      step: setting(
        [
          [parent, { flow: 'column', gap: GAP, height: FIT, width: path.length > 1 ? FILL : null }],
          ...sorted.map((c, order): Change => [
            c,
            { pin: null, order, ...(widthPx(c) > 0 && { width: FILL, maxWidth: widthPx(c) }) },
          ]),
        ],
        below,
      ),
      cost: 4,
      doubtful: true,
    };
  }
}

/** Hides the part in this range: the last resort, for the designer alone. */
function* hide({ at, below }: Seen): Generator<Way> {
  if (at && below !== undefined)
    yield {
      label: `Hide ${named(at)} below ${below}`,
      step: setting([[at, { hidden: true }]], below),
      cost: 6,
      doubtful: true,
    };
}

function* keepRatio({ at, structure, fault }: Seen): Generator<Way> {
  const box = fault.place.box;
  if (!at || !box) return;
  const drawn = findPart(structure.root, at.id);
  const { width, height } = drawn?.rules ?? {};
  if (width?.kind === 'fixed' && height?.kind === 'fixed') return;
  const natural = at.content?.kind === 'picture' ? at.content.natural : undefined;
  const view = at.content?.kind === 'art' ? at.content.view : undefined;
  const ratio = natural ? [natural.width, natural.height] : view ? [view[2], view[3]] : undefined;
  const [across = 0, down = 0] = ratio ?? [];
  if (across <= 0 || down <= 0) return;
  yield {
    label: `Keep the ratio of ${named(at)}`,
    step: setting([[at, { height: { kind: 'ratio', width: across, height: down }, alignSelf: 'start' }]]),
    cost: 1,
  };
  if (height?.kind === 'fixed')
    yield {
      label: `Keep the ratio of ${named(at)} by its height`,
      step: setting([[at, { width: { kind: 'ratio', width: across, height: down } }]]),
      cost: 1.2,
    };
}

function* limitSize({ at, fault, path }: Seen): Generator<Way> {
  if (!at) return;
  const natural = at.content?.kind === 'picture' ? at.content.natural : undefined;
  if (fault.kind === 'enlarged' && natural)
    yield {
      label: `No wider than its ${natural.width} pixels: ${named(at)}`,
      step: setting([[at, { maxWidth: natural.width }]]),
      cost: 1,
    };
  const { content } = at;
  if (fault.kind === 'long-lines' && content?.kind === 'text') {
    const size = content.runs[0]?.style.size ?? 16;
    const most = Math.round((size * READABLE) / 10) * 10;
    yield { label: `Limit ${named(at)} to ${most}`, step: setting([[at, { maxWidth: most }]]), cost: 1 };
  }
  if (fault.kind === 'blown-up' || fault.kind === 'empty-area') {
    const card = at.kind === 'container' ? at : (path.at(-1) ?? at);
    const wide = fault.place.box?.width ?? 0;
    const most = Math.round(wide / 2 / 10) * 10;
    if (most > 0)
      yield {
        label: `Limit ${named(card)} to ${most}`,
        step: setting([[card, { maxWidth: most }]]),
        cost: 2,
        doubtful: true,
      };
  }
}

function* evenEnds({ path, at }: Seen): Generator<Way> {
  const parent = path.at(-1);
  if (!parent) return;
  const flow = ruleOf(parent.rules, 'flow');
  if (flow !== 'column' && flow !== 'free')
    yield {
      label: `Let all in ${named(parent)} end alike`,
      step: setting([
        [parent, { align: 'stretch' }],
        ...inFlow(parent)
          .filter((c) => c.rules.height?.kind === 'fixed' && c.kind !== 'text')
          .map((c): Change => [
            c,
            { height: FILL, minHeight: c.rules.height?.kind === 'fixed' ? c.rules.height.px : null },
          ]),
      ]),
      cost: 1,
    };
  if (at && at.id !== parent.id && at.kind !== 'text') {
    const { height, width } = at.rules;
    if (height?.kind === 'fixed')
      yield {
        label: `Let ${named(at)} fill the height`,
        step: setting([[at, { height: FILL, minHeight: height.px }]]),
        cost: 1.2,
      };
    if (width?.kind === 'fixed')
      yield {
        label: `Let ${named(at)} fill the width`,
        step: setting([[at, { width: FILL, minWidth: null, maxWidth: null }]]),
        cost: 1.4,
      };
    if (at.rules.maxWidth !== undefined)
      yield {
        label: `Drop the max width of ${named(at)}`,
        step: setting([[at, { maxWidth: null }]]),
        cost: 1.4,
      };
  }
}

function* evenGaps({ structure, fault, path }: Seen): Generator<Way> {
  const parent = path.at(-1);
  const kids = findPart(structure.root, fault.answerable)?.children ?? [];
  const odd = kids.filter((c) => c.rules.gapBefore !== undefined);
  const steps: Step[] = odd.length > 0 ? [setting(odd.map((c): Change => [c, { gapBefore: null }]))] : [];
  for (const width of new Set(kids.flatMap((c) => (c.below ?? []).map((o) => o.width)))) {
    const parts = kids.filter((c) => c.below?.some((o) => o.width === width && 'gapBefore' in o.rules));
    if (parts.length > 0)
      steps.push({
        kind: 'setRules',
        below: width,
        parts: parts.map((c) => ({ id: c.id, set: {}, leave: ['gapBefore'] })),
      });
  }
  if (parent && steps.length > 0)
    yield { label: `One gap for all in ${named(parent)}`, step: { kind: 'several', steps }, cost: 1 };
}

function* otherColumns({ path, fault }: Seen): Generator<Way> {
  const parent = path.at(-1);
  if (!parent) return;
  const count = inFlow(parent).length;
  const below = Math.ceil((fault.to + 1) / STEP) * STEP;
  const { columns } = parent.rules;
  // A number of columns that leaves no card alone.
  for (const n of [2, 3, 4, 1])
    if (n < count && (count % n !== 1 || n === 1) && ruleOf(parent.rules, 'flow') === 'grid' && columns)
      yield {
        label: `${n === 1 ? 'One column' : `${n} columns`} below ${below}: ${named(parent)}`,
        step: setting([[parent, { columns: { kind: 'count', count: n } }]], below),
        cost: n === 1 ? 2 : 1 + n / 10,
      };
}

function* leastSize({ at }: Seen): Generator<Way> {
  if (at)
    yield {
      label: `At least ${TARGET} × ${TARGET}: ${named(at)}`,
      step: setting([[at, { minWidth: TARGET, minHeight: TARGET }]]),
      cost: 1,
    };
}

function* leastContent({ at }: Seen): Generator<Way> {
  if (at)
    yield {
      label: `No narrower than its content: ${named(at)}`,
      step: setting([[at, { minWidth: 'content' }]]),
      cost: 1.4,
    };
}

function* showAll({ at }: Seen): Generator<Way> {
  if (at?.rules.clip)
    yield {
      label: `Do not cut off what is in ${named(at)}`,
      step: setting([[at, { clip: null }]]),
      cost: 1.5,
    };
}

function* clipperShows({ path }: Seen): Generator<Way> {
  const clipper = path.findLast((p) => p.rules.clip);
  if (clipper)
    yield {
      label: `Do not cut off what is in ${named(clipper)}`,
      step: setting([[clipper, { clip: null }]]),
      cost: 1.5,
    };
}

function* showAgain({ structure, fault }: Seen): Generator<Way> {
  const part = findPart(structure.root, fault.parts[0] ?? '');
  for (const { width, rules } of part?.below ?? [])
    if (part && rules.hidden === true)
      yield {
        label: `Show ${named(part)} below ${width} as well`,
        step: { kind: 'setRules', below: width, parts: [{ id: part.id, set: {}, leave: ['hidden'] }] },
        cost: 1,
      };
}

function* orderAsRead({ structure, fault }: Seen): Generator<Way> {
  const part = findPart(structure.root, fault.answerable);
  if (!part) return;
  for (const { width } of part.children.flatMap((c) => c.below ?? []).concat(part.below ?? [])) {
    const turned = [part, ...part.children].filter((p) =>
      p.below?.some(
        (o) => o.width === width && (o.rules.order !== undefined || o.rules.reverse !== undefined),
      ),
    );
    if (turned.length > 0)
      yield {
        label: `Keep the reading order below ${width}`,
        step: {
          kind: 'setRules',
          below: width,
          parts: turned.map((p) => ({ id: p.id, set: {}, leave: ['order', 'reverse'] })),
        },
        cost: 1,
      };
  }
}

function* typeAsDrawn({ structure, fault }: Seen): Generator<Way> {
  const part = findPart(structure.root, fault.parts[0] ?? '');
  if (!part?.bound?.['text.size'] || part.content?.kind !== 'text' || plainText(part.content) === '') return;
  const { 'text.size': _size, 'text.lineHeight': _line, ...bound } = part.bound;
  yield {
    label: `Keep the size of ${named(part)}`,
    step: { kind: 'bind', parts: [{ id: part.id, bound }] },
    cost: 1,
  };
}

const NARROW = [widthsThatGive, roomInLine, spaceThatSteps, pinsElsewhere, hide];

/** What is tried against each kind of fault. */
const WAYS: Readonly<Record<FaultKind, readonly ((seen: Seen) => Generator<Way>)[]>> = {
  'side-scroll': NARROW,
  overlap: [heightsThatFit, ...NARROW],
  outside: [heightsThatFit, ...NARROW],
  'cut-off': [heightsThatFit, clipperShows, showAll, ...NARROW],
  'text-over': [heightsThatFit, wordsThatBreak],
  'long-word': NARROW,
  sliver: NARROW,
  'blown-up': [limitSize, widthsThatGive],
  distorted: [keepRatio],
  lost: [showAgain],
  hidden: [showAgain],
  'text-cut': [wordsThatBreak, roomInLine],
  'out-of-line': [evenEnds],
  'uneven-gaps': [evenGaps],
  'lonely-card': [otherColumns],
  squashed: [leastContent, ...NARROW],
  'long-lines': [limitSize],
  order: [orderAsRead],
  enlarged: [limitSize],
  'small-target': [leastSize],
  'empty-area': [limitSize],
  'small-type': [typeAsDrawn],
};

/** The changes that a designer would try against a fault, the cheapest first. `drawnWidth` tells how wide parts were drawn. */
export function waysAgainst(structure: Structure, fault: Fault, drawnWidth: (id: string) => number): Way[] {
  const root = standing(structure, { width: fault.place.width });
  const path = pathTo(root, fault.answerable);
  const toShown = pathTo(root, fault.parts[0] ?? '');
  const at = toShown.at(-1);
  const inner = toShown.includes(path.at(-1) as Part) ? toShown.slice(path.length, -1) : [];
  const edge = Math.ceil((fault.to + 1) / STEP) * STEP;
  const below =
    edge <= structure.drawn.width ? edge : fault.to < structure.drawn.width ? fault.to + 1 : undefined;
  const seen: Seen = { structure, fault, path, inner, at, below, drawnWidth };
  const ways = WAYS[fault.kind].flatMap((way) => [...way(seen)]);
  const known = new Set<string>();
  return ways
    .filter(({ step }) => {
      const key = JSON.stringify(step);
      return known.has(key) ? false : known.add(key);
    })
    .sort((a, b) => a.cost - b.cost);
}
