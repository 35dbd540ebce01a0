import { Engine, itemBoxes, reflow } from '@tinfold/core/layout';
import { round, ruleOf, standing, type Part, type Rect } from '@tinfold/core/model';
import type { Reading } from '@tinfold/host/reading';

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

/** The unpainted container that is all a part holds in flow: the two are one group of the drawing. */
function soleWrapped(part: Part): Part | undefined {
  const [only, ...more] = part.children.filter((c) => !c.rules.pin && !c.rules.hidden);
  return only?.kind === 'container' && more.length === 0 && only.source.length === 0 ? only : undefined;
}

/** The parts that are shown and hold others, with all drawn items in them. */
function describeParts(root: Part, names: ReadonlyMap<string, string>): AnsweredPart[] {
  const found: AnsweredPart[] = [];
  const visit = (part: Part, inWrapper = false): string[] => {
    if (part.rules.hidden) return [];
    const at = found.length;
    const holds = part.kind === 'container' && !inWrapper;
    const wrapped = soleWrapped(part);
    if (holds) found.push({} as AnsweredPart);
    const items = [
      ...part.source.map((id) => names.get(id) ?? id),
      ...part.children.flatMap((c) => visit(c, c === wrapped)),
    ];
    if (holds) {
      let inner = part;
      for (let next = wrapped; next; next = soleWrapped(next)) inner = next;
      const { gap, crossGap } = inner.rules;
      const { padding } = part.rules;
      const flow = ruleOf(inner.rules, 'flow');
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

/** An item of the structure is called in the answer as the first drawing calls it, or else as another one does. */
function namesOf({ drawings }: Reading): ReadonlyMap<string, string> {
  const names = new Map<string, string>();
  for (const { own } of drawings)
    for (const [source, id] of own) if (!names.has(source)) names.set(source, id);
  return names;
}

/** Lays the structure out at the widths; its parts are told as they stand at the width of the first drawing. */
export function reflowAnswer(reading: Reading, widths: readonly number[]): ReflowAnswer {
  const { structure, measurer, drawings } = reading;
  const names = namesOf(reading);
  const engine = new Engine(measurer);
  const answers = widths.map((width): [string, AnswerAtWidth] => {
    const root = standing(structure, { width });
    const result = reflow(root, width, engine);
    const boxes = [...itemBoxes(root, result)].map(([id, box]) => [names.get(id) ?? id, box] as const);
    return [
      String(width),
      { height: round(result.height, 2), boxes: record(new Map(boxes)), parts: record(result.parts) },
    ];
  });
  const width = drawings[0]?.drawing.width ?? structure.drawn.width;
  return {
    widths: Object.fromEntries(answers),
    structure: describeParts(standing(structure, { width }), names),
  };
}
