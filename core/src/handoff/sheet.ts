import { desugar } from '../layout/index.js';
import {
  breakpoints,
  drawnWidth,
  modesOf,
  plainText,
  standing,
  turnsWide,
  walk,
  type Bound,
  type Conditions,
  type Part,
  type Structure,
  type TextContent,
  type TextRun,
  type TextStyle,
  type Token,
  type TokenPlace,
} from '../model/index.js';
import { familyNames, LETTER } from '../text/index.js';
import { layoutCss, paintRules, px, SIDES, type Declarations } from './css.js';
import { GENERIC, leadingFamily } from './fonts.js';
import { classNames } from './names.js';

const quotedFamily = (list: string): string => {
  const names = familyNames(list)
    .map((n) => n.replace(/[^\p{L}\p{N} _-]/gu, ''))
    .filter((n) => n !== '');
  // A list that names no family gets the one that its words were measured in.
  const first = names[0] === undefined || GENERIC.test(names[0]) ? [leadingFamily(list)] : [];
  return [...first, ...names].map((n) => (GENERIC.test(n) ? n : `'${n}'`)).join(', ');
};

/** Letters of which no font file may be there: those beyond Latin and usual punctuation. */
const RARE = /[^\s\u0021-\u024F\u2000-\u206F]/;

/** How words look. Letters that are held apart keep their distance from what follows, which is outside of what holds them. */
function typeCss(style: TextStyle, words: string): Declarations {
  const isApart = style.letterSpacing !== 0 && RARE.test(words);
  return [
    ['font-family', quotedFamily(style.family)],
    ['font-size', px(style.size)],
    ['font-weight', String(style.weight)],
    ...(style.italic ? ([['font-style', 'italic']] as const) : []),
    ...(style.letterSpacing !== 0 ? ([['letter-spacing', px(style.letterSpacing)]] as const) : []),
    ...(isApart ? ([['--apart', px(style.letterSpacing)]] as const) : []),
    ['color', style.colour],
  ];
}

