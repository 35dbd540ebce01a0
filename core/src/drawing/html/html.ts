import type { Family, Face, TextMeasurer } from '../../text/index.js';
import { facesOfRuns } from '../../text/index.js';
import type { TextRun } from '../../model/index.js';
import { DrawingError, type Note } from '../items.js';
import type { RawDrawing, RawShape } from '../raw.js';
import { StyleSheet, TOO_MANY_RULES } from '../styles.js';
import { elementsOf, textOf, type XmlElement } from '../xml.js';
import { styled, type StyledNode } from './computed.js';
import { parseHtml } from './dom.js';
import { PositionedPage } from './positioned.js';
import { Page } from './page.js';
import { backgroundFill } from './paintBox.js';
import { px } from './values.js';

/** The width of the window where a page says nothing of it, px. */
const WINDOW = 1280;
/** A page narrower than this is no screen. */
const NARROWEST = 200;

/** A page that is parsed and styled; where its words stand is known only when they are measured. */
export interface HtmlPage {
  readonly faces: (own: readonly Family[]) => Face[];
  readonly layOut: (m: TextMeasurer) => RawDrawing;
}

function* elements(el: XmlElement): Generator<XmlElement> {
  yield el;
  for (const child of elementsOf(el)) yield* elements(child);
}

function* nodes(node: StyledNode): Generator<StyledNode> {
  yield node;
  for (const child of node.children) if (typeof child !== 'string') yield* nodes(child);
}

/** The frame that a page was drawn for: as wide as what is placed in it reaches, or the usual window. */
function frameWidth(body: StyledNode): number {
  const own = px(body.style.width, WINDOW);
  if (typeof body.style.width === 'number' && own !== undefined && own >= NARROWEST) return own;
  let reach = 0;
  let centred = false;
  for (const child of body.children) {
    if (typeof child === 'string') continue;
    const { width, inset, margin, position } = child.style;
    if (typeof width !== 'number') continue;
    const left = position === 'absolute' ? (px(inset[3], WINDOW) ?? 0) : 0;
    reach = Math.max(reach, left + width);
    centred ||= margin[1] === 'auto' && margin[3] === 'auto';
  }
  // A centred column stands in a wider window; what is placed by numbers fills its own.
  if (centred) return Math.max(WINDOW, reach);
  return reach >= NARROWEST ? Math.min(reach, 20_000) : WINDOW;
}

function runsOf(body: StyledNode): TextRun[] {
  const found: TextRun[] = [];
  for (const { el, style, children } of nodes(body)) {
    const words = children.filter((c) => typeof c === 'string').join('');
    const value = `${el.attributes['value'] ?? ''}${el.attributes['placeholder'] ?? ''}`;
    // Upper case letters may stand in another file than the ones written.
    found.push({ text: `${words}${words.toUpperCase()}${value}`, style: style.type });
  }
  return found;
}

/** What of the page's own canvas is painted: the background of `html`, else that of `body` (CSS Backgrounds 3 §2.11). */
function canvas(root: StyledNode, body: StyledNode, width: number, height: number, page: Page): RawShape[] {
  const box = { x: 0, y: 0, width, height };
  const fill = backgroundFill(root.style, box) ?? backgroundFill(body.style, box);
  if (!fill) return [];
  const id = page.id('page');
  return [
    {
      kind: 'shape',
      named: false,
      item: { kind: 'shape', id, box, groups: [], paint: { fill } },
      art: { d: '' },
    },
  ];
}

/**
 * Reads an HTML page whose items stand at fixed positions: parsed, never run, nothing fetched. Boxes come from the declared numbers, in a
 * frame of a given width, px, or of the one that the page has. Throws a {@link DrawingError} for a file that cannot be read; laying out
 * throws one for a page that lays itself out, which is a browser's work.
 */
export function readHtml(source: string, name: string, frame?: number): HtmlPage {
  const root = parseHtml(source);
  const sheet = new StyleSheet();
  sheet.index(root);
  const notes: Note[] = [];
  for (const el of elements(root)) {
    if (el.name === 'style') sheet.add(textOf(el), WINDOW);
    if (el.name === 'link' && /stylesheet/i.test(el.attributes['rel'] ?? ''))
      notes.push({
        kind: 'not understood',
        text: `The style sheet “${(el.attributes['href'] ?? '').slice(0, 60)}” is not in the file: put it into a style block.`,
        items: [],
      });
    if (el.name === 'script')
      notes.push({ kind: 'left out', text: 'scripts, which are never run', items: [] });
  }
  for (const selector of sheet.skipped)
    notes.push({
      kind: 'not understood',
      text: `The selector “${selector.slice(0, 60)}” in a style block was passed over.`,
      items: [],
    });
  const page = styled(root, sheet);
  if (sheet.exhausted) notes.push({ kind: 'not understood', text: TOO_MANY_RULES, items: [] });
  const body = page.children.find((c): c is StyledNode => typeof c !== 'string' && c.el.name === 'body');
  if (!body) throw new DrawingError('The page has no body: export it again.');
  const hidden = [...nodes(body)].filter(
    (n) => n.style.display === 'none' && n.style.all['display'] === 'none',
  ).length;
  const width = frame ?? frameWidth(body);
  return {
    faces: (own) => facesOfRuns(runsOf(body), own),
    layOut: (m) => {
      const sink = new Page(m);
      const bare = {
        ...body.style.all,
        'background-color': 'transparent',
        background: '',
        'background-image': '',
      };
      const height = new PositionedPage(sink).read({ ...body, style: { ...body.style, all: bare } }, width);
      const declared = px(body.style.height, 0) ?? 0;
      const tall = Math.max(1, Math.ceil(Math.max(height, declared)));
      const painted = canvas(page, body, width, tall, sink);
      const { items, notes: found } = sink.result();
      return {
        name,
        width,
        height: tall,
        items: [...painted, ...items],
        notes: unique([
          ...notes,
          ...found,
          ...(hidden > 0
            ? [
                {
                  kind: 'left out' as const,
                  text: `${hidden} hidden ${hidden === 1 ? 'element' : 'elements'} left out`,
                  items: [],
                },
              ]
            : []),
        ]),
      };
    },
  };
}

const unique = (notes: readonly Note[]): Note[] => [...new Map(notes.map((n) => [n.text, n])).values()];
