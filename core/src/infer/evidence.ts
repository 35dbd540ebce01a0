import { gapPx, inFlow } from '../layout/index.js';
import {
  bottom,
  formatEdges,
  NO_PADDING,
  right,
  round,
  ruleOf,
  type Part,
  type Rect,
  type RuleName,
} from '../model/index.js';
import { gapsAlong, innerBox } from './standingPart.js';

/** A part where it stands at a drawn width. */
export interface Place {
  readonly part: Part;
  readonly box: Rect;
  /** None for the frame. */
  readonly parent?: Part;
  readonly parentBox?: Rect;
  readonly boxes: ReadonlyMap<string, Rect>;
}

/** What was seen that speaks for a rule, as a sentence with its numbers, and how much it says, 0 to 1. */
export interface Evidence {
  readonly says: string;
  readonly sure: number;
}

const px = (n: number): string => String(round(n, 1));
const many = (n: number, one: string, several: string): string => `${n} ${n === 1 ? one : several}`;
/** How far apart two lengths may be and still be called equal, px. */
const SAME = 1.1;

function flowEvidence({ part, boxes }: Place): Evidence {
  const children = inFlow(part);
  const count = children.length;
  switch (ruleOf(part.rules, 'flow')) {
    case 'row':
      return {
        says: `${many(count, 'thing stands', 'things stand')} side by side; white space runs down between them.`,
        sure: 0.95,
      };
    case 'grid': {
      const lines = new Set(children.map((c) => Math.round(boxes.get(c.id)?.y ?? 0))).size;
      return lines > 1
        ? { says: `${count} things stand in ${lines} lines whose columns line up.`, sure: 0.95 }
        : { says: `${count} things of one make-up share a line evenly.`, sure: 0.8 };
    }
    case 'wrap':
      return { says: `${count} things follow each other in lines whose columns do not line up.`, sure: 0.85 };
    case 'free':
      return {
        says: `${many(count, 'thing lies', 'things lie')} in no row or column: each hangs where it was drawn.`,
        sure: 0.5,
      };
    case 'column':
      return count < 2
        ? { says: 'It holds one thing.', sure: 1 }
        : {
            says: `${count} things stand one above another; white space runs across between them.`,
            sure: 0.95,
          };
  }
}

function gapEvidence({ part, boxes }: Place): Evidence {
  const flow = ruleOf(part.rules, 'flow');
  const gaps = gapsAlong(part, boxes, flow === 'column' ? 'column' : 'row');
  if (typeof part.rules.gap !== 'number')
    return {
      says: `Its things reach both ends, with ${gaps.map(px).join(', ')} px between them.`,
      sure: gaps.length > 1 ? 0.85 : 0.8,
    };
  const gap = gapPx(part);
  const same = gaps.filter((g) => Math.abs(g - gap) <= SAME).length;
  if (gaps.length === 0) return { says: 'There is nothing to keep apart on one line.', sure: 0.6 };
  return same === gaps.length
    ? { says: `${many(gaps.length, 'space is', 'spaces are all')} ${px(gap)} px.`, sure: 0.97 }
    : {
        says: `${same} of ${gaps.length} spaces are ${px(gap)} px; the others say their own.`,
        sure: 0.5 + (0.4 * same) / gaps.length,
      };
}

/** Siblings as wide (or as high) as the part. */
const alikeSiblings = ({ part, box, parent, boxes }: Place, side: 'width' | 'height'): number =>
  (parent ? inFlow(parent) : []).filter(
    (s) =>
      s.id !== part.id &&
      s.kind === part.kind &&
      Math.abs((boxes.get(s.id)?.[side] ?? -9) - box[side]) <= SAME,
  ).length;

