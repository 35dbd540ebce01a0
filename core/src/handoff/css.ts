import {
  isHorizontal,
  round,
  ruleOf,
  NO_PADDING,
  type Align,
  type Columns,
  type Distribution,
  type Fill,
  type Flow,
  type LengthPlace,
  type Limit,
  type Paint,
  type Part,
  type Pin,
  type Size,
  type Track,
} from '../model/index.js';
import { GIVES_FIRST, inFlow } from '../layout/index.js';

/** CSS declarations in the order in which they are written. */
export type Declarations = readonly (readonly [property: string, value: string])[];

/** The sides in the order of CSS `padding`. */
export const SIDES = ['top', 'right', 'bottom', 'left'] as const;

export const px = (n: number): string => (n === 0 ? '0' : `${round(n, 3)}px`);

const ALIGN: Readonly<Record<Align, string>> = {
  start: 'flex-start',
  centre: 'center',
  end: 'flex-end',
  stretch: 'stretch',
  baseline: 'baseline',
};
const SPREAD: Readonly<Record<Distribution, string>> = {
  start: 'start',
  centre: 'center',
  end: 'end',
  stretch: 'stretch',
  between: 'space-between',
  around: 'space-around',
  evenly: 'space-evenly',
};

type Write = (property: string, value: string) => void;

/** A length of a part as CSS: the token that stands for it, else its px. */
const lengthOf = (part: Part, place: LengthPlace, n: number): string => {
  const token = part.bound?.[place];
  return token === undefined ? px(n) : `var(--${token})`;
};

function containerRules(part: Part, write: Write): void {
  const { rules } = part;
  const flow = ruleOf(rules, 'flow');
  if (flow === 'free') return;
  if (flow === 'grid') gridRules(part, write);
  else {
    write('display', 'flex');
    const reverse = rules.reverse ? '-reverse' : '';
    if (flow === 'column' || reverse)
      write('flex-direction', `${flow === 'column' ? 'column' : 'row'}${reverse}`);
    if (flow === 'wrap') {
      write('flex-wrap', 'wrap');
      const lines = rules.alignLines ?? 'start';
      write('align-content', lines === 'start' || lines === 'end' ? ALIGN[lines] : SPREAD[lines]);
    }
  }
  gapRules(part, flow, write);
  const align = ruleOf(rules, 'align');
  write(
    'align-items',
    flow === 'grid' && align === 'stretch'
      ? 'start'
      : ALIGN[align === 'baseline' && flow === 'column' ? 'start' : align],
  );
  if (flow === 'grid') return;
  if (typeof rules.gap === 'string' && rules.gap !== 'centres') write('justify-content', SPREAD[rules.gap]);
  else if (ruleOf(rules, 'justify') !== 'start') write('justify-content', ALIGN[ruleOf(rules, 'justify')]);
}

function gridRules(part: Part, write: Write): void {
  const { columns, rows, autoRows, autoFlow, areas, alignLines, justifyTracks } = part.rules;
  write('display', 'grid');
  if (columns || !areas)
    write(
      'grid-template-columns',
      gridColumns(columns, typeof part.rules.gap === 'number' ? part.rules.gap : 0),
    );
  if (columns?.kind === 'repeat') {
    // How many columns there are must not depend on how wide their content would like to be.
    write('contain', 'inline-size');
    write('contain-intrinsic-inline-size', px(columns.min));
  }
  if (rows && rows.length > 0) write('grid-template-rows', rows.map(trackCss).join(' '));
  if (areas) write('grid-template-areas', areas.map((line) => `"${line.join(' ')}"`).join(' '));
  if (autoFlow === 'column') write('grid-auto-flow', 'column');
  // Rows are as high as their content, also where the grid's own height is less.
  write('grid-auto-rows', autoRows ? trackCss(autoRows) : 'max-content');
  // Cells may put children beyond the columns that are named.
  if (autoFlow === 'column' || areas || part.children.some((c) => c.rules.cell))
    write('grid-auto-columns', trackCss({ kind: 'fit' }));
  write('align-content', SPREAD[alignLines === 'stretch' ? 'start' : (alignLines ?? 'start')]);
  write('justify-content', SPREAD[justifyTracks === 'stretch' ? 'start' : (justifyTracks ?? 'start')]);
}

const limitCss = (limit: Limit, content: 'min-content' | 'max-content'): string =>
  limit === 'content' ? content : px(limit);

function trackCss(track: Track): string {
  switch (track.kind) {
    case 'fixed':
      return px(track.px);
    case 'fr':
      return `minmax(${limitCss(track.min ?? 0, 'min-content')}, ${round(track.weight, 4)}fr)`;
    case 'fit':
      return 'minmax(min-content, max-content)';
    case 'range':
      return `minmax(${limitCss(track.min, 'min-content')}, ${limitCss(track.max, 'max-content')})`;
  }
}

