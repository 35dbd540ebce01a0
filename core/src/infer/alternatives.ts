import { gapPx, inFlow } from '../layout/index.js';
import {
  bottom,
  FILL,
  FIT,
  fixed,
  right,
  round,
  ruleOf,
  type Bound,
  type Part,
  type Pin,
  type RuleChange,
  type RuleName,
} from '../model/index.js';
import type { Place } from './evidence.js';
import { gapsAlong, innerBox } from './standingPart.js';

/** What else a drawing could have meant at one place of a structure. */
export interface Alternative {
  /** What is in question; one part has each at most once. */
  readonly topic:
    'width' | 'height' | 'limit' | 'gap' | 'columns' | 'turn' | 'shown' | 'side' | 'rise' | 'type';
  /** The rules that say what was chosen. */
  readonly rules: readonly RuleName[];
  /** What was chosen and what was not, as a designer would say it. */
  readonly chosen: string;
  readonly other: string;
  /** How sure the choice is, 0.5 to 1. */
  readonly sure: number;
  readonly set: RuleChange;
  /** The tokens that stand at the part's places instead. */
  readonly bound?: Bound;
  /** The breakpoint whose override is in question: its rules are left instead. */
  readonly below?: number;
  /** The children that it is said of, too, and which of their rules are left. */
  readonly withChildren?: readonly { readonly id: string; readonly leave: readonly RuleName[] }[];
}

const px = (n: number): string => `${round(n, 1)} px`;

function ofWidth({ part, box, parent, parentBox }: Place): Alternative | undefined {
  if (!parent || !parentBox || part.rules.pin) return undefined;
  const width = ruleOf(part.rules, 'width');
  const flow = ruleOf(parent.rules, 'flow');
  const inner = innerBox(parent, parentBox);
  const beside = inFlow(parent).filter((c) => c.id !== part.id);
  const rail = { topic: 'width', rules: ['width'] } as const;
  if (flow === 'row' && width.kind === 'fixed' && box.width > 120 && part.kind === 'container') {
    const percent = round((box.width / inner.width) * 100, 2);
    const filling = beside.some((c) => c.rules.width?.kind === 'fill');
    if (!filling) return undefined;
    return {
      ...rail,
      chosen: `stays ${px(box.width)} wide`,
      other: `takes ${percent} % of the room`,
      sure: 0.75,
      set: { width: { kind: 'share', percent } },
    };
  }
  if (flow === 'row' && width.kind === 'fill' && part.kind === 'container') {
    const weights = beside.flatMap((c) => (c.rules.width?.kind === 'fill' ? [c.rules.width.weight] : []));
    if (weights.length === 1 && weights[0] !== width.weight && width.weight < (weights[0] ?? 0))
      return {
        ...rail,
        chosen: 'shares the room in the drawn ratio',
        other: `stays ${px(box.width)} wide`,
        sure: 0.7,
        set: { width: fixed(round(box.width, 2)) },
      };
  }
  if (flow !== 'column') return undefined;
  const share = box.width / inner.width;
  if (width.kind === 'fit' && part.kind === 'container' && part.paint && share > 0.6)
    return {
      ...rail,
      chosen: 'is as wide as what it holds',
      other: 'fills the width',
      sure: 0.5 + (1 - share),
      set: { width: FILL, ...(share < 0.995 && { maxWidth: round(box.width, 2) }) },
    };
  const wide = part.kind === 'picture' && width.kind === 'fixed' && share > 0.3;
  if (wide)
    return {
      ...rail,
      chosen: `stays ${px(box.width)} wide`,
      other: 'grows and shrinks with the room',
      sure: 0.65,
      set: { width: { kind: 'share', percent: round(share * 100, 2) } },
    };
  const held = inFlow(part);
  const onlyText = part.paint && held.length > 0 && held.every((c) => c.kind === 'text');
  if (width.kind === 'fill' && onlyText && box.height < 72 && share > 0.98)
    return {
      ...rail,
      chosen: 'fills the width',
      other: 'is as wide as what it holds',
      sure: 0.85,
      set: { width: FIT, minWidth: round(box.width, 2) },
    };
  return undefined;
}

