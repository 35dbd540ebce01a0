import { converter, parse, wcagContrast, type Rgb } from 'culori';
import { standing, type Part, type Structure } from '../model/index.js';

/** What words stand out by at least (WCAG 2.2 §1.4.3); large ones by less. */
export const LEAST_CONTRAST = 4.5;
const LEAST_FOR_LARGE = 3;
/** Type counts as large from these sizes, CSS px: 18 pt, and 14 pt in bold. */
const LARGE = 24;
const LARGE_BOLD = 18.66;
const BOLD = 700;

/** Words that stand out too little. */
export interface WeakWords {
  readonly part: string;
  readonly name: string;
  readonly ink: string;
  readonly behind: string;
  /** From 1 to 21. */
  readonly contrast: number;
  readonly least: number;
}

const toRgb = converter('rgb');

/** A colour as it is seen over an opaque one. */
function over(front: Rgb, back: Rgb): Rgb {
  const a = front.alpha ?? 1;
  const mix = (f: number, b: number) => f * a + b * (1 - a);
  return { mode: 'rgb', r: mix(front.r, back.r), g: mix(front.g, back.g), b: mix(front.b, back.b) };
}

/** How much a colour stands out from another, 1 to 21; undefined where one is no colour. */
export function contrastOf(ink: string, behind: string): number | undefined {
  const [front, back] = [toRgb(parse(ink)), toRgb(parse(behind))];
  return front && back ? wcagContrast(over(front, back), back) : undefined;
}

const WHITE = '#ffffff';

/** What a part shows behind its words: its own fill where that is one colour, else what is behind it. Undefined where that cannot be told. */
function behindWords(part: Part, behind: string | undefined): string | undefined {
  const { paint, content } = part;
  if (content?.kind === 'picture' || content?.kind === 'art') return undefined;
  const fill = paint?.fill;
  if (!fill) return behind;
  if (fill.kind !== 'solid' || (paint.opacity ?? 1) < 1) return undefined;
  const own = toRgb(parse(fill.colour));
  return own && (own.alpha ?? 1) >= 1 ? fill.colour : undefined;
}

/**
 * Words that stand out too little from the fill behind them, in a colour mode. Words over pictures, gradients and pinned
 * neighbours are not judged: what is behind them depends on the width.
 */
export function weakWords(structure: Structure, mode?: string): WeakWords[] {
  const found: WeakWords[] = [];
  const visit = (part: Part, behind: string | undefined): void => {
    if (part.rules.hidden) return;
    const back = behindWords(part, behind);
    // A part that lies over its siblings has them behind it, and not only its parent.
    const lies = part.children.some((c) => c.rules.pin);
    if (part.content?.kind === 'text' && back !== undefined)
      for (const { style } of part.content.runs) {
        const contrast = contrastOf(style.colour, back);
        const large = style.size >= LARGE || (style.size >= LARGE_BOLD && style.weight >= BOLD);
        const least = large ? LEAST_FOR_LARGE : LEAST_CONTRAST;
        if (contrast === undefined || contrast >= least) continue;
        found.push({ part: part.id, name: part.name, ink: style.colour, behind: back, contrast, least });
        break;
      }
    for (const child of part.children) visit(child, lies && !child.paint?.fill ? undefined : back);
  };
  visit(standing(structure, { width: structure.drawn.width, ...(mode !== undefined && { mode }) }), WHITE);
  return found;
}
