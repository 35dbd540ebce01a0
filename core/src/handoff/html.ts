import { desugar } from '../layout/index.js';
import {
  breakpoints,
  drawnWidth,
  modesOf,
  standing,
  turnsWide,
  UNREAD,
  walk,
  type ArtContent,
  type Bound,
  type Part,
  type Structure,
  type TextContent,
  type TextRun,
  type TextStyle,
  type Token,
  type TokenPlace,
} from '../model/index.js';
import { familyNames } from '../text/index.js';
import { fontFaceCss, GENERIC, leadingFamily, type FontFace } from './fonts.js';
import { layoutCss, paintRules, px, SIDES, type Declarations } from './css.js';

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
  const taken = new Set<string>(['frame']);
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

const quotedFamily = (list: string): string => {
  const names = familyNames(list)
    .map((n) => n.replace(/[^\p{L}\p{N} _-]/gu, ''))
    .filter((n) => n !== '');
  // A list that names no family gets the one that its words were measured in.
  const first = names[0] === undefined || GENERIC.test(names[0]) ? [leadingFamily(list)] : [];
  return [...first, ...names].map((n) => (GENERIC.test(n) ? n : `'${n}'`)).join(', ');
};

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

/** How wide a drawn word or space is; it grows with its type size. */
function drawnCss({ drawn, style }: TextRun): Declarations {
  if (!drawn) return [];
  const width = px(drawnWidth(drawn, style.size));
  return drawn.d === ''
    ? [['word-spacing', width]]
    : [
        ['font-size', px(style.size)],
        ['width', width],
      ];
}

function textCss(content: TextContent, bound: Bound = {}): Declarations {
  const style = content.runs[0]?.style;
  return [
    ...byTokens([...(style ? typeCss(style) : []), ['line-height', px(content.lineHeight)]], bound),
    ...(content.align === 'start'
      ? []
      : ([['text-align', content.align === 'centre' ? 'center' : 'end']] as const)),
    ['white-space', 'pre-line'],
  ];
}

/** Which place of a part a token for a text's property stands at. */
const TEXT_PLACES: Readonly<Record<string, TokenPlace>> = {
  'font-size': 'text.size',
  'line-height': 'text.lineHeight',
  color: 'text.colour',
};

/** Declarations of a text with the tokens that stand for their values. */
const byTokens = (declarations: Declarations, bound: Bound = {}): Declarations =>
  declarations.map(([property, value]) => {
    const place = TEXT_PLACES[property];
    const token = place && bound[place];
    return [property, token === undefined ? value : `var(--${token})`];
  });

/** What cuts a text after so many lines, with an ellipsis. */
const cutCss = (lines: number | undefined): Declarations =>
  lines === undefined
    ? []
    : lines === 1
      ? [
          ['white-space', 'nowrap'],
          ['overflow', 'hidden'],
          ['text-overflow', 'ellipsis'],
        ]
      : [
          ['display', '-webkit-box'],
          ['-webkit-box-orient', 'vertical'],
          ['-webkit-line-clamp', String(lines)],
          ['overflow', 'hidden'],
        ];