function ofLimit({ part, box, parent, parentBox }: Place): Alternative | undefined {
  const max = part.rules.maxWidth;
  if (typeof max !== 'number' || !parent || !parentBox) return undefined;
  const inner = innerBox(parent, parentBox);
  const free = inner.width - box.width;
  if (part.kind === 'text')
    return {
      topic: 'limit',
      rules: ['maxWidth'],
      chosen: `lines end at ${px(max)}`,
      other: 'lines grow with the room',
      sure: free > 160 ? 0.8 : 0.65,
      set: { width: { kind: 'share', percent: round((box.width / inner.width) * 100, 2) }, maxWidth: null },
    };
  return {
    topic: 'limit',
    rules: ['maxWidth'],
    chosen: `is never wider than ${px(max)}`,
    other: 'grows with the frame',
    sure: free > 96 ? 0.85 : 0.65,
    set: { width: { kind: 'share', percent: round((box.width / inner.width) * 100, 3) }, maxWidth: null },
  };
}

function ofGap({ part, boxes }: Place): Alternative | undefined {
  if (ruleOf(part.rules, 'flow') !== 'row') return undefined;
  const children = inFlow(part);
  const [gap] = gapsAlong(part, boxes, 'row');
  if (part.rules.gap === 'between' && children.length === 2 && gap !== undefined)
    return {
      topic: 'gap',
      rules: ['gap'],
      chosen: 'the ends stay at the edges',
      other: `the two stay ${px(gap)} apart`,
      sure: gap > 96 ? 0.95 : 0.6,
      set: { gap: round(gap, 2) },
    };
  return undefined;
}

function ofColumns({ part, boxes }: Place): Alternative | undefined {
  const { columns } = part.rules;
  if (columns?.kind !== 'repeat') return undefined;
  const children = inFlow(part);
  const top = boxes.get(children[0]?.id ?? '')?.y ?? 0;
  const count = children.filter((c) => Math.abs((boxes.get(c.id)?.y ?? NaN) - top) < 2).length;
  if (count < 2) return undefined;
  return {
    topic: 'columns',
    rules: ['columns'],
    chosen: `as many columns of at least ${px(columns.min)} as fit${columns.most === undefined ? '' : `, ${columns.most} at most`}`,
    other: `always ${count} columns`,
    sure: children.length > count ? 0.8 : 0.65,
    set: { columns: { kind: 'count', count } },
  };
}

function ofHeight({ part, box, parent, parentBox }: Place): Alternative | undefined {
  if (part.kind !== 'picture' || part.rules.width?.kind !== 'fill' || !parent || !parentBox) return undefined;
  const height = ruleOf(part.rules, 'height');
  if (height.kind === 'ratio')
    return {
      topic: 'height',
      rules: ['height'],
      chosen: 'keeps its ratio',
      other: `stays ${px(box.height)} high and is cropped`,
      sure: 0.65,
      set: { height: fixed(round(box.height, 2)) },
    };
  if (height.kind === 'fixed' && box.height > 40)
    return {
      topic: 'height',
      rules: ['height'],
      chosen: `stays ${px(box.height)} high and is cropped`,
      other: 'keeps its ratio',
      sure: 0.6,
      set: { height: { kind: 'ratio', width: round(box.width, 2), height: round(box.height, 2) } },
    };
  return undefined;
}

