import type { Rect } from '../../model/index.js';
import { rawId } from '../cleanUp.js';
import { fitOf, pictureContent } from '../picture.js';
import type { RawItem } from '../raw.js';
import { readSvgTree } from '../svg.js';
import { intersect } from '../svgShapes.js';
import type { StyledNode } from './computed.js';
import type { Words } from './inline.js';
import type { Around, Page } from './page.js';
import { boxItems, PLACEHOLDER } from './paintBox.js';
import { pieces } from './values.js';

/** Elements whose content is not of the page: pictures and drawings. */
export const isReplaced = ({ el, style }: StyledNode): boolean =>
  /^(?:img|canvas)$/.test(el.name) || style.display === 'svg';

/** Fields, whose words are in an attribute. */
export const isControl = ({ el }: StyledNode): boolean => /^(?:input|select|textarea)$/.test(el.name);

/** What a field shows. */
export function controlWords({ el, style }: StyledNode): Words[] {
  const text = (el.attributes['value'] ?? el.attributes['placeholder'] ?? '').trim();
  const isMark = /^(?:checkbox|radio|range|color|file)$/.test(el.attributes['type'] ?? '');
  return text === '' || isMark ? [] : [{ kind: 'words', text, style }];
}

/** The inner size of a picture, px: as declared, or as it is by itself. */
export function naturalSize({ el, style }: StyledNode): { width: number; height: number } {
  const [width, height] = [style.width, style.height].map((v) => (typeof v === 'number' ? v : undefined));
  const natural =
    el.name === 'img' ? pictureContent(el.attributes['src'], 'fill').content.natural : undefined;
  const view = el.attributes['viewbox'] ?? el.attributes['viewBox'];
  const [, , vw = 0, vh = 0] = (view ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const own = natural ?? (vw > 0 && vh > 0 ? { width: vw, height: vh } : undefined);
  const fallback = el.name === 'img' ? { width: 0, height: 0 } : { width: 300, height: 150 };
  const wide =
    width ??
    (own && height !== undefined ? (height * own.width) / own.height : (own?.width ?? fallback.width));
  return { width: wide, height: height ?? (own ? (wide * own.height) / own.width : fallback.height) };
}

/** The pieces of a small drawing in the page are one icon. */
const MOST_ICON = 64;

function asIcon(items: readonly RawItem[], id: () => string, { width, height }: Rect): RawItem[] {
  if (Math.max(width, height) > MOST_ICON || !items.every((i) => i.kind === 'shape' || i.kind === 'art'))
    return [...items];
  const icon = id();
  return items.map((i) => ({ ...i, icon }) as RawItem);
}

/** The items of a picture or a drawing in the page, with its box. */
export function replacedItems(
  node: StyledNode,
  name: string,
  inner: Rect,
  box: Rect,
  around: Around,
  page: Page,
): RawItem[] {
  const { el, style } = node;
  const painted = boxItems(style, box, { name: `${name}-box`, named: false }, around, page);
  if (inner.width <= 0 || inner.height <= 0) return painted;
  if (style.display === 'svg') {
    const attributes = { ...el.attributes, width: String(inner.width), height: String(inner.height) };
    // The page's own corner is where the drawing's frame begins.
    const frame = {
      x: -inner.x,
      y: -inner.y,
      width: inner.x + inner.width + 1,
      height: inner.y + inner.height + 1,
    };
    const drawn = readSvgTree({ ...el, attributes }, 'svg', { frame });
    const items = drawn.items.map((item): RawItem => {
      const id = page.id(rawId(item));
      return item.kind === 'text' ? { ...item, id } : ({ ...item, item: { ...item.item, id } } as RawItem);
    });
    return [...painted, ...asIcon(items, () => page.id(name), inner)];
  }
  const fit = style.all['object-fit'];
  const { content, kept } = pictureContent(
    el.attributes['src'],
    fit === 'cover' || fit === 'contain' ? fit : fitOf('none'),
  );
  const id = page.id(name);
  if (!kept) page.note(PLACEHOLDER, id);
  const [shape] = painted.flatMap((p) => (p.kind === 'shape' ? [p.item.paint] : []));
  const leftOut = page.leftOut(inner, around);
  const [corner] = pieces(style.all['border-radius'] ?? '');
  const radius = corner?.endsWith('%') ? ('round' as const) : (shape?.radius ?? cornerOf(corner));
  return [
    ...painted,
    {
      kind: 'picture',
      named: el.attributes['id'] !== undefined,
      ...(leftOut && { leftOut }),
      item: {
        kind: 'picture',
        id,
        box: around.clip && !leftOut ? intersect(inner, around.clip) : inner,
        groups: around.groups,
        content,
        paint: {
          ...(around.opacity < 1 && { opacity: around.opacity }),
          ...(radius !== undefined && { radius }),
        },
      },
    },
  ];
}

/** A corner that is declared on a picture without a box of its own, px. */
function cornerOf(corner: string | undefined): number | undefined {
  const px = /^([\d.]+)px$/.exec(corner ?? '')?.[1];
  return px === undefined || Number(px) === 0 ? undefined : Number(px);
}
