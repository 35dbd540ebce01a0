import {
  isHorizontal,
  round,
  ruleOf,
  type Align,
  type Columns,
  type Fill,
  type Flow,
  type Paint,
  type Part,
  type Pin,
  type Size,
} from '../model/index.js';

/** CSS declarations in the order in which they are written. */
export type Declarations = readonly (readonly [property: string, value: string])[];

export const px = (n: number): string => (n === 0 ? '0' : `${round(n, 3)}px`);

const ALIGN: Readonly<Record<Align, string>> = {
  start: 'flex-start',
  centre: 'center',
  end: 'flex-end',
  stretch: 'stretch',
  baseline: 'baseline',
};
const SHARED = { between: 'space-between', around: 'space-around', evenly: 'space-evenly' } as const;

type Write = (property: string, value: string) => void;

function containerRules(part: Part, write: Write): void {
  const { rules } = part;
  const flow = ruleOf(rules, 'flow');
  if (flow === 'free') return;
  if (flow === 'grid') {
    write('display', 'grid');
    const { columns } = rules;
    write('grid-template-columns', gridColumns(columns, typeof rules.gap === 'number' ? rules.gap : 0));
    if (columns?.kind === 'repeat') {
      // How many columns there are must not depend on how wide their content would like to be.
      write('contain', 'inline-size');
      write('contain-intrinsic-inline-size', px(columns.min));
    }
    // Rows are as high as their content, also where the grid's own height is less.
    write('grid-auto-rows', 'max-content');
    write('align-content', 'start');
  } else {
    write('display', 'flex');
    if (flow === 'column') write('flex-direction', 'column');
    if (flow === 'wrap') {
      write('flex-wrap', 'wrap');
      write('align-content', 'flex-start');
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
  if (typeof rules.gap === 'string') write('justify-content', SHARED[rules.gap]);
  else if (ruleOf(rules, 'justify') !== 'start' && flow !== 'grid')
    write('justify-content', ALIGN[ruleOf(rules, 'justify')]);
}

function gridColumns(columns: Columns | undefined, gap: number): string {
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
  if (flow === 'wrap' || flow === 'grid') {
    const cross = crossGap ?? main;
    if (main !== 0 || cross !== 0) write('gap', cross === main ? px(main) : `${px(cross)} ${px(main)}`);
  } else if (main !== 0) write('gap', px(main));
}

/** The margin that makes one gap differ from its stack's, or overlap: CSS gaps cannot be negative. */
function marginRule(parent: Part, part: Part, write: Write): void {
  const flow = ruleOf(parent.rules, 'flow');
  const siblings = parent.children.filter((c) => !c.rules.pin && !c.rules.hidden);
  if (flow === 'grid' || flow === 'free' || siblings[0] === part) return;
  const common = typeof parent.rules.gap === 'number' ? parent.rules.gap : 0;
  const margin = (part.rules.gapBefore ?? common) - Math.max(0, common);
  if (margin !== 0) write(isHorizontal(flow) ? 'margin-left' : 'margin-top', px(margin));
}

const percent = (n: number): string => `${round(n, 4)}%`;

function mainSize(axis: 'width' | 'height', size: Size, other: Size, write: Write): void {
  switch (size.kind) {
    case 'fixed':
      write('flex', 'none');
      write(axis, px(size.px));
      return;
    case 'share':
      write('flex', 'none');
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
      if (axis === 'height') write('flex', 'none');
  }
}

function plainSize(axis: 'width' | 'height', size: Size, write: Write): void {
  if (size.kind === 'fixed') write(axis, px(size.px));
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

function flowChildRules(parent: Part, part: Part, write: Write): void {
  const flow = ruleOf(parent.rules, 'flow');
  const [width, height] = [ruleOf(part.rules, 'width'), ruleOf(part.rules, 'height')];
  if (flow === 'column') {
    mainSize('height', height, width, write);
    if (width.kind === 'fill') write('width', '100%');
    else plainSize('width', width, write);
  } else if (flow === 'grid') {
    write('justify-self', width.kind === 'fill' ? 'stretch' : 'start');
    plainSize('width', width, write);
    plainSize('height', height, write);
  } else {
    mainSize('width', width, height, write);
    if (width.kind === 'fill' && part.rules.minWidth === undefined) write('min-width', '0');
    plainSize('height', height, write);
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
  const [n, f] = [pin[near], pin[far]];
  if (centre !== undefined) {
    write(near, px(centre));
    write(far, px(-centre));
    write(size === 'width' ? 'margin-inline' : 'margin-block', 'auto');
    if (own.kind === 'fit') write(size, 'fit-content');
    else if (own.kind === 'fill') write(size, '100%');
    return;
  }
  const both = n !== undefined && f !== undefined;
  if (n !== undefined || f === undefined) write(near, px(n ?? 0));
  // Where both edges hold, the near one wins over a size of its own; a fit only takes its room from the far one.
  if (f !== undefined && (n === undefined || own.kind === 'fill' || own.kind === 'fit')) write(far, px(f));
  if (own.kind === 'fill' && !both) write(size, `calc(100% - ${round(n ?? f ?? 0, 3)}px)`);
  if (own.kind === 'fit' && both) write(size, 'fit-content');
}

function pinRules(part: Part, write: Write): void {
  const { rules } = part;
  const pin = rules.pin ?? {};
  const [width, height] = [ruleOf(rules, 'width'), ruleOf(rules, 'height')];
  write('position', 'absolute');
  pinAxis(['left', 'right', 'width'], pin, width, write);
  plainSize('width', width, write);
  pinAxis(['top', 'bottom', 'height'], pin, height, write);
  plainSize('height', height, write);
}

function limits(part: Part, parent: Part | undefined, write: Write): void {
  const { minWidth, maxWidth, minHeight, maxHeight } = part.rules;
  const limit = (v: number | 'content') => (v === 'content' ? 'min-content' : px(v));
  const inWrap =
    parent?.rules.flow === 'wrap' && !part.rules.pin && typeof minWidth === 'number' && minWidth > 0;
  if (minWidth !== undefined) write('min-width', inWrap ? `min(${px(minWidth)}, 100%)` : limit(minWidth));
  if (maxWidth !== undefined) write('max-width', px(maxWidth));
  if (minHeight !== undefined) write('min-height', limit(minHeight));
  if (maxHeight !== undefined) write('max-height', px(maxHeight));
}

function fillValue(fill: Fill): string {
  if (fill.kind === 'solid') return fill.colour;
  const stops = fill.stops.map((s) => `${s.colour} ${percent(s.at * 100)}`).join(', ');
  if (fill.kind === 'linear') return `linear-gradient(${round(fill.angle, 1)}deg, ${stops})`;
  const [rx, ry, cx, cy] = [fill.rx, fill.ry, fill.cx, fill.cy].map((n) => percent(n * 100));
  return `radial-gradient(${rx} ${ry} at ${cx} ${cy}, ${stops})`;
}

export function paintRules(paint: Paint): Declarations {
  const found: [string, string][] = [];
  if (paint.fill) found.push(['background', fillValue(paint.fill)]);
  const shadows: string[] = [];
  // An inset shadow draws the stroke without taking room.
  if (paint.stroke && !paint.stroke.dashed)
    shadows.push(`inset 0 0 0 ${px(paint.stroke.width)} ${paint.stroke.colour}`);
  if (paint.stroke?.dashed)
    found.push(
      ['outline', `${px(paint.stroke.width)} dashed ${paint.stroke.colour}`],
      ['outline-offset', px(-paint.stroke.width)],
    );
  const { shadow } = paint;
  if (shadow) shadows.push(`${px(shadow.dx)} ${px(shadow.dy)} ${px(shadow.blur)} ${shadow.colour}`);
  if (shadows.length > 0) found.push(['box-shadow', shadows.join(', ')]);
  if (paint.radius !== undefined)
    found.push(['border-radius', paint.radius === 'round' ? '50%' : px(paint.radius)]);
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
  const padding = rules.padding;
  if (padding && Object.values(padding).some((n) => n !== 0))
    write('padding', [padding.top, padding.right, padding.bottom, padding.left].map(px).join(' '));
  if (!parent) {
    write('width', '100%');
    plainSize('height', ruleOf(rules, 'height'), write);
  } else if (rules.pin) pinRules(part, write);
  else flowChildRules(parent, part, write);
  limits(part, parent, write);
  if (rules.clip) write('overflow', 'hidden');
  return found;
}
