import { measureDrawing, readSvg, type Drawing } from '@tinfold/core/drawing';
import { formatRuleLine, formatPin, ruleOf, walk, type Part } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';

/** An SVG drawing with this body, measured. */
export const draw = (width: number, height: number, body: string, m: TextMeasurer): Drawing =>
  measureDrawing(
    readSvg(
      `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" font-family="Inter" font-size="16">${body}</svg>`,
      'Screen',
    ),
    m,
  );

/** The structure as indented text: flow and children, with the items that paint them. */
export function outline(part: Part, depth = 0): string {
  const what = part.kind === 'container' ? ruleOf(part.rules, 'flow') : part.kind;
  const pin = part.rules.pin ? ` pinned ${formatPin(part.rules.pin)}` : '';
  const own = part.source.length > 0 ? ` ${part.source.join()}` : '';
  return `${'  '.repeat(depth)}${what}${own}${pin}\n${part.children.map((c) => outline(c, depth + 1)).join('')}`;
}

/** The part that stands for an item. */
export function partOf(root: Part, item: string): Part {
  const found = [...walk(root)].find((p) => p.source.includes(item));
  if (!found) throw new Error(`no part for ${item} in\n${outline(root)}`);
  return found;
}

/** The part's rules in the language of the parts list. */
export const rulesOf = (root: Part, item: string): string => formatRuleLine(partOf(root, item).rules);

/** A box of a drawing. */
export const rect = (id: string, x: number, y: number, w: number, h: number, more = 'fill="#e3ecea"') =>
  `<rect id="${id}" x="${x}" y="${y}" width="${w}" height="${h}" ${more}/>`;

/** A line of words of a drawing. */
export const words = (id: string, x: number, baseline: number, text: string, more = '') =>
  `<text id="${id}" x="${x}" y="${baseline}" ${more}>${text}</text>`;
