import { faceKey, SHIPPED, UNICODE_RANGES, type OwnFont } from '@tinfold/core/text';
import { isClear, px } from './asComputed';
import { itemsOf, type Placed } from './placedItems';

/** The window that a page is laid out in where it says nothing of it, px. */
const WINDOW = 1280;
/** A page narrower than this is no screen, px. */
const NARROWEST = 200;
const WIDEST = 20_000;
/** How long pictures and fonts that are in the page may take, ms. */
const PATIENCE = 15_000;
/** Nothing is fetched but our own fonts, and nothing runs. */
const POLICY =
  "default-src 'none'; img-src data:; font-src 'self' data:; style-src 'unsafe-inline'; form-action 'none'; base-uri 'none'";

/** Our fonts under their own names, each file only for its letters, so that the page is laid out as it will be measured. */
function fontRules(own: readonly OwnFont[]): string {
  const rule = (family: string, weight: number, isItalic: boolean, url: string, range?: string): string =>
    `@font-face{font-family:'${family}';font-weight:${weight};font-style:${isItalic ? 'italic' : 'normal'};src:url('${url}');${range === undefined ? '' : `unicode-range:${range}`}}`;
  const shipped = SHIPPED.flatMap((family) =>
    (family.subsets === 'whole' ? [] : family.subsets).flatMap((subset) =>
      [false, true].flatMap((italic) =>
        (italic ? family.italics : family.weights).map((weight) =>
          rule(
            family.family,
            weight,
            italic,
            `/fonts/${faceKey({ family, weight, italic, subset })}.woff`,
            UNICODE_RANGES[subset],
          ),
        ),
      ),
    ),
  );
  const added = own.map((f) =>
    rule(f.family.replace(/['\\]/g, ''), f.weight, f.italic, `/api/fonts/${f.id}/file`),
  );
  return [...shipped, ...added].join('');
}

/** A frame in which nothing runs and from which nothing is asked, but which can be looked into. */
async function frameOf(head: string, body: string): Promise<HTMLIFrameElement> {
  const frame = document.createElement('iframe');
  frame.setAttribute('sandbox', 'allow-same-origin');
  frame.setAttribute('aria-hidden', 'true');
  frame.tabIndex = -1;
  frame.style.cssText = `position:fixed;left:-30000px;top:0;width:${WINDOW}px;height:900px;border:0;visibility:hidden`;
  frame.srcdoc = `<!DOCTYPE html><meta charset="utf-8"><meta http-equiv="Content-Security-Policy" content="${POLICY}">${head}${body}`;
  const loaded = new Promise<void>((resolve) => {
    frame.onload = () => {
      resolve();
    };
  });
  document.body.append(frame);
  await Promise.race([loaded, wait(PATIENCE)]);
  return frame;
}

const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Waits until what is in the page is there: it is read as it stands then. */
async function ready(inside: Document): Promise<void> {
  // A layout asks for the fonts.
  inside.documentElement.getBoundingClientRect();
  await Promise.race([
    Promise.allSettled([inside.fonts.ready, ...[...inside.images].map((i) => i.decode())]),
    wait(PATIENCE),
  ]);
}

/** The width that a page was made for: as wide as what stands in it reaches, the usual window for what fills or is centred in it. */
function widthOf(inside: Document): number {
  const { scrollWidth } = inside.documentElement;
  if (scrollWidth > WINDOW) return Math.min(scrollWidth, WIDEST);
  const boxes = [...inside.body.children].map((e) => e.getBoundingClientRect()).filter((b) => b.width > 0);
  const all = [...inside.body.querySelectorAll('*')].map((e) => e.getBoundingClientRect());
  const reach = Math.max(0, ...all.map((b) => b.right));
  const isCentred = boxes.some((b) => b.left > 1 && Math.abs(b.left - (WINDOW - b.right)) <= 1);
  return isCentred || reach < NARROWEST || reach > WINDOW - 1 ? WINDOW : Math.ceil(reach);
}

/** Items as a page in which each stands at a fixed place. */
function pageOf(
  items: readonly Placed[],
  title: string,
  width: number,
  height: number,
  ground: string,
): string {
  const doc = document.implementation.createHTMLDocument(title);
  const { body } = doc;
  body.setAttribute(
    'style',
    `margin:0;position:relative;width:${px(width)};height:${px(height)};${ground === '' ? '' : `background:${ground}`}`,
  );
  for (const { element } of items) body.append(doc.importNode(element, true));
  return `<!DOCTYPE html>\n${doc.documentElement.outerHTML}\n`;
}

/**
 * A page of any kind as one whose items stand at fixed places, as the browser lays it out: in a frame without scripts or network,
 * at the width that it was made for. What is asked for elsewhere is not fetched.
 */
export async function layOutPage(source: string, own: readonly OwnFont[]): Promise<string> {
  const page = new DOMParser().parseFromString(source, 'text/html');
  for (const e of page.querySelectorAll('script, meta[http-equiv], base, iframe, object, embed, link'))
    e.remove();
  const frame = await frameOf(`<style>${fontRules(own)}</style>${page.head.innerHTML}`, page.body.outerHTML);
  try {
    const inside = frame.contentDocument;
    if (!inside) throw new Error('The page could not be laid out: reload this page and try again.');
    await ready(inside);
    const width = widthOf(inside);
    frame.style.width = px(width);
    await ready(inside);
    const grounds = [inside.documentElement, inside.body].map((e) => getComputedStyle(e));
    const ground = grounds.find((s) => !isClear(s.backgroundColor))?.backgroundColor ?? '';
    const height = Math.max(
      1,
      ...[...inside.body.querySelectorAll('*'), inside.body].map((e) => e.getBoundingClientRect().bottom),
    );
    return pageOf(itemsOf(inside.body), page.title, width, height, ground);
  } finally {
    frame.remove();
  }
}

/** An SVG in which HTML that it holds stands at fixed places, each in its own frame. */
export async function layOutForeign(source: string, own: readonly OwnFont[]): Promise<string> {
  const drawing = new DOMParser().parseFromString(source, 'image/svg+xml');
  // What cannot be parsed is told by the reader.
  if (drawing.querySelector('parsererror')) return source;
  for (const e of drawing.querySelectorAll('script')) e.remove();
  const frame = await frameOf(`<style>${fontRules(own)}</style>`, '<body style="margin:0"></body>');
  try {
    const inside = frame.contentDocument;
    if (!inside) return source;
    inside.body.append(inside.importNode(drawing.documentElement, true));
    await ready(inside);
    const shown = [...inside.querySelectorAll('foreignObject')];
    for (const [i, holder] of [...drawing.querySelectorAll('foreignObject')].entries()) {
      const [there] = [shown[i]];
      const [content] = there?.children ?? [];
      if (!there || !content) continue;
      const at = there.getBoundingClientRect();
      const scale = at.width / (Number(holder.getAttribute('width')) || at.width);
      const items = itemsOf(there, { x: at.x, y: at.y, scale });
      holder.replaceChildren(...items.map(({ element }) => drawing.importNode(element, true)));
    }
    return new XMLSerializer().serializeToString(drawing);
  } finally {
    frame.remove();
  }
}