/** Values come from a drawing: what could end a declaration or load something has no place in them. */
const safeValue = (value: string): string => (/[;{}<>\\]|url\(|expression/i.test(value) ? 'initial' : value);

const block = (selector: string, declarations: Declarations): string =>
  declarations.length === 0
    ? ''
    : `${selector} {\n${declarations.map(([p, v]) => `  ${p}: ${safeValue(v)};`).join('\n')}\n}\n`;

const BASE = `*, *::before, *::after { box-sizing: border-box; }
html { -webkit-text-size-adjust: 100%; text-size-adjust: 100%; }
html, body { height: 100%; }
body, p { margin: 0; }
.frame { container: frame / inline-size; height: 100%; }
[data-part] { position: relative; }
.turned { position: absolute; left: 50%; top: 50%; white-space: pre; }
.drawn-word { height: 1em; margin-top: -1em; overflow: visible; }
.drawn-space { font-size: 0; line-height: 0; }
.picture-fill { position: absolute; inset: 0; width: 100%; height: 100%; border-radius: inherit; }
`;

/** A drawn word on the line's baseline; where it can be read its words are chosen and copied as text. */
function wordHtml({ text, drawn, style }: TextRun, n: number): string {
  if (!drawn) return '';
  const { d, width, size, rule } = drawn;
  if (d === '') return `<span class="run-${n} drawn-space">${escapeHtml(text)}</span>`;
  const said = UNREAD.test(text)
    ? ''
    : `<text font-size="${size}" textLength="${width}" lengthAdjust="spacingAndGlyphs" fill="transparent">${escapeHtml(text)}</text>`;
  const fillRule = rule ? ` fill-rule="${rule}"` : '';
  return `<svg class="run-${n} drawn-word" viewBox="0 ${-size} ${width} ${size}" preserveAspectRatio="none"><path d="${escapeHtml(d)}" fill="${escapeHtml(style.colour)}"${fillRule}/>${said}</svg>`;
}

function runHtml(content: TextContent): string {
  const [first, ...rest] = content.runs;
  if (!first) return '';
  if (rest.length === 0 && !first.drawn) return escapeHtml(first.text);
  return content.runs
    .map((run, i) =>
      run.drawn ? wordHtml(run, i + 1) : `<span class="run-${i + 1}">${escapeHtml(run.text)}</span>`,
    )
    .join('');
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

/** The declarations of a part's own box. A later one of the same property holds. */
function boxCss(part: Part, parent: Part | undefined): Declarations {
  const { content, paint, rules, bound } = part;
  if (rules.hidden) return layoutCss(part, parent);
  return [
    ...layoutCss(part, parent),
    ...(paint
      ? paintRules(paint, { takesRoom: rules.strokeTakesRoom === true, fillToken: bound?.fill })
      : []),
    ...(content?.kind === 'text' ? textCss(content, bound) : []),
    ...cutCss(rules.maxLines),
    ...(content?.kind === 'picture' && !content.href ? ([['background', '#d9d6cd']] as const) : []),
  ];
}

/** What stands inside a part's element: turned words, runs of a paragraph, a picture. */
function insideCss(part: Part, selector: string): string {
  const { content } = part;
  let css = '';
  if (content?.kind === 'turned')
    css += block(`${selector} > .turned`, [
      ['width', px(content.width)],
      ['height', px(content.height)],
      ['transform', `translate(-50%, -50%) rotate(${content.angle}deg)`],
      ...textCss(content.text).filter(([property]) => property !== 'white-space'),
    ]);
  const words = content?.kind === 'text' ? content : content?.kind === 'turned' ? content.text : undefined;
  if (words && (words.runs.length > 1 || words.runs[0]?.drawn))
    // A run of another size must not make its line taller: the paragraph's own line height holds.
    words.runs.forEach((run, i) => {
      const own: Declarations = run.drawn
        ? drawnCss(run)
        : [...byTokens(runCss(run.style), part.bound), ['line-height', '0']];
      css += block(`${selector} .run-${i + 1}`, own);
    });
  if (content?.kind === 'picture' && content.fit !== 'fill')
    css += block(`${selector} > .picture-fill`, [['object-fit', content.fit]]);
  return css;
}

/** A tree at one range of widths, with each part's selector. */
type Sheet = ReadonlyMap<string, { readonly part: Part; readonly box: ReadonlyMap<string, string> }>;

function sheetOf(root: Part): Sheet {
  const found = new Map<string, { part: Part; box: Map<string, string> }>();
  const visit = (part: Part, parent: Part | undefined): void => {
    found.set(part.id, { part, box: new Map(boxCss(part, parent)) });
    for (const child of part.children) visit(child, part);
  };
  visit(root, undefined);
  return found;
}

/** What a property is where no rule says it: that of the base style, else its initial value. */
const unsaid = (property: string): string => (property === 'position' ? 'relative' : 'initial');

/** The rules of a narrower range that differ from those of the wider one. */
function changes(wider: Sheet, narrower: Sheet, names: ReadonlyMap<string, string>): string {
  let css = '';
  for (const [id, { part, box }] of narrower) {
    const before = wider.get(id)?.box ?? new Map<string, string>();
    const selector = `.${names.get(id) ?? ''}`;
    css += block(selector, [
      ...[...before.keys()].filter((p) => !box.has(p)).map((p) => [p, unsaid(p)] as const),
      ...[...box].filter(([p, v]) => before.get(p) !== v),
    ]);
    const [inner, was] = [insideCss(part, selector), wider.get(id)];
    if (!was || insideCss(was.part, selector) !== inner) css += inner;
  }
  return css;
}

const custom = (tokens: readonly Token[], value: (t: Token) => string | undefined): Declarations =>
  tokens.flatMap((t) => {
    const v = value(t);
    return v === undefined ? [] : [[`--${t.name}`, v] as const];
  });

/** Colours in each mode: as the device is set where it knows the mode and the page says none, and as the page says. */
function modesCss(tokens: readonly Token[]): string {
  return modesOf(tokens)
    .map((mode) => {
      const colours = custom(tokens, (t) =>
        t.kind === 'colour' && t.modes && Object.hasOwn(t.modes, mode) ? t.modes[mode] : undefined,
      );
      const said = block(`:root[data-mode='${mode}'] .frame`, colours);
      return DEVICE_MODES.has(mode)
        ? `@media (prefers-color-scheme: ${mode}) {\n${block(':root:not([data-mode]) .frame', colours)}}\n${said}`
        : said;
    })
    .join('');
}

/** The style sheet: the widest range first, then what changes below each breakpoint. */
function styleSheet(structure: Structure, names: ReadonlyMap<string, string>): string {
  const tokens = structure.tokens ?? [];
  const insets = [...walk(structure.root)].some(
    (p) => p.rules.safeArea || p.wide?.safeArea || p.below?.some((o) => o.rules.safeArea),
  );
  const own: Declarations = [
    ...(insets ? SIDES.map((s) => [`--inset-${s}`, `env(safe-area-inset-${s}, 0px)`] as const) : []),
    ...custom(tokens, (t) => (t.kind === 'length' ? px(t.value) : t.value)),
  ];
  const first = sheetOf(desugar(standing(structure, { width: WIDEST })));
  let css = BASE + block('.frame', own) + modesCss(tokens);
  for (const [id, { part, box }] of first) {
    const selector = `.${names.get(id) ?? ''}`;
    css += block(selector, [...box]) + insideCss(part, selector);
  }
  if (!turnsWide(structure)) return css + ranges(structure, names, first, {});
  // Each of both has its own cascade: what is said below a width must not undo what is said for frames wider than high.
  const wide = { height: 0 };
  const turned = changes(first, sheetOf(desugar(standing(structure, { width: WIDEST, ...wide }))), names);
  return (
    css +
    `@media (orientation: portrait) {\n${ranges(structure, names, first, {})}}\n` +
    `@media (orientation: landscape) {\n${turned}${ranges(structure, names, first, wide)}}\n`
  );
}

/** What changes below each breakpoint, the widest first. */
function ranges(
  structure: Structure,
  names: ReadonlyMap<string, string>,
  first: Sheet,
  frame: { readonly height?: number },
): string {
  let before =
    frame.height === undefined ? first : sheetOf(desugar(standing(structure, { width: WIDEST, ...frame })));
  let css = '';
  for (const below of breakpoints(structure)) {
    const sheet = sheetOf(desugar(standing(structure, { width: below - 0.01, ...frame })));
    const stepped = custom(structure.tokens ?? [], (t) => {
      const step = t.kind === 'length' ? t.below?.find((s) => s.width === below) : undefined;
      return step && px(step.value);
    });
    // The frame cannot ask for its own width: what steps holds on its first part.
    const rules = block(`.frame > *`, stepped) + changes(before, sheet, names);
    if (rules !== '') css += `@container frame (width < ${px(below)}) {\n${rules}}\n`;
    before = sheet;
  }
  return css;
}

/** Modes that a device can be set to (Media Queries 5 §12.5). */
const DEVICE_MODES = new Set(['light', 'dark']);
/** Wider than any breakpoint. */
const WIDEST = Number.MAX_SAFE_INTEGER;

/**
 * `index.html` and `styles.css` of a structure: flex and grid, no script, every element with its part's id. `fonts` are the faces
 * whose files lie beside them.
 */
export function exportHtml(structure: Structure, fonts: readonly FontFace[] = []): OutputFile[] {
  const root = desugar(standing(structure, { width: WIDEST }));
  const names = classNames(root);
  const html = `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <title>${escapeHtml(structure.name)}</title>
  <link rel="stylesheet" href="styles.css">
</head>
<body>
  <div class="frame">
${partHtml(root, names, '    ')}  </div>
</body>
</html>
`;
  return [
    { name: 'index.html', text: html },
    { name: 'styles.css', text: fontFaceCss(fonts) + styleSheet(structure, names) },
  ];
}