function widthEvidence(place: Place): Evidence {
  const { part, box, parent, parentBox } = place;
  const width = ruleOf(part.rules, 'width');
  const inner = parent && parentBox ? innerBox(parent, parentBox) : box;
  const [l, r] = [box.x - inner.x, right(inner) - right(box)];
  const alike = alikeSiblings(place, 'width');
  switch (width.kind) {
    case 'fill':
      if (!parent) return { says: 'The frame gives its width.', sure: 1 };
      if (Math.abs(l) <= SAME && Math.abs(r) <= SAME)
        return { says: `It reaches both inner edges of “${parent.name}”.`, sure: 0.95 };
      if (alike > 0)
        return {
          says: `It is ${px(box.width)} px wide like ${many(alike, 'thing', 'things')} beside it, and they share the room.`,
          sure: 0.9,
        };
      return {
        says: `It takes the room that is left: ${px(box.width)} of ${px(inner.width)} px.`,
        sure: 0.75,
      };
    case 'fit':
      return part.kind === 'text'
        ? { says: `Its words on one line are ${px(box.width)} px wide.`, sure: 0.95 }
        : { says: `What it holds and its padding explain its ${px(box.width)} px.`, sure: 0.85 };
    case 'share':
      return { says: `${px(box.width)} px are ${px(width.percent)} % of ${px(inner.width)} px.`, sure: 0.8 };
    case 'ratio':
      return { says: `It is ${px(box.width)} × ${px(box.height)} px.`, sure: 0.8 };
    case 'fixed':
      return alike > 0
        ? {
            says: `It is ${px(width.px)} px wide, and so ${many(alike, 'is one thing', 'are things')} beside it.`,
            sure: 0.85,
          }
        : {
            says: `It is ${px(width.px)} px wide and holds nothing that would explain it.`,
            sure: part.kind === 'container' ? 0.7 : 0.9,
          };
  }
}

function heightEvidence(place: Place): Evidence {
  const { part, box } = place;
  const height = ruleOf(part.rules, 'height');
  const alike = alikeSiblings(place, 'height');
  switch (height.kind) {
    case 'fit':
      return { says: `What it holds explains its ${px(box.height)} px.`, sure: 0.95 };
    case 'fill':
      return {
        says: `It is ${px(box.height)} px high like ${many(alike, 'thing', 'things')} beside it, whatever they hold.`,
        sure: 0.85,
      };
    case 'share':
      return {
        says: `${px(box.height)} px are ${px(height.percent)} % of the height around it.`,
        sure: 0.75,
      };
    case 'ratio':
      return { says: `It is a picture of ${px(box.width)} × ${px(box.height)} px.`, sure: 0.7 };
    case 'fixed':
      return {
        says: `It is drawn ${px(height.px)} px high and holds nothing that would explain it.`,
        sure: 0.75,
      };
  }
}

function limitEvidence({ box, parent, parentBox }: Place): Evidence {
  const inner = parent && parentBox ? innerBox(parent, parentBox) : box;
  const [l, r] = [box.x - inner.x, right(inner) - right(box)];
  return {
    says: `It is ${px(box.width)} px wide where ${px(inner.width)} px are free, with ${px(l)} px left at one side and ${px(r)} px at the other.`,
    sure: Math.abs(l - r) <= 2 && l > 48 ? 0.85 : 0.65,
  };
}

function pinEvidence({ box, parentBox }: Place): Evidence {
  if (!parentBox) return { says: 'It lies over the frame.', sure: 0.5 };
  const [l, r] = [box.x - parentBox.x, right(parentBox) - right(box)];
  const [t, b] = [box.y - parentBox.y, bottom(parentBox) - bottom(box)];
  return {
    says: `It lies over other things, ${px(l)} px from the left, ${px(r)} from the right, ${px(t)} from the top and ${px(b)} from the lower edge.`,
    sure:
      0.5 + 0.45 * Math.min(1, Math.abs(Math.abs(l) - Math.abs(r)) / Math.max(1, Math.abs(l), Math.abs(r))),
  };
}

/** What speaks for one rule of a part; undefined for rules that only follow from others. */
export function evidenceOf(rule: RuleName, place: Place): Evidence | undefined {
  const { part } = place;
  switch (rule) {
    case 'flow':
      return flowEvidence(place);
    case 'gap':
      return gapEvidence(place);
    case 'gapBefore':
      return {
        says: `Above or before it are ${px(part.rules.gapBefore ?? 0)} px, unlike the other spaces there.`,
        sure: 0.75,
      };
    case 'padding':
      return {
        says: `Between its edges and what it holds are ${formatEdges(part.rules.padding ?? NO_PADDING)} px.`,
        sure: 0.9,
      };
    case 'width':
      return widthEvidence(place);
    case 'height':
      return heightEvidence(place);
    case 'minWidth':
    case 'maxWidth':
      return limitEvidence(place);
    case 'columns':
      return flowEvidence(place);
    case 'align':
    case 'alignSelf':
      return { says: 'Across the flow their edges, middles or baselines stand on one line.', sure: 0.85 };
    case 'pin':
      return pinEvidence(place);
    default:
      return undefined;
  }
}
