import {
  walk,
  type ArtContent,
  type Part,
  type Structure,
  type TextContent,
  type TextStyle,
} from '../model/index.js';
import { layoutCss, paintRules, px, type Declarations } from './css.js';

/** A file of the handoff. */
export interface OutputFile {
  readonly name: string;
  readonly text: string;
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

const slug = (name: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40)
    .replace(/^(\d)/, 'n$1') || 'part';

/** A class name for every part, made from its name; a second one of the same gets a number. */
export function classNames(root: Part): Map<string, string> {
  const taken = new Set<string>();
  const names = new Map<string, string>();
  for (const part of walk(root)) {
    const base = slug(part.name);
    let name = base;
    for (let n = 2; taken.has(name); n++) name = `${base}-${n}`;
    taken.add(name);
    names.set(part.id, name);
  }
  return names;
}

const quotedFamily = (list: string): string =>
  list
    .split(',')
    .map((n) =>
      n
        .trim()
        .replace(/^(['"])(.*)\1$/, '$2')
        .replace(/[^\p{L}\p{N} _-]/gu, ''),
    )
    .filter((n) => n !== '')
    .map((n) => (/^(serif|sans-serif|monospace|cursive|fantasy|system-ui)$/.test(n) ? n : `'${n}'`))
    .join(', ') || 'sans-serif';

function typeCss(style: TextStyle): Declarations {
  return [
    ['font-family', quotedFamily(style.family)],
    ['font-size', px(style.size)],
    ['font-weight', String(style.weight)],
    ...(style.italic ? ([['font-style', 'italic']] as const) : []),
    ...(style.letterSpacing !== 0 ? ([['letter-spacing', px(style.letterSpacing)]] as const) : []),
    ['color', style.colour],
  ];
}

/** A run says all that it could inherit from the paragraph's first. */
const runCss = (style: TextStyle): Declarations => [
  ...typeCss(style),
  ...(style.italic ? [] : ([['font-style', 'normal']] as const)),
  ...(style.letterSpacing === 0 ? ([['letter-spacing', 'normal']] as const) : []),
];

function textCss(content: TextContent): Declarations {
  const style = content.runs[0]?.style;
  return [
    ...(style ? typeCss(style) : []),
    ['line-height', px(content.lineHeight)],
    ...(content.align === 'start'
      ? []
      : ([['text-align', content.align === 'centre' ? 'center' : 'end']] as const)),
    ['white-space', 'pre-line'],
  ];
}

/** Values come from a drawing: what could end a declaration or load something has no place in them. */
const safeValue = (value: string): string => (/[;{}<>\\]|url\(|expression/i.test(value) ? 'initial' : value);

const block = (selector: string, declarations: Declarations): string =>
  declarations.length === 0
    ? ''
    : `${selector} {\n${declarations.map(([p, v]) => `  ${p}: ${safeValue(v)};`).join('\n')}\n}\n`;

const BASE = `*, *::before, *::after { box-sizing: border-box; }
html { -webkit-text-size-adjust: 100%; text-size-adjust: 100%; }
body, p { margin: 0; }
[data-part] { position: relative; }
.turned { position: absolute; left: 50%; top: 50%; white-space: pre; }
.picture-fill { position: absolute; inset: 0; width: 100%; height: 100%; border-radius: inherit; }
`;

function runHtml(content: TextContent): string {
  const [first, ...rest] = content.runs;
  if (!first) return '';
  if (rest.length === 0) return escapeHtml(first.text);
  return content.runs.map((run, i) => `<span class="run-${i + 1}">${escapeHtml(run.text)}</span>`).join('');
}

function artHtml(art: ArtContent): string {
  const attribute = (name: string, value: string | number | undefined) =>
    value === undefined ? '' : ` ${name}="${escapeHtml(String(value))}"`;
  const paths = art.paths.map(
    (p) =>
      `<path d="${escapeHtml(p.d)}" fill="${escapeHtml(p.fill ?? 'none')}"` +
      attribute('fill-rule', p.fillRule) +
      attribute('stroke', p.stroke) +
      attribute('stroke-width', p.strokeWidth) +
      attribute('stroke-linecap', p.cap) +
      attribute('stroke-linejoin', p.join) +
      attribute('opacity', p.opacity) +
      '/>',
  );
  return `<svg class="picture-fill" viewBox="${art.view.join(' ')}" preserveAspectRatio="none" aria-hidden="true">${paths.join('')}</svg>`;
}

function partHtml(part: Part, names: ReadonlyMap<string, string>, indent: string): string {
  const tag = part.kind === 'text' ? 'p' : 'div';
  const open = `${indent}<${tag} class="${names.get(part.id) ?? ''}" data-part="${escapeHtml(part.id)}">`;
  const { content } = part;
  if (content?.kind === 'text') return `${open}${runHtml(content)}</${tag}>\n`;
  const inner: string[] = [];
  if (content?.kind === 'art') inner.push(`${indent}  ${artHtml(content)}\n`);
  if (content?.kind === 'turned') inner.push(`${indent}  <p class="turned">${runHtml(content.text)}</p>\n`);
  if (content?.kind === 'picture' && content.href?.startsWith('data:image/'))
    inner.push(`${indent}  <img class="picture-fill" src="${escapeHtml(content.href)}" alt="">\n`);
  inner.push(...part.children.map((c) => partHtml(c, names, `${indent}  `)));
  return inner.length === 0 ? `${open}</${tag}>\n` : `${open}\n${inner.join('')}${indent}</${tag}>\n`;
}

function partCss(part: Part, parent: Part | undefined, names: ReadonlyMap<string, string>): string {
  const selector = `.${names.get(part.id) ?? ''}`;
  const { content } = part;
  let css = block(selector, [
    ...layoutCss(part, parent),
    ...(part.paint ? paintRules(part.paint) : []),
    ...(content?.kind === 'text' ? textCss(content) : []),
    ...(content?.kind === 'picture' && !content.href ? ([['background', '#d9d6cd']] as const) : []),
  ]);
  if (content?.kind === 'turned')
    css += block(`${selector} > .turned`, [
      ['width', px(content.width)],
      ['height', px(content.height)],
      ['transform', `translate(-50%, -50%) rotate(${content.angle}deg)`],
      ...textCss(content.text).filter(([property]) => property !== 'white-space'),
    ]);
  const words = content?.kind === 'text' ? content : content?.kind === 'turned' ? content.text : undefined;
  if (words && words.runs.length > 1)
    // A run of another size must not make its line taller: the paragraph's own line height holds.
    words.runs.forEach(
      (run, i) => (css += block(`${selector} .run-${i + 1}`, [...runCss(run.style), ['line-height', '0']])),
    );
  if (content?.kind === 'picture' && content.fit !== 'fill')
    css += block(`${selector} > .picture-fill`, [['object-fit', content.fit]]);
  return css;
}

function allCss(part: Part, parent: Part | undefined, names: ReadonlyMap<string, string>): string {
  return partCss(part, parent, names) + part.children.map((c) => allCss(c, part, names)).join('');
}

/** `index.html` and `styles.css` of a structure: flex and grid, no script, every element with its part's id. */
export function exportHtml(structure: Structure): OutputFile[] {
  const names = classNames(structure.root);
  const html = `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <title>${escapeHtml(structure.name)}</title>
  <link rel="stylesheet" href="styles.css">
</head>
<body>
${partHtml(structure.root, names, '  ')}</body>
</html>
`;
  return [
    { name: 'index.html', text: html },
    { name: 'styles.css', text: BASE + allCss(structure.root, undefined, names) },
  ];
}