function gridColumns(columns: Columns | undefined, gap: number): string {
  if (columns?.kind === 'tracks') return columns.tracks.map(trackCss).join(' ');
  if (columns?.kind !== 'repeat') return `repeat(${columns?.count ?? 1}, minmax(0, 1fr))`;
  // A column that is never narrower than its share of `most` columns keeps further ones out.
  const least =
    columns.most === undefined
      ? px(columns.min)
      : `max(${px(columns.min)}, (100% - ${round(gap * (columns.most - 1), 3)}px) / ${columns.most})`;
  return `repeat(auto-fill, minmax(min(${least}, 100%), 1fr))`;
}

function gapRules(part: Part, flow: Flow, write: Write): void {
  const { gap, crossGap } = part.rules;
  const main = typeof gap === 'number' ? Math.max(0, gap) : 0;
  const along = main === gap ? lengthOf(part, 'gap', main) : px(main);
  if (flow === 'wrap' || flow === 'grid') {
    const across = crossGap === undefined ? along : lengthOf(part, 'crossGap', crossGap);
    if (across !== '0' || along !== '0') write('gap', across === along ? along : `${across} ${along}`);
  } else if (along !== '0') write('gap', along);
}

/** The margin that makes one gap differ from its stack's, or overlap: CSS gaps cannot be negative. */
function marginRule(parent: Part, part: Part, write: Write): void {
  const flow = ruleOf(parent.rules, 'flow');
  if (flow === 'grid' || flow === 'free' || inFlow(parent)[0] === part) return;
  const common = typeof parent.rules.gap === 'number' ? parent.rules.gap : 0;
  const margin = (part.rules.gapBefore ?? common) - Math.max(0, common);
  if (margin === 0) return;
  const reverse = parent.rules.reverse === true;
  // By the parent's direction: a margin's own start would be the child's.
  if (isHorizontal(flow))
    write((parent.rules.direction === 'rtl') !== reverse ? 'margin-right' : 'margin-left', px(margin));
  else write(reverse ? 'margin-bottom' : 'margin-top', px(margin));
}

const percent = (n: number): string => `${round(n, 4)}%`;

/** How readily those give way that do so first; see the engine, which counts with the same. */
const shrinkOf = (part: Part): number | undefined =>
  part.rules.givesWay === 'first' ? GIVES_FIRST : part.rules.givesWay === 'never' ? 0 : undefined;

function mainSize(part: Part, axis: 'width' | 'height', size: Size, other: Size, write: Write): void {
  const shrink = shrinkOf(part) ?? 0;
  const rigid = shrink === 0 ? 'none' : `0 ${shrink} auto`;
  switch (size.kind) {
    case 'fixed':
      write('flex', rigid);
      write(axis, lengthOf(part, axis, size.px));
      return;
    case 'share':
      write('flex', rigid);
      write(axis, percent(size.percent));
      return;
    case 'fill':
      write('flex', `${round(size.weight, 4)} 1 0`);
      return;
    case 'ratio':
      write('flex', 'none');
      write(
        'aspect-ratio',
        axis === 'height' || other.kind === 'fixed' ? `${size.width} / ${size.height}` : 'auto',
      );
      return;
    case 'fit':
      if (axis === 'height') write('flex', rigid);
      else if (shrinkOf(part) !== undefined) write('flex', rigid);
  }
}

function plainSize(part: Part, axis: 'width' | 'height', size: Size, write: Write): void {
  if (size.kind === 'fixed') write(axis, lengthOf(part, axis, size.px));
  else if (size.kind === 'share') write(axis, percent(size.percent));
  else if (size.kind === 'ratio') write('aspect-ratio', `${size.width} / ${size.height}`);
}

/** The alignment across the parent's flow, where the child's sizes or its own word ask for another than the parent's. */
function alignSelf(parent: Part, part: Part, write: Write): void {
  const flow = ruleOf(parent.rules, 'flow');
  const across = flow === 'column' ? ruleOf(part.rules, 'width') : ruleOf(part.rules, 'height');
  const own = part.rules.alignSelf;
  const effective = own ?? ruleOf(parent.rules, 'align');
  if (across.kind === 'fill' && flow !== 'column') write('align-self', 'stretch');
  else if (across.kind === 'ratio' && effective === 'stretch') write('align-self', 'flex-start');
  else if (flow === 'grid' && effective === 'stretch') write('align-self', 'stretch');
  else if (own) write('align-self', ALIGN[own === 'baseline' && flow === 'column' ? 'start' : own]);
}

