import type { Paint, Rect } from '../model/index.js';
import type { Face, Family, TextMeasurer } from '../text/index.js';
import { rawId } from './cleanUp.js';
import type { HtmlPage } from './html/html.js';
import { DrawingError } from './items.js';
import type { RawDrawing, RawItem, RawText } from './raw.js';
import { serializeXml, type XmlElement } from './xml.js';

/** HTML that stands within an SVG (SVG 2 §12.3), to be laid out once its fonts are there. */
export interface Foreign {
  readonly page: HtmlPage;
  /** Where its frame stands, px, and by how much it is enlarged. */
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

/** What words in it take over from around it. */
const INHERITED = ['font-family', 'font-size', 'font-weight', 'font-style', 'color', 'line-height'] as const;
/** Elements of HTML without an end. */
const VOID = /<\/(?:area|base|br|col|embed|hr|img|input|link|meta|source|track|wbr)>/g;

/** The page that the content of a `foreignObject` makes, in a frame of this size. */
export function foreignPage(
  el: XmlElement,
  size: { readonly width: number; readonly height: number },
  around: Readonly<Record<string, string>>,
  styles: readonly string[],
): string {
  const own = INHERITED.flatMap((p) => (around[p] === undefined ? [] : [`${p}:${around[p]}`]));
  const css = ['margin:0', 'position:relative', `width:${size.width}px`, `height:${size.height}px`, ...own];
  const body = serializeXml({ ...el, name: 'body', attributes: { style: css.join(';') } }).replace(VOID, '');
  return `<!DOCTYPE html><html><head><style>${styles.join('\n')}</style></head>${body}</html>`;
}

const enlarged = (box: Rect, { x, y, scale }: Foreign): Rect => ({
  x: x + box.x * scale,
  y: y + box.y * scale,
  width: box.width * scale,
  height: box.height * scale,
});

function enlargedPaint(paint: Paint, by: number): Paint {
  const { radius, stroke, shadow } = paint;
  return {
    ...paint,
    ...(radius !== undefined &&
      radius !== 'round' && {
        radius:
          typeof radius === 'number' ? radius * by : (radius.map((r) => r * by) as unknown as typeof radius),
      }),
    ...(stroke && { stroke: { ...stroke, width: stroke.width * by } }),
    ...(shadow && { shadow: { ...shadow, dx: shadow.dx * by, dy: shadow.dy * by, blur: shadow.blur * by } }),
  };
}

function placedText(text: RawText, at: Foreign): RawText {
  const { x, y, scale } = at;
  return {
    ...text,
    ...(text.lineHeight !== undefined && { lineHeight: text.lineHeight * scale }),
    chunks: text.chunks.map((c) => ({
      ...c,
      x: x + c.x * scale,
      y: y + c.y * scale,
      ...(c.wanted !== undefined && { wanted: c.wanted * scale }),
      runs: c.runs.map(({ text: words, style }) => ({
        text: words,
        style: { ...style, size: style.size * scale, letterSpacing: style.letterSpacing * scale },
      })),
    })),
  };
}

/** An item of the page where it stands in the drawing, named after the element that holds it. */
function placed(item: RawItem, at: Foreign, holder: RawItem): RawItem {
  const id = `${rawId(holder)}-${rawId(item)}`;
  const around = holder.kind === 'text' ? [] : holder.item.groups;
  if (item.kind === 'text') return { ...placedText(item, at), id, groups: [...around, ...item.groups] };
  return {
    ...item,
    item: {
      ...item.item,
      id,
      groups: [...around, ...item.item.groups],
      box: enlarged(item.item.box, at),
      paint: enlargedPaint(item.item.paint, at.scale),
    },
  } as RawItem;
}

/** The font files that the HTML within a drawing needs. */
export const foreignFaces = ({ foreign }: RawDrawing, own: readonly Family[]): Face[] =>
  [...(foreign?.values() ?? [])].flatMap(({ page }) => page.faces(own));

/** The items of a piece of HTML; one that lays itself out is left out, and told. */
function laidOutOrTold(own: Foreign, holder: RawItem, m: TextMeasurer): Pick<RawDrawing, 'items' | 'notes'> {
  try {
    return own.page.layOut(m);
  } catch (error) {
    if (!(error instanceof DrawingError)) throw error;
    return { items: [], notes: [{ kind: 'not understood', text: error.message, items: [rawId(holder)] }] };
  }
}

/** A drawing with the HTML within it laid out. */
export function withForeign(raw: RawDrawing, m: TextMeasurer): RawDrawing {
  const { foreign, ...rest } = raw;
  if (!foreign) return raw;
  const notes = [...raw.notes];
  const items = raw.items.flatMap((item): RawItem[] => {
    const own = foreign.get(rawId(item));
    if (!own) return [item];
    const laidOut = laidOutOrTold(own, item, m);
    notes.push(...laidOut.notes);
    return laidOut.items.map((inner) => placed(inner, own, item));
  });
  return { ...rest, items, notes };
}