/** A run says all that it could inherit from the paragraph's first. */
const runCss = (style: TextStyle, words: string): Declarations => [
  ...typeCss(style, words),
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
    ...byTokens(
      [...(style ? typeCss(style, plainText(content)) : []), ['line-height', px(content.lineHeight)]],
      bound,
    ),
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
body, p, h1, h2, h3, h4, h5, h6, ul { margin: 0; }
ul { padding: 0; list-style: none; }
a { color: inherit; text-decoration: none; }
button { all: unset; position: relative; box-sizing: border-box; cursor: pointer; }
button:focus-visible { outline: 2px solid; outline-offset: 2px; }
.frame { container: frame / inline-size; height: 100%; }
:where(.frame *) { position: relative; }
.turned { position: absolute; left: 50%; top: 50%; white-space: pre; }
.drawn-word { height: 1em; margin-top: -1em; overflow: visible; }
.drawn-space { font-size: 0; line-height: 0; }
.unheld, .unheld-wide { display: inline-block; width: ${LETTER}em; margin-inline-end: var(--apart, 0px); white-space: pre; }
.unheld-wide { width: 1em; }
.picture-fill { position: absolute; inset: 0; width: 100%; height: 100%; border-radius: inherit; }
`;

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
        : [...byTokens(runCss(run.style, run.text), part.bound), ['line-height', '0']];
      css += block(`${selector} .run-${i + 1}`, own);
    });
  if (content?.kind === 'picture' && content.fit !== 'fill')
    css += block(`${selector} > .picture-fill`, [['object-fit', content.fit]]);
  return css;
}

/** A tree as it stands in one range of frames: what the sheet says of each part there. */
type Standing = ReadonlyMap<string, { readonly part: Part; readonly box: ReadonlyMap<string, string> }>;

function standingAt(structure: Structure, conditions: Conditions): Standing {
  const found = new Map<string, { part: Part; box: Map<string, string> }>();
  const visit = (part: Part, parent: Part | undefined): void => {
    found.set(part.id, { part, box: new Map(boxCss(part, parent)) });
    for (const child of part.children) visit(child, part);
  };
  visit(desugar(standing(structure, conditions)), undefined);
  return found;
}

/** How a screen stands in all ranges of frames, the widest first; `query` is what the page asks before it. */
interface Cascade {
  readonly query: string | undefined;
  readonly steps: readonly { readonly below: number | undefined; readonly stands: Standing }[];
}

function cascade(
  structure: Structure,
  query: string | undefined,
  frame: { readonly height?: number },
): Cascade {
  return {
    query,
    steps: [undefined, ...breakpoints(structure)].map((below) => ({
      below,
      stands: standingAt(structure, { width: below === undefined ? WIDEST : below - 0.01, ...frame }),
    })),
  };
}

/**
 * Frames wider than high have a cascade of their own, after that of the others: what is said below a width must not undo what is
 * said for them.
 */
const cascadesOf = (structure: Structure): readonly Cascade[] =>
  turnsWide(structure)
    ? [
        cascade(structure, '(orientation: portrait)', {}),
        cascade(structure, '(orientation: landscape)', { height: 0 }),
      ]
    : [cascade(structure, undefined, {})];

/** All that is said of a part in all ranges, so that two parts of which the same is said can be told. */
function saidOf(cascades: readonly Cascade[]): (part: Part) => string {
  const selector = '&';
  return ({ id }) =>
    JSON.stringify(
      cascades.flatMap(({ steps }) =>
        steps.map(({ stands }) => {
          const found = stands.get(id);
          return found && [[...found.box], insideCss(found.part, selector)];
        }),
      ),
    );
}

/** What a property is where no rule says it: that of the base style, else its initial value. */
const unsaid = (property: string): string => (property === 'position' ? 'relative' : 'initial');

/** The rules of a narrower range that differ from those of the wider one; each class once. */
function changes(
  wider: Standing,
  narrower: Standing,
  names: ReadonlyMap<string, string>,
  only?: string,
): string {
  let css = '';
  const done = new Set<string>();
  for (const [id, { part, box }] of narrower) {
    const selector = `.${names.get(id) ?? ''}`;
    if (done.has(selector) || (only !== undefined && selector !== `.${only}`)) continue;
    done.add(selector);
    const before = wider.get(id)?.box ?? new Map<string, string>();
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

/** The style sheet of a screen, with the class of each part by its id. */
export interface StyleSheet {
  readonly css: string;
  readonly names: ReadonlyMap<string, string>;
}

/**
 * The style sheet of a structure: the widest range first, then what changes below each breakpoint. With `part` only what is said of
 * that one.
 */
export function styleSheet(structure: Structure, part?: string): StyleSheet {
  const tokens = structure.tokens ?? [];
  const cascades = cascadesOf(structure);
  const first = cascades[0]?.steps[0]?.stands ?? new Map<string, never>();
  const [root] = first.values();
  const names: ReadonlyMap<string, string> = root ? classNames(root.part, saidOf(cascades)) : new Map();
  const insets = [...walk(structure.root)].some(
    (p) => p.rules.safeArea || p.wide?.safeArea || p.below?.some((o) => o.rules.safeArea),
  );
  const own: Declarations = [
    ...(insets ? SIDES.map((s) => [`--inset-${s}`, `env(safe-area-inset-${s}, 0px)`] as const) : []),
    ...custom(tokens, (t) => (t.kind === 'length' ? px(t.value) : t.value)),
  ];
  const only = part === undefined ? undefined : (names.get(part) ?? '');
  const shared = part === undefined ? BASE + block('.frame', own) + modesCss(tokens) : '';
  let css = shared + changes(new Map(), first, names, only);
  for (const { query, steps } of cascades) {
    let before = first;
    let ranges = '';
    for (const { below, stands } of steps) {
      const stepped = custom(tokens, (t) => {
        const step = t.kind === 'length' ? t.below?.find((s) => s.width === below) : undefined;
        return step && px(step.value);
      });
      // The frame cannot ask for its own width: what steps holds on its first part.
      const rules =
        (part === undefined ? block(`.frame > *`, stepped) : '') + changes(before, stands, names, only);
      before = stands;
      if (rules === '') continue;
      ranges += below === undefined ? rules : `@container frame (width < ${px(below)}) {\n${rules}}\n`;
    }
    css += query === undefined || ranges === '' ? ranges : `@media ${query} {\n${ranges}}\n`;
  }
  return { css, names };
}

/** Modes that a device can be set to (Media Queries 5 §12.5). */
const DEVICE_MODES = new Set(['light', 'dark']);
/** Wider than any breakpoint. */
export const WIDEST = Number.MAX_SAFE_INTEGER;