function cellRules(part: Part, write: Write): void {
  const { cell } = part.rules;
  if (!cell) return;
  if (cell.area !== undefined) {
    write('grid-area', cell.area);
    return;
  }
  const line = (at: number | undefined, span = 1) =>
    at === undefined ? `span ${span}` : span === 1 ? String(at) : `${at} / span ${span}`;
  if (cell.column !== undefined || cell.columnSpan !== undefined)
    write('grid-column', line(cell.column, cell.columnSpan));
  if (cell.row !== undefined || cell.rowSpan !== undefined) write('grid-row', line(cell.row, cell.rowSpan));
}

function flowChildRules(parent: Part, part: Part, write: Write): void {
  const flow = ruleOf(parent.rules, 'flow');
  const [width, height] = [ruleOf(part.rules, 'width'), ruleOf(part.rules, 'height')];
  if (flow === 'column') {
    mainSize(part, 'height', height, width, write);
    if (width.kind === 'fill') write('width', '100%');
    else plainSize(part, 'width', width, write);
  } else if (flow === 'grid') {
    const word = part.rules.justifySelf ?? parent.rules.justifyItems ?? 'start';
    write('justify-self', width.kind === 'fill' ? 'stretch' : SPREAD[word]);
    cellRules(part, write);
    plainSize(part, 'width', width, write);
    plainSize(part, 'height', height, write);
  } else {
    mainSize(part, 'width', width, height, write);
    if (width.kind === 'fill' && part.rules.minWidth === undefined) write('min-width', '0');
    plainSize(part, 'height', height, write);
  }
  alignSelf(parent, part, write);
  marginRule(parent, part, write);
}

/** One axis of a pinned part. A fill that hangs on one edge alone takes what lies on the other side of it. */
function pinAxis(
  [near, far, size]: readonly ['left', 'right', 'width'] | readonly ['top', 'bottom', 'height'],
  pin: Pin,
  own: Size,
  write: Write,
): void {
  const centre = size === 'width' ? pin.centreX : pin.centreY;
  if (centre !== undefined) {
    write(near, px(centre));
    write(far, px(-centre));
    write(size === 'width' ? 'margin-inline' : 'margin-block', 'auto');
    if (own.kind === 'fit') write(size, 'fit-content');
    else if (own.kind === 'fill') write(size, '100%');
    return;
  }
  const n = pinDistance(pin[near], pin[`${near}Share`]);
  const f = pinDistance(pin[far], pin[`${far}Share`]);
  const both = n !== undefined && f !== undefined;
  if (n !== undefined || f === undefined) write(near, n ?? '0');
  // Where both edges hold, the near one wins over a size of its own; a fit only takes its room from the far one.
  if (f !== undefined && (n === undefined || own.kind === 'fill' || own.kind === 'fit')) write(far, f);
  if (own.kind === 'fill' && !both)
    write(size, n === '0' || (n === undefined && f === '0') ? '100%' : `calc(100% - ${n ?? f ?? '0px'})`);
  if (own.kind === 'fit' && both) {
    write(size, 'fit-content');
    // Left is left, whichever way lines run.
    if (size === 'width') write('margin-right', 'auto');
  }
}

function pinDistance(near: number | undefined, share: number | undefined): string | undefined {
  if (share === undefined) return near === undefined ? undefined : px(near);
  return near === undefined || near === 0 ? percent(share) : `calc(${percent(share)} + ${px(near)})`;
}

function pinRules(part: Part, write: Write): void {
  const { rules } = part;
  const pin = rules.pin ?? {};
  const [width, height] = [ruleOf(rules, 'width'), ruleOf(rules, 'height')];
  write('position', 'absolute');
  if (pin.z !== undefined) write('z-index', String(Math.round(pin.z)));
  pinAxis(['left', 'right', 'width'], pin, width, write);
  plainSize(part, 'width', width, write);
  pinAxis(['top', 'bottom', 'height'], pin, height, write);
  plainSize(part, 'height', height, write);
}

/** What stays in sight lies over what scrolls under it. */
function stayRule({ rules: { stay } }: Part, write: Write): void {
  if (!stay) return;
  write('position', 'sticky');
  write(stay.side, px(stay.at));
  write('z-index', '1');
}

function limits(part: Part, parent: Part | undefined, write: Write): void {
  const { minWidth, maxWidth, minHeight, maxHeight } = part.rules;
  const limit = (place: 'minWidth' | 'maxWidth' | 'minHeight' | 'maxHeight', v: Limit) =>
    v === 'content' ? (place.startsWith('min') ? 'min-content' : 'max-content') : lengthOf(part, place, v);
  const inWrap =
    parent?.rules.flow === 'wrap' && !part.rules.pin && typeof minWidth === 'number' && minWidth > 0;
  if (minWidth !== undefined)
    write('min-width', inWrap ? `min(${limit('minWidth', minWidth)}, 100%)` : limit('minWidth', minWidth));
  if (maxWidth !== undefined) write('max-width', limit('maxWidth', maxWidth));
  if (minHeight !== undefined) write('min-height', limit('minHeight', minHeight));
  if (maxHeight !== undefined) write('max-height', limit('maxHeight', maxHeight));
}

