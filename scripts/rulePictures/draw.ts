import { reflow, scrolled, staying, type Engine, type Reflow } from '@tinfold/core/layout';
import { updatePart, withChange, type Part, type RuleChange } from '@tinfold/core/model';
import type { Scene } from './scenes.js';

/** One picture, px; between two of them stands an arrow. */
const PICTURE = { width: 200, height: 100 };
const BETWEEN = 36;

const INK = '#1d2b34';
const SEA = '#a6c0bb';
const COPPER = '#a54d24';

const number = (n: number): string => String(Math.round(n * 100) / 100);

interface Drawn {
  readonly laid: Reflow;
  /** The part that takes the rule, drawn in copper. */
  readonly on: string;
  readonly scale: number;
  /** What is drawn over the others, for it stays while they scroll. */
  readonly over: ReadonlySet<string>;
  /** What ids of clips begin with. */
  readonly id: string;
}

/** A part and what is in it, at a scale: leaves filled, containers dashed, words as bars. */
function boxes(part: Part, drawn: Drawn): string {
  const { laid, on, scale, over, id } = drawn;
  const box = laid.parts.get(part.id);
  if (!box) return '';
  const [x, y, w, h] = [box.x, box.y, box.width, box.height].map((n) => number(n * scale));
  const ink = part.id === on ? COPPER : INK;
  if (part.kind === 'text') {
    const broken = laid.lines.get(part.id) ?? [];
    const pitch = box.height / Math.max(1, broken.length);
    return broken
      .map((line, i) => {
        const at = number((box.y + (i + 0.25) * pitch) * scale);
        return `<rect x="${x}" y="${at}" width="${number(line.width * scale)}" height="${number(pitch * 0.5 * scale)}" fill="${ink}"/>`;
      })
      .join('');
  }
  const line = `stroke="${ink}" stroke-width="${part.id === on ? 1.5 : 1}"`;
  const place = `x="${x}" y="${y}" width="${w}" height="${h}"`;
  if (part.children.length === 0)
    return `<rect ${place} fill="${SEA}" ${line}/><text x="${number((box.x + 8) * scale)}" y="${number((box.y + 26) * scale)}">${part.id}</text>`;
  const inner = [...part.children]
    .sort((a, b) => Number(over.has(a.id)) - Number(over.has(b.id)))
    .map((child) => boxes(child, drawn))
    .join('');
  const { clip, scroll } = part.rules;
  const cuts = clip === true || scroll === true;
  const bar =
    scroll === true
      ? `<rect x="${x}" y="${number((box.y + box.height) * scale - 4)}" width="${number(box.width * scale * 0.7)}" height="3" fill="${ink}"/>`
      : '';
  const cut = `<clipPath id="${id}${part.id}"><rect ${place}/></clipPath><g clip-path="url(#${id}${part.id})">${inner}</g>`;
  return `<rect ${place} fill="none" ${line} stroke-dasharray="4 3"/>${cuts ? cut : inner}${bar}`;
}

/** A scene without and with a rule, side by side, as SVG. */
export function rulePicture(scene: Scene, set: RuleChange, engine: Engine): string {
  const { root, on, width } = scene;
  const scale = PICTURE.width / width;
  const seen = { height: PICTURE.height / scale, from: scene.scrolled ?? 0 };
  const panel = (tree: Part, at: number, id: string): string => {
    const laid = reflow(tree, width, engine);
    const shown = scene.scrolled === undefined ? laid : scrolled(tree, laid, seen);
    const over = staying(tree);
    const [across, down] = [PICTURE.width + BETWEEN / 2, PICTURE.height + 2];
    return (
      `<g transform="translate(${at} 1)"><clipPath id="${id}"><rect x="-1" y="-1" width="${across}" height="${down}"/></clipPath>` +
      `<rect width="${PICTURE.width}" height="${PICTURE.height}" fill="#fff" stroke="#c9c7bb"/>` +
      `<g clip-path="url(#${id})"><g transform="translate(0 ${number(-seen.from * scale)})">${boxes(tree, { laid: shown, on, scale, over, id })}</g></g></g>`
    );
  };
  const after = updatePart(root, on, (part) => ({ ...part, rules: withChange(part.rules, set) }));
  const whole = { width: 2 * PICTURE.width + BETWEEN + 2, height: PICTURE.height + 2 };
  const middle = PICTURE.width + 1 + BETWEEN / 2;
  const y = PICTURE.height / 2 + 1;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${whole.width}" height="${whole.height}" viewBox="0 0 ${whole.width} ${whole.height}" font-family="sans-serif" font-size="9" fill="${INK}"><rect width="100%" height="100%" fill="#f6f4ee"/>${panel(root, 1, 'a')}<path d="M${middle - 9} ${y}h14m-4 -4l4 4l-4 4" fill="none" stroke="${INK}"/>${panel(after, PICTURE.width + BETWEEN + 1, 'b')}</svg>\n`;
}
