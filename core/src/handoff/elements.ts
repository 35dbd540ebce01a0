import {
  UNREAD,
  type ArtContent,
  type Part,
  type TextContent,
  type TextRun,
  type TextStyle,
} from '../model/index.js';
import { lettersOf, widthWithoutFile } from '../text/index.js';
import type { Meaning } from './meaning.js';
import type { PictureFile } from './pictures.js';

/** An element of the page that leaves, before it is written as HTML, as TSX or by a script. */
export interface Element {
  readonly tag: string;
  readonly attributes: readonly (readonly [name: string, value: string])[];
  readonly children: readonly (Element | string)[];
  /** The part that it is, where it is one and not a piece of one. */
  readonly part?: Part;
}

/** What elements are made with: the class and the meaning of each part by its id, and the picture files by their data. */
export interface Dressed {
  readonly names: ReadonlyMap<string, string>;
  readonly meanings: ReadonlyMap<string, Meaning>;
  readonly pictures: ReadonlyMap<string, PictureFile>;
  /** The characters of a text that no font file has; unknown where nothing was measured. */
  readonly uncovered?: ((text: string, style: TextStyle) => string) | undefined;
}

const ESCAPES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};
/** Text as it may stand in HTML content and quoted attributes. */
export const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, (c) => ESCAPES[c] ?? c);

type Attributes = Element['attributes'];

const element = (tag: string, attributes: Attributes, children: Element['children'] = []): Element => ({
  tag,
  attributes,
  children,
});

const attribute = (name: string, value: string | number | undefined): Attributes =>
  value === undefined ? [] : [[name, String(value)]];

/** A drawn word on the line's baseline; where it can be read its words are chosen and copied as text. */
function wordElement({ text, drawn, style }: TextRun, n: number): Element | string {
  if (!drawn) return '';
  const { d, width, size, rule } = drawn;
  if (d === '') return element('span', [['class', `run-${n} drawn-space`]], [text]);
  const said = UNREAD.test(text)
    ? []
    : [
        element(
          'text',
          [
            ['font-size', String(size)],
            ['textLength', String(width)],
            ['lengthAdjust', 'spacingAndGlyphs'],
            ['fill', 'transparent'],
          ],
          [text],
        ),
      ];
  return element(
    'svg',
    [
      ['class', `run-${n} drawn-word`],
      ['viewBox', `0 ${-size} ${width} ${size}`],
      ['preserveAspectRatio', 'none'],
    ],
    [element('path', [['d', d], ['fill', style.colour], ...attribute('fill-rule', rule)]), ...said],
  );
}

/** Words, with characters that no font file has held as wide as they were measured, whatever font a machine has for them. */
function heldWords({ text, style }: TextRun, { uncovered }: Dressed): (Element | string)[] {
  const missing = new Set(uncovered?.(text, style));
  if (missing.size === 0) return [text];
  const pieces: (Element | string)[] = [];
  let words = '';
  for (const letter of lettersOf(text)) {
    if (!Array.from(letter).some((ch) => missing.has(ch))) {
      words += letter;
      continue;
    }
    if (words !== '') pieces.push(words);
    words = '';
    const isWide = widthWithoutFile(letter) === 1;
    pieces.push(element('span', [['class', isWide ? 'unheld-wide' : 'unheld']], [letter]));
  }
  if (words !== '') pieces.push(words);
  return pieces;
}

function runElements(content: TextContent, dressed: Dressed): (Element | string)[] {
  const [first, ...rest] = content.runs;
  if (!first) return [];
  if (rest.length === 0 && !first.drawn) return heldWords(first, dressed);
  return content.runs.map((run, i) =>
    run.drawn
      ? wordElement(run, i + 1)
      : element('span', [['class', `run-${i + 1}`]], heldWords(run, dressed)),
  );
}

const artElement = (art: ArtContent): Element =>
  element(
    'svg',
    [
      ['class', 'picture-fill'],
      ['viewBox', art.view.join(' ')],
      ['preserveAspectRatio', 'none'],
      ['aria-hidden', 'true'],
    ],
    art.paths.map((p) =>
      element('path', [
        ['d', p.d],
        ['fill', p.fill ?? 'none'],
        ...attribute('fill-rule', p.fillRule),
        ...attribute('stroke', p.stroke),
        ...attribute('stroke-width', p.strokeWidth),
        ...attribute('stroke-linecap', p.cap),
        ...attribute('stroke-linejoin', p.join),
        ...attribute('opacity', p.opacity),
      ]),
    ),
  );

/** What a picture shows, by its part's name; nothing where that says no more than that it is a picture. */
export const altOf = (name: string): string =>
  name.replace(/\s*\b(?:picture|image|photo|icon|avatar|shape|part|figure)s?(?:\s+\d+)?$/i, '').trim();

/** The element of a part with all that is in it. */
export function elementOf(part: Part, dressed: Dressed): Element {
  const { names, meanings, pictures } = dressed;
  const { tag, attributes } = meanings.get(part.id) ?? { tag: 'div', attributes: [] };
  const { content } = part;
  const inner: (Element | string)[] = [];
  if (content?.kind === 'text') inner.push(...runElements(content, dressed));
  if (content?.kind === 'art') inner.push(artElement(content));
  if (content?.kind === 'turned')
    inner.push(
      element(tag === 'span' ? 'span' : 'p', [['class', 'turned']], runElements(content.text, dressed)),
    );
  const file = content?.kind === 'picture' ? pictures.get(content.href ?? '') : undefined;
  if (file)
    inner.push(
      element('img', [
        ['class', 'picture-fill'],
        ['src', file.name],
        ['alt', altOf(part.name)],
      ]),
    );
  inner.push(...part.children.map((c) => elementOf(c, dressed)));
  return {
    tag,
    attributes: [['class', names.get(part.id) ?? ''], ...attributes],
    children: inner,
    part,
  };
}

/** Elements that hold nothing (HTML §13.1.2). */
export const VOID = new Set(['img', 'br', 'link', 'meta']);
/** Elements of SVG that are written as one tag where they hold nothing. */
export const SINGLE = new Set(['path']);

/** Whether an element is written on lines of its own: parts that hold parts or pictures; words are not broken up. */
export const isBlock = (e: Element): boolean =>
  e.part !== undefined && e.part.kind !== 'text' && e.children.length > 0;

/** An element as HTML, each part on a line of its own. `extra` are attributes that a part has besides. */
export function printHtml(e: Element, indent: string, extra: (part: Part) => Attributes): string {
  const all = [...e.attributes, ...(e.part ? extra(e.part) : [])];
  const open = `<${e.tag}${all.map(([n, v]) => ` ${n}="${escapeHtml(v)}"`).join('')}`;
  if (VOID.has(e.tag)) return `${open}>`;
  if (SINGLE.has(e.tag)) return `${open}/>`;
  const inner = e.children.map((c) =>
    typeof c === 'string' ? escapeHtml(c) : printHtml(c, `${indent}  `, extra),
  );
  if (!isBlock(e)) return `${open}>${inner.join('')}</${e.tag}>`;
  return `${open}>\n${inner.map((line) => `${indent}  ${line}\n`).join('')}${indent}</${e.tag}>`;
}
