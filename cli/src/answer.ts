import { itemBoxes, reflowOnce } from '@tinfold/core/layout';
import { round, ruleOf, type Part, type Rect, type Structure } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';

type Numbers = [x: number, y: number, width: number, height: number];

interface AnswerAtWidth {
  readonly height: number;
  /** Where every drawn item stands, by its id in the drawing. */
  readonly boxes: Readonly<Record<string, Numbers>>;
  /** Where every part stands, by its id in the structure. */
  readonly parts: Readonly<Record<string, Numbers>>;
}

interface AnsweredPart {
  readonly part: string;
  readonly items: readonly string[];
  readonly flow: string;
  readonly gap: number | null;
  readonly crossGap: number | null;
  readonly padding: readonly [number, number, number, number];
}

/** What `tinfold reflow` writes. */
export interface ReflowAnswer {
  readonly widths: Readonly<Record<string, AnswerAtWidth>>;
  readonly structure: readonly AnsweredPart[];
}

const numbers = (r: Rect): Numbers => [round(r.x, 2), round(r.y, 2), round(r.width, 2), round(r.height, 2)];

const record = (boxes: ReadonlyMap<string, Rect>): Record<string, Numbers> =>
  Object.fromEntries([...boxes].map(([id, box]) => [id, numbers(box)]));

/** The parts that hold others, with all drawn items in them. */
export function describeParts(root: Part): AnsweredPart[] {
  const found: AnsweredPart[] = [];
  const visit = (part: Part): string[] => {
    const at = found.length;
    const holds = part.kind === 'container';
    if (holds) found.push({} as AnsweredPart);
    const items = [...part.source, ...part.children.flatMap(visit)];
    if (holds) {
      const { gap, crossGap, padding } = part.rules;
      const flow = ruleOf(part.rules, 'flow');
      found[at] = {
        part: part.id,
        items,
        flow,
        gap: typeof gap === 'number' ? gap : null,
        crossGap:
          flow === 'grid' || flow === 'wrap' ? (crossGap ?? (typeof gap === 'number' ? gap : null)) : null,
        padding: [padding?.top ?? 0, padding?.right ?? 0, padding?.bottom ?? 0, padding?.left ?? 0],
      };
    }
    return items;
  };
  visit(root);
  return found;
}

/**
 * How far from the narrower drawing to the wider one, in ratio, the narrower still serves: the wider has rules for less
 * room, the narrower none for more.
 */
const NARROW_SERVES = 0.35;

/**
 * Lays the readings out at the widths. With two drawings of one screen each width is answered by one of them, so that
 * what was drawn for phones serves phones.
 */
export function reflowAnswer(
  readings: readonly { readonly structure: Structure; readonly measurer: TextMeasurer }[],
  widths: readonly number[],
): ReflowAnswer {
  const [main] = readings;
  if (!main) throw new RangeError('There is no reading to answer from.');
  const [narrow = main, wide = main] = readings.toSorted(
    (a, b) => a.structure.drawn.width - b.structure.drawn.width,
  );
  const [least, most] = [narrow.structure.drawn.width, wide.structure.drawn.width];
  const serving = (width: number) =>
    Math.log(width / least) > NARROW_SERVES * Math.log(most / least) ? wide : narrow;
  const answers = widths.map((width): [string, AnswerAtWidth] => {
    const { structure, measurer } = serving(width);
    const result = reflowOnce(structure, width, measurer);
    return [
      String(width),
      {
        height: round(result.height, 2),
        boxes: record(itemBoxes(structure.root, result)),
        parts: record(result.parts),
      },
    ];
  });
  return { widths: Object.fromEntries(answers), structure: describeParts(main.structure.root) };
}
