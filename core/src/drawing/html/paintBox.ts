import type { Fill, GradientStop, Paint, Rect } from '../../model/index.js';
import { normalColour } from '../colour.js';
import { blendOf, cssEffects, cssShadow } from '../effects.js';
import { pictureContent } from '../picture.js';
import type { RawItem, RawShape } from '../raw.js';
import { length } from '../styles.js';
import { intersect, roundIfCircle } from '../svgShapes.js';
import type { Computed } from './computed.js';
import type { Around, Page } from './page.js';
import { parseLength, pieces, px } from './values.js';

const DIRECTIONS: Readonly<Record<string, number>> = { top: 0, right: 90, bottom: 180, left: 270 };
const SLANTED: Readonly<Record<string, readonly [number, number]>> = {
  'top right': [1, -1],
  'right top': [1, -1],
  'bottom right': [1, 1],
  'right bottom': [1, 1],
  'bottom left': [-1, 1],
  'left bottom': [-1, 1],
  'top left': [-1, -1],
  'left top': [-1, -1],
};

/** Splits at commas outside brackets. */
const atCommas = (text: string): string[] => text.match(/(?:[^,(]|\((?:[^()]|\([^()]*\))*\))+/g) ?? [];

/** A CSS linear gradient (CSS Images 3 §3.1); undefined for what is none. */
export function linearGradient(value: string, box: Rect): Fill | undefined {
  const inner = /^linear-gradient\((.*)\)$/is.exec(value.trim())?.[1];
  if (inner === undefined) return undefined;
  const parts = atCommas(inner).map((p) => p.trim());
  const [first = ''] = parts;
  const to = /^to\s+(.+)$/i.exec(first)?.[1]?.toLowerCase();
  const degrees = /^(-?[\d.]+)deg$/i.exec(first)?.[1];
  let angle = 180;
  if (degrees !== undefined) angle = Number(degrees);
  else if (to !== undefined && DIRECTIONS[to] !== undefined) angle = DIRECTIONS[to];
  else if (to !== undefined) {
    // Towards a corner the line is such that the other two corners have the middle colour.
    const [sx, sy] = SLANTED[to] ?? [1, 1];
    angle = (Math.atan2(sx * box.height, -sy * box.width) * 180) / Math.PI;
  }
  const listed = (to ?? degrees) === undefined ? parts : parts.slice(1);
  const stops = listed.flatMap((stop, i): GradientStop[] => {
    const [name = '', place] = pieces(stop);
    const at = parseLength(place, 16);
    const long =
      Math.abs(box.width * Math.sin((angle * Math.PI) / 180)) +
      Math.abs(box.height * Math.cos((angle * Math.PI) / 180));
    const share = px(at, 1);
    const along = typeof at === 'number' ? at / (long || 1) : share;
    return [{ at: along ?? i / Math.max(1, listed.length - 1), colour: normalColour(name) ?? 'transparent' }];
  });
  if (stops.length < 2 || !Number.isFinite(angle)) return undefined;
  return { kind: 'linear', angle: Math.round((((angle % 360) + 360) % 360) * 10) / 10, stops };
}

/** The first `url()` of a value, unquoted. */
export const urlOf = (value: string | undefined): string | undefined =>
  /url\(\s*(?:"([^"]*)"|'([^']*)'|([^)"']*))\s*\)/
    .exec(value ?? '')
    ?.slice(1)
    .find((v) => (v as string | undefined) !== undefined);

/** The colour in `background`: the piece of it that is one. */
function backgroundColour(all: Computed['all']): string | undefined {
  const named = all['background-color'];
  const resolve = (value: string) =>
    normalColour(value.toLowerCase() === 'currentcolor' ? (all['color'] ?? '#000') : value);
  if (named !== undefined && all['background'] === undefined) return resolve(named);
  for (const piece of pieces(all['background'] ?? '').reverse()) {
    const colour = /^(?:url|linear-gradient|radial-gradient)\(/.test(piece) ? undefined : resolve(piece);
    if (colour !== undefined) return colour;
  }
  return named === undefined ? undefined : resolve(named);
}

/** The fill of a box: its colour, or the linear gradient over it. */
export function backgroundFill(style: Computed, box: Rect): Fill | undefined {
  const { all } = style;
  const image = all['background-image'] ?? all['background'] ?? '';
  const gradient = pieces(image).flatMap((piece) => linearGradient(piece, box) ?? [])[0];
  if (gradient) return gradient;
  const colour = backgroundColour(all);
  return colour === undefined ? undefined : { kind: 'solid', colour };
}

function radiusOf({ all }: Computed, box: Rect): Paint['radius'] {
  const corners = ['border-radius', 'border-top-left-radius', 'border-top-right-radius'].flatMap((name) =>
    pieces(all[name]?.split('/')[0] ?? '').map((p) => parseLength(p, 16)),
  );
  const [least] = [Math.min(box.width, box.height)];
  const radii = corners.map((c) => px(c, least) ?? 0);
  const radius = Math.min(Math.max(0, ...radii), least / 2);
  if (radius <= 0) return undefined;
  const halves = corners.some((c) => typeof c === 'object' && c.share >= 0.5);
  return halves ? 'round' : roundIfCircle(radius, box);
}

const shape = (id: string, named: boolean, box: Rect, paint: Paint, around: Around, page: Page): RawShape => {
  const leftOut = page.leftOut(box, around);
  const shown = around.clip && !leftOut ? intersect(box, around.clip) : box;
  return {
    kind: 'shape',
    named,
    ...(leftOut && { leftOut }),
    item: { kind: 'shape', id, box: shown, groups: around.groups, paint },
    art: { d: '' },
  };
};

/** What the items of a box are called; `id` was taken before what the box holds took it. */
export interface BoxName {
  readonly name: string;
  readonly named: boolean;
  readonly id?: string | undefined;
}

/** Whether a box shows anything itself besides single border lines. */
export const showsBox = ({ all, border }: Computed): boolean =>
  ['background', 'background-color', 'background-image', 'box-shadow'].some(
    (name) => all[name] !== undefined,
  ) || border.every((n) => n > 0);

/** The painted items of a box itself: its background with an even border, else its border's sides as lines. */
export function boxItems(
  style: Computed,
  box: Rect,
  { name, named, id }: BoxName,
  around: Around,
  page: Page,
): RawItem[] {
  const { all, border } = style;
  const fill = backgroundFill(style, box);
  const sides = (['top', 'right', 'bottom', 'left'] as const).map((side, i) => {
    const colour = all[`border-${side}-color`] ?? 'currentcolor';
    return {
      width: border[i] ?? 0,
      colour: normalColour(colour.toLowerCase() === 'currentcolor' ? (all['color'] ?? '#000000') : colour),
      dashed: /dashed|dotted/.test(all[`border-${side}-style`] ?? ''),
    };
  });
  const drawn = sides.filter((s) => s.width > 0 && s.colour !== undefined);
  const [first] = sides;
  const even =
    drawn.length === 4 && sides.every((s) => s.width === first?.width && s.colour === first.colour);
  const radius = radiusOf(style, box);
  const shadow = all['box-shadow'] === undefined ? undefined : cssShadow(all['box-shadow']);
  const blend = blendOf(all['mix-blend-mode']);
  const faded = around.opacity < 1 ? { opacity: around.opacity } : {};
  const stroke =
    even && first?.colour
      ? { colour: first.colour, width: first.width, ...(first.dashed && { dashed: true }) }
      : undefined;
  const paint: Paint = {
    ...(fill && { fill }),
    ...(stroke && { stroke }),
    ...(radius !== undefined && { radius }),
    ...(shadow && { shadow }),
    ...cssEffects(all['filter'] ?? ''),
    ...(blend && { blend }),
    ...faded,
  };
  const items: RawItem[] = [];
  if (box.width <= 0 || box.height <= 0) return items;
  if (fill || stroke || shadow) items.push(shape(id ?? page.id(name), named, box, paint, around, page));
  const image = urlOf(all['background-image'] ?? all['background']);
  if (image !== undefined) {
    const size = all['background-size'] ?? '';
    const { content, kept } = pictureContent(image, size.includes('contain') ? 'contain' : 'cover');
    const id = page.id(`${name}-picture`);
    if (!kept) page.note(PLACEHOLDER, id);
    items.push({
      kind: 'picture',
      named,
      item: {
        kind: 'picture',
        id,
        box,
        groups: around.groups,
        content,
        paint: { ...faded, ...(radius !== undefined && { radius }) },
      },
    });
  }
  if (!even)
    sides.forEach((side, i) => {
      if (side.width <= 0 || side.colour === undefined) return;
      const level = i % 2 === 0;
      const line = level
        ? {
            x: box.x,
            y: i === 0 ? box.y : box.y + box.height - side.width,
            width: box.width,
            height: side.width,
          }
        : {
            x: i === 3 ? box.x : box.x + box.width - side.width,
            y: box.y,
            width: side.width,
            height: box.height,
          };
      const paintOfLine = { fill: { kind: 'solid' as const, colour: side.colour }, ...faded };
      items.push(shape(page.id(`${name}-line`), false, line, paintOfLine, around, page));
    });
  return items;
}

/** What is said of pictures that are not in the file. */
export const PLACEHOLDER =
  'Pictures that are not in the file as PNG, JPEG, GIF, WebP or SVG are shown as placeholders.';

/** The factor of a CSS opacity. */
export const opacityOf = (all: Computed['all']): number =>
  Math.min(1, Math.max(0, length(all['opacity'], 1) ?? 1));