function paddingRule(part: Part, write: Write): void {
  const padding = part.rules.padding ?? NO_PADDING;
  const sides = SIDES.map((side) => {
    const own = lengthOf(part, `padding.${side}`, padding[side]);
    // Where the screen reaches under the device's own edges, the padding is at least as large as they are.
    return part.rules.safeArea?.includes(side)
      ? `max(${own === '0' ? '0px' : own}, var(--inset-${side}))`
      : own;
  });
  if (sides.some((s) => s !== '0')) write('padding', sides.join(' '));
}

function fillValue(fill: Fill): string {
  if (fill.kind === 'solid') return fill.colour;
  const stops = fill.stops.map((s) => `${s.colour} ${percent(s.at * 100)}`).join(', ');
  if (fill.kind === 'linear') return `linear-gradient(${round(fill.angle, 1)}deg, ${stops})`;
  const [rx, ry, cx, cy] = [fill.rx, fill.ry, fill.cx, fill.cy].map((n) => percent(n * 100));
  return `radial-gradient(${rx} ${ry} at ${cx} ${cy}, ${stops})`;
}

function radiusCss(radius: NonNullable<Paint['radius']>): string {
  if (radius === 'round') return '50%';
  return typeof radius === 'number' ? px(radius) : radius.map(px).join(' ');
}

/** Paint as CSS. A stroke that takes room is a border; others lie over the edge. */
export function paintRules(
  paint: Paint,
  { takesRoom = false, fillToken }: { takesRoom?: boolean; fillToken?: string | undefined } = {},
): Declarations {
  const found: [string, string][] = [];
  if (paint.fill)
    found.push(['background', fillToken === undefined ? fillValue(paint.fill) : `var(--${fillToken})`]);
  const { stroke } = paint;
  const border = takesRoom && stroke !== undefined;
  if (border)
    found.push(['border', `${px(stroke.width)} ${stroke.dashed ? 'dashed' : 'solid'} ${stroke.colour}`]);
  const shadows: string[] = [];
  // An inset shadow draws the stroke without taking room.
  if (stroke && !border && !stroke.dashed) shadows.push(`inset 0 0 0 ${px(stroke.width)} ${stroke.colour}`);
  if (stroke?.dashed && !border)
    found.push(
      ['outline', `${px(stroke.width)} dashed ${stroke.colour}`],
      ['outline-offset', px(-stroke.width)],
    );
  const { shadow } = paint;
  if (shadow) shadows.push(`${px(shadow.dx)} ${px(shadow.dy)} ${px(shadow.blur)} ${shadow.colour}`);
  if (shadows.length > 0) found.push(['box-shadow', shadows.join(', ')]);
  if (paint.radius !== undefined) found.push(['border-radius', radiusCss(paint.radius)]);
  if (paint.opacity !== undefined) found.push(['opacity', String(round(paint.opacity, 3))]);
  if (paint.blur !== undefined) found.push(['filter', `blur(${px(paint.blur)})`]);
  if (paint.blend) found.push(['mix-blend-mode', paint.blend]);
  return found;
}

/**
 * The CSS that a part's rules compile to (Flexbox 1, Grid 2, Positioned Layout 3, Sizing 3). `parent` is absent for
 * the frame. The layout engine gives the boxes that a browser gives for this.
 */
export function layoutCss(part: Part, parent: Part | undefined): Declarations {
  const found: [string, string][] = [];
  const write: Write = (property, value) => found.push([property, value]);
  const { rules } = part;
  if (rules.hidden) return [['display', 'none']];
  if (part.kind === 'container') containerRules(part, write);
  if (rules.direction !== undefined && rules.direction !== parent?.rules.direction)
    write('direction', rules.direction);
  paddingRule(part, write);
  if (!parent) {
    write('width', '100%');
    const height = ruleOf(rules, 'height');
    if (height.kind === 'fill') write('height', '100%');
    else plainSize(part, 'height', height, write);
  } else if (rules.pin) pinRules(part, write);
  else {
    flowChildRules(parent, part, write);
    stayRule(part, write);
  }
  if (parent?.rules.firstOnTop && rules.pin?.z === undefined)
    write('z-index', String(parent.children.length - parent.children.indexOf(part)));
  if (rules.order !== undefined && parent) write('order', String(rules.order));
  limits(part, parent, write);
  if (rules.clip) write('overflow', 'clip');
  if (rules.scroll) {
    write('overflow', 'auto');
    // A bar that takes room would change the sizes that the rules say.
    write('scrollbar-width', 'none');
  }
  return found;
}
