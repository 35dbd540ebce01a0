import { standingBoxes, type Engine } from '../layout/index.js';
import {
  alikeKeys,
  applyStep,
  walk,
  wordSize,
  type Rect,
  type RuleName,
  type Step,
  type Structure,
} from '../model/index.js';
import { alternativesTo, type Alternative } from './alternatives.js';
import { placesOf, stepFor, type AtPart } from './decisions.js';
import { evidenceOf, type Place } from './evidence.js';
import { distance } from '../proof/index.js';
import type { Boxes } from './standingPart.js';

/** A decision that the designer is asked about. */
export interface Question {
  /** The part in question, and those of alike places, itself among them. */
  readonly part: string;
  readonly alike: readonly string[];
  readonly topic: Alternative['topic'];
  readonly evidence: string;
  readonly chosen: string;
  readonly other: string;
  /** How sure the choice is, 0.5 to 1. */
  readonly confidence: number;
  /** How far the other answer would move things, from 0 to 1, over the widths that matter. */
  readonly effect: number;
  /** The frame widths at which the answers differ the most, the narrowest first. */
  readonly widths: readonly number[];
  /** The step that takes the other answer at one place, and at all alike ones. */
  readonly step: Step;
  readonly stepForAll: Step;
}

/** The frame widths that matter, px, and how much each. */
const WIDTHS = [
  [320, 1],
  [390, 1.5],
  [600, 0.8],
  [768, 1],
  [1024, 1],
  [1440, 1.2],
  [1920, 0.6],
] as const;
const TOTAL = WIDTHS.reduce((sum, [, much]) => sum + much, 0);
/** How many widths show a question's answers. */
const SHOWN = 3;
/** An answer whose effect times doubt is less than this is not worth a question. */
const SLIGHT = 0.002;
/** A screen of a hundred parts is worth so many questions at the most. */
const PER_HUNDRED = 8;
/** No more candidates than this are laid out. */
const MOST_CANDIDATES = 80;
/** An item that moves by this share of the frame's width has moved altogether. */
const FAR = 0.15;
/** What the other answer may be off by at a drawn width, px. */
const SAME = 1.6;

interface Candidate {
  readonly place: Place;
  readonly alternative: Alternative;
  /** All alike places, the first among them. */
  readonly alike: readonly AtPart[];
}

function candidates(structure: Structure, places: readonly Place[]): Candidate[] {
  const keys = alikeKeys(structure.root);
  const groups = new Map<string, { place: Place; alternative: Alternative }[]>();
  for (const place of places)
    for (const alternative of alternativesTo(place)) {
      if (place.part.answered?.includes(alternative.topic)) continue;
      // One limit that several sections have is one question.
      const where =
        alternative.topic === 'type'
          ? 'all type'
          : alternative.topic === 'limit' && place.part.kind === 'container'
            ? alternative.chosen
            : keys.get(place.part.id);
      const key = `${where} ${alternative.topic} ${alternative.below ?? ''}`;
      groups.set(key, [...(groups.get(key) ?? []), { place, alternative }]);
    }
  return [...groups.values()].map((group) => {
    const [first] = group as [{ place: Place; alternative: Alternative }];
    return { ...first, alike: group.map((g) => ({ id: g.place.part.id, alternative: g.alternative })) };
  });
}

/** How much an answer moves at one width, 0 to 1: the mean over the items. */
function moved(before: Boxes, after: Boxes, width: number): number {
  const ids = new Set([...before.keys(), ...after.keys()]);
  let sum = 0;
  for (const id of ids) {
    const [a, b] = [before.get(id), after.get(id)];
    sum += a && b ? Math.min(1, Math.max(0, distance(a, b) - 2) / (width * FAR)) : 1;
  }
  return ids.size === 0 ? 0 : sum / ids.size;
}

/**
 * What the designer should be asked about a structure, the weightiest first: the choices whose other answer gives the
 * same boxes at every drawn width and others elsewhere, ranked by how much it changes over the widths that matter times
 * how unsure the choice is. Alike places are asked once.
 */
export function questionsAbout(
  structure: Structure,
  drawnWidths: readonly number[],
  engine: Engine,
): Question[] {
  const lay = (s: Structure, width: number): Boxes => standingBoxes(s, width, engine);
  const widths = [...new Set([...WIDTHS.map(([w]) => w), ...drawnWidths])];
  const now = new Map(widths.map((w) => [w, lay(structure, w)]));
  const places = placesOf(structure, structure.drawn.width, engine);
  const asked = candidates(structure, places)
    .sort((a, b) => weight(b) - weight(a))
    .slice(0, MOST_CANDIDATES)
    .flatMap((candidate): Question[] => {
      const { place, alternative, alike } = candidate;
      const stepForAll = stepFor(alike);
      const other = applyStep(structure, stepForAll);
      if (!other.ok) return [];
      const { doc } = other;
      const keeps = drawnWidths.every((w) => {
        const [before, after] = [now.get(w) as Boxes, lay(doc, w)];
        return before.size === after.size && [...before].every(([id, box]) => sameBox(after.get(id), box));
      });
      if (!keeps) return [];
      const effects = WIDTHS.map(([w, much]) => ({
        width: w,
        by: much * moved(now.get(w) as Boxes, lay(doc, w), w),
      }));
      const effect = effects.reduce((s, e) => s + e.by, 0) / TOTAL;
      if (effect * (1 - alternative.sure) < SLIGHT) return [];
      return [asQuestion(candidate, { effect, widths: tellingWidths(effects), stepForAll, place })];
    });
  const parts = [...walk(structure.root)].length;
  return asked
    .sort((a, b) => b.effect * (1 - b.confidence) - a.effect * (1 - a.confidence))
    .slice(0, Math.max(3, Math.ceil((parts * PER_HUNDRED) / 100)));
}

const sameBox = (after: Rect | undefined, before: Rect): boolean =>
  after !== undefined && distance(after, before) <= SAME;

/** What may matter most is looked at first: large places that are unsure. */
const weight = ({ place: { box }, alternative, alike }: Candidate): number =>
  box.width * box.height * alike.length * (1 - alternative.sure);

function tellingWidths(effects: readonly { readonly width: number; readonly by: number }[]): number[] {
  return effects
    .toSorted((a, b) => b.by - a.by)
    .slice(0, SHOWN)
    .map((e) => e.width)
    .sort((a, b) => a - b);
}

/** What was seen that speaks for what was chosen; of narrower frames, which no drawing shows, what makes it likely there. */
function evidenceFor({ topic, rules, below }: Alternative, place: Place): string {
  const { part, box, parentBox = box } = place;
  if (topic === 'type')
    return `Its type is ${wordSize(part.content)} px, and the drawing shows no narrower frame.`;
  if (topic === 'shown')
    return `It takes ${Math.round(box.width)} of ${Math.round(parentBox.width)} px, and the drawing shows no narrower frame.`;
  const seen: readonly RuleName[] = below === undefined ? rules : ['flow'];
  return seen.flatMap((r) => evidenceOf(r, place)?.says ?? []).join(' ');
}

function asQuestion(
  { alternative, alike }: Candidate,
  found: Pick<Question, 'effect' | 'widths' | 'stepForAll'> & { readonly place: Place },
): Question {
  const { place, ...rest } = found;
  const { topic, chosen, other, sure } = alternative;
  return {
    part: place.part.id,
    alike: alike.map((a) => a.id),
    topic,
    evidence: evidenceFor(alternative, place),
    chosen,
    other,
    confidence: sure,
    ...rest,
    step: stepFor([{ id: place.part.id, alternative }]),
  };
}