function ofSide({ part, box, parentBox }: Place): Alternative | undefined {
  const { pin } = part.rules;
  if (!pin || !parentBox) return undefined;
  const [l, r] = [box.x - parentBox.x, right(parentBox) - right(box)];
  const nearness = Math.abs(Math.abs(l) - Math.abs(r)) / Math.max(1, parentBox.width);
  const { left: _l, right: _r, centreX: _c, ...rest } = pin;
  const other: Pin | undefined =
    pin.centreX !== undefined || (pin.left !== undefined && pin.right !== undefined)
      ? undefined
      : pin.left !== undefined
        ? { ...rest, right: round(r, 2) }
        : { ...rest, left: round(l, 2) };
  if (!other || parentBox.width < 120) return undefined;
  return {
    topic: 'side',
    rules: ['pin'],
    chosen: pin.left === undefined ? 'keeps to the right edge' : 'keeps to the left edge',
    other: pin.left === undefined ? 'keeps to the left edge' : 'keeps to the right edge',
    sure: Math.min(0.98, 0.55 + nearness),
    set: { pin: other },
  };
}

/** Something pushed to the lower edge of its card, or at its own distance from what is above it. */
function ofRise({ part, box, parent, boxes }: Place): Alternative | undefined {
  if (!parent || part.kind !== 'shape' || part.source.length > 0 || part.rules.height?.kind !== 'fill')
    return undefined;
  const siblings = inFlow(parent);
  const next = siblings[siblings.findIndex((c) => c.id === part.id) + 1];
  const nextBox = next && boxes.get(next.id);
  if (!nextBox) return undefined;
  return {
    topic: 'rise',
    rules: ['height'],
    chosen: `“${next.name}” stands at the lower edge`,
    other: `“${next.name}” stands ${px(nextBox.y - bottom(box) + box.height + gapPx(parent))} below what is above it`,
    sure: 0.85,
    set: { height: fixed(round(box.height, 2)) },
  };
}

/** Type that was guessed to step down in narrow frames. */
function ofType({ part }: Place): Alternative | undefined {
  const { content, bound } = part;
  if (content?.kind !== 'text' || !bound?.['text.size']) return undefined;
  const { 'text.size': _size, 'text.lineHeight': _line, ...rest } = bound;
  const size = content.runs[0]?.style.size ?? 0;
  return {
    topic: 'type',
    rules: [],
    chosen: 'is set smaller in narrow frames',
    other: `is set at ${px(size)} in every frame`,
    sure: 0.7,
    set: {},
    bound: rest,
  };
}

/** What was guessed for narrower frames and could be left out. */
function ofBelow(part: Part): Alternative[] {
  return (part.below ?? []).flatMap((o): Alternative[] => {
    const rules = Object.keys(o.rules) as RuleName[];
    const withChildren = part.children.flatMap((c) => {
      const own = c.below?.find((b) => b.width === o.width)?.rules;
      return own && own.hidden === undefined ? [{ id: c.id, leave: Object.keys(own) as RuleName[] }] : [];
    });
    if (o.rules.hidden === true)
      return [
        {
          topic: 'shown',
          rules,
          chosen: `is not shown below ${o.width}`,
          other: 'is shown at every width',
          sure: 0.6,
          set: {},
          below: o.width,
        },
      ];
    if (o.rules.flow === 'column' && part.rules.flow === 'row')
      return [
        {
          topic: 'turn',
          rules,
          chosen: `its things stand one above another below ${o.width}`,
          other: 'they stay side by side',
          sure: 0.7,
          set: {},
          below: o.width,
          withChildren,
        },
      ];
    if (o.rules.columns?.kind === 'count')
      return [
        {
          topic: 'turn',
          rules,
          chosen: `${o.rules.columns.count === 1 ? 'one column' : `${o.rules.columns.count} columns`} below ${o.width}`,
          other:
            part.rules.columns?.kind === 'count'
              ? `always ${part.rules.columns.count} columns`
              : 'as many columns as fit',
          sure: 0.65,
          set: {},
          below: o.width,
          withChildren,
        },
      ];
    return [];
  });
}

/** What else could have been meant by a part's rules. Each gives the same boxes at the drawn width. */
export function alternativesTo(place: Place): Alternative[] {
  const found = [ofWidth, ofLimit, ofGap, ofColumns, ofHeight, ofSide, ofRise, ofType].flatMap(
    (of) => of(place) ?? [],
  );
  return [...found, ...ofBelow(place.part)];
}
