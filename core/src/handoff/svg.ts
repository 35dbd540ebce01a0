import { reflow, type Engine } from '../layout/index.js';
import {
  drawnWidth,
  round,
  standing,
  type ArtContent,
  type CornerRadii,
  type Fill,
  type Paint,
  type Part,
  type Rect,
  type Structure,
  type TextContent,
  type TextRun,
} from '../model/index.js';
import { baselineInLine, runWidth, type Line, type TextMeasurer } from '../text/index.js';
import { escapeHtml } from './elements.js';
import type { TextFile } from './html.js';
import { slug } from './names.js';

const n = (value: number): string => String(round(value, 3));
type Attributes = readonly (readonly [string, string | number | undefined])[];

const tag = (name: string, attributes: Attributes, inner = ''): string => {
  const said = attributes
    .filter(([, v]) => v !== undefined)
    .map(([a, v]) => ` ${a}="${escapeHtml(typeof v === 'number' ? n(v) : String(v))}"`)
    .join('');
  return inner === '' ? `<${name}${said}/>` : `<${name}${said}>${inner}</${name}>`;
};

/** Gradients and shadows, which shapes name: each once. */
class Definitions {
  readonly #ids = new Map<string, string>();

  /** The id of a definition that `make` writes with its id. */
  id(make: (id: string) => string): string {
    const key = make('');
    let id = this.#ids.get(key);
    if (id === undefined) this.#ids.set(key, (id = `d${this.#ids.size + 1}`));
    return id;
  }

  toString(): string {
    return [...this.#ids].map(([key, id]) => key.replace(' id=""', ` id="${id}"`)).join('');
  }
}

const stops = (fill: Extract<Fill, { readonly stops: unknown }>): string =>
  fill.stops
    .map((s) =>
      tag('stop', [
        ['offset', s.at],
        ['stop-color', s.colour],
      ]),
    )
    .join('');

/** What a fill is in SVG: a colour, or a gradient along the line that CSS draws it on (CSS Images 3 §3.1). */
function fillOf(fill: Fill | undefined, box: Rect, defs: Definitions): string {
  if (!fill) return 'none';
  if (fill.kind === 'solid') return fill.colour;
  const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
  const id = defs.id((own) => {
    if (fill.kind === 'radial')
      return tag(
        'radialGradient',
        [
          ['id', own],
          ['gradientUnits', 'userSpaceOnUse'],
          ['cx', 0],
          ['cy', 0],
          ['r', 1],
          [
            'gradientTransform',
            `translate(${n(box.x + fill.cx * box.width)} ${n(box.y + fill.cy * box.height)}) scale(${n(fill.rx * box.width)} ${n(fill.ry * box.height)})`,
          ],
        ],
        stops(fill),
      );
    const angle = (fill.angle * Math.PI) / 180;
    const half = (Math.abs(box.width * Math.sin(angle)) + Math.abs(box.height * Math.cos(angle))) / 2;
    const [dx, dy] = [Math.sin(angle) * half, -Math.cos(angle) * half];
    return tag(
      'linearGradient',
      [
        ['id', own],
        ['gradientUnits', 'userSpaceOnUse'],
        ['x1', cx - dx],
        ['y1', cy - dy],
        ['x2', cx + dx],
        ['y2', cy + dy],
      ],
      stops(fill),
    );
  });
  return `url(#${id})`;
}

/** The outline of a box with corners of their own, clockwise from the top left. */
function cornered({ x, y, width, height }: Rect, [a, b, c, d]: CornerRadii): string {
  const corner = (r: number, dx: number, dy: number) =>
    r > 0 ? `a${n(r)} ${n(r)} 0 0 1 ${n(dx * r)} ${n(dy * r)}` : '';
  return `M${n(x + a)} ${n(y)}H${n(x + width - b)}${corner(b, 1, 1)}V${n(y + height - c)}${corner(c, -1, 1)}H${n(x + d)}${corner(d, -1, -1)}V${n(y + a)}${corner(a, 1, -1)}Z`;
}

/** The effects of a paint on all of it. */
function effects({ shadow, blur, opacity, blend }: Paint, defs: Definitions): Attributes {
  const room: Attributes = [
    ['x', '-50%'],
    ['y', '-50%'],
    ['width', '200%'],
    ['height', '200%'],
  ];
  const filter =
    shadow || blur !== undefined
      ? defs.id((id) =>
          tag(
            'filter',
            [['id', id], ...room],
            shadow
              ? tag('feDropShadow', [
                  ['dx', shadow.dx],
                  ['dy', shadow.dy],
                  ['stdDeviation', shadow.blur / 2],
                  ['flood-color', shadow.colour],
                ])
              : tag('feGaussianBlur', [['stdDeviation', blur]]),
          ),
        )
      : undefined;
  return [
    ['filter', filter && `url(#${filter})`],
    ['opacity', opacity],
    ['style', blend && `mix-blend-mode:${blend}`],
  ];
}

/** A box with its paint: the stroke lies inside it. */
function boxSvg(box: Rect, paint: Paint, defs: Definitions): string {
  const { stroke, radius = 0 } = paint;
  const by = (stroke?.width ?? 0) / 2;
  const inner = {
    x: box.x + by,
    y: box.y + by,
    width: Math.max(0, box.width - 2 * by),
    height: Math.max(0, box.height - 2 * by),
  };
  const look: Attributes = [
    ['fill', fillOf(paint.fill, box, defs)],
    ['stroke', stroke?.colour],
    ['stroke-width', stroke?.width],
    ['stroke-dasharray', stroke?.dashed ? `${n(stroke.width * 3)} ${n(stroke.width * 3)}` : undefined],
    ...effects(paint, defs),
  ];
  if (radius === 'round')
    return tag('ellipse', [
      ['cx', box.x + box.width / 2],
      ['cy', box.y + box.height / 2],
      ['rx', inner.width / 2],
      ['ry', inner.height / 2],
      ...look,
    ]);
  // Corners that are larger than the box has room for are as CSS makes them (CSS Backgrounds 3 §4.5).
  const most = Math.min(box.width, box.height) / 2;
  if (typeof radius === 'number')
    return tag('rect', [
      ['x', inner.x],
      ['y', inner.y],
      ['width', inner.width],
      ['height', inner.height],
      ['rx', radius > 0 ? Math.max(0, Math.min(radius, most) - by) : undefined],
      ...look,
    ]);
  const corners = radius.map((r) => Math.max(0, Math.min(r, most) - by)) as unknown as CornerRadii;
  return tag('path', [['d', cornered(inner, corners)], ...look]);
}

const typeAttributes = ({ style }: TextRun): Attributes => [
  ['font-family', style.family],
  ['font-size', style.size],
  ['font-weight', style.weight],
  ['font-style', style.italic ? 'italic' : undefined],
  ['letter-spacing', style.letterSpacing === 0 ? undefined : style.letterSpacing],
  ['fill', style.colour],
];

/** The lines of a text in one element, each run at its own place; drawn words are their outlines. */
function textSvg(
  content: TextContent,
  lines: readonly Line[],
  box: Rect,
  rtl: boolean,
  m: TextMeasurer,
  outlined: boolean,
): string {
  const drawn: string[] = [];
  const spans = lines.flatMap((line, i) => {
    const [first] = line.runs;
    if (!first) return [];
    const free = box.width - line.width;
    const atEnd = (content.align === 'end') !== rtl;
    let x = box.x + (content.align === 'centre' ? free / 2 : atEnd ? free : 0);
    const y = box.y + i * content.lineHeight + baselineInLine(m.metrics(first.style), content.lineHeight);
    return line.runs.flatMap((run) => {
      const at = x;
      x += runWidth(run, m);
      if (run.drawn) {
        const scale = drawnWidth(run.drawn, run.style.size) / (run.drawn.width || 1);
        if (run.drawn.d !== '')
          drawn.push(
            tag('path', [
              ['d', run.drawn.d],
              ['fill', run.style.colour],
              ['fill-rule', run.drawn.rule],
              ['transform', `translate(${n(at)} ${n(y)}) scale(${n(scale)})`],
            ]),
          );
        return [];
      }
      if (run.text.trim() === '') return [];
      if (outlined) {
        drawn.push(
          tag('path', [
            ['d', m.outline(run.text, run.style, { x: at, y })],
            ['fill', run.style.colour],
          ]),
        );
        return [];
      }
      return [tag('tspan', [['x', at], ['y', y], ...typeAttributes(run)], escapeHtml(run.text))];
    });
  });
  return (
    (spans.length > 0
      ? tag(
          'text',
          [
            ['xml:space', 'preserve'],
            // Read back in, a line by itself is as high as it was.
            ['style', `line-height:${n(content.lineHeight)}px`],
          ],
          spans.join(''),
        )
      : '') + drawn.join('')
  );
}

const artSvg = (art: ArtContent, box: Rect): string =>
  tag(
    'svg',
    [
      ['x', box.x],
      ['y', box.y],
      ['width', box.width],
      ['height', box.height],
      ['viewBox', art.view.join(' ')],
      ['preserveAspectRatio', 'none'],
      ['overflow', 'visible'],
    ],
    art.paths
      .map((p) =>
        tag('path', [
          ['d', p.d],
          ['fill', p.fill ?? 'none'],
          ['fill-rule', p.fillRule],
          ['stroke', p.stroke],
          ['stroke-width', p.strokeWidth],
          ['stroke-linecap', p.cap],
          ['stroke-linejoin', p.join],
          ['opacity', p.opacity],
        ]),
      )
      .join(''),
  );

const FITS = { cover: 'xMidYMid slice', contain: 'xMidYMid meet', fill: 'none' } as const;

/** What a placeholder of a picture is painted with. */
const PLACEHOLDER: Paint = { fill: { kind: 'solid', colour: '#d9d6cd' } };

/**
 * The screen as an SVG drawing at a frame width, px: each item at its place, as the engine lays it out. Read back in it is a
 * drawing of the same items. `outlined` draws words as their outlines, for who has none of the fonts.
 */
export function exportSvg(
  structure: Structure,
  width: number,
  engine: Engine,
  m: TextMeasurer,
  outlined = false,
): TextFile {
  const root = standing(structure, { width });
  const laid = reflow(root, width, engine, structure.drawn.height);
  const { parts, lines } = laid;
  // A drawing without a height is none.
  const height = Math.max(1, laid.height);
  const defs = new Definitions();
  const body: string[] = [];
  const visit = (part: Part, rtl: boolean): void => {
    const box = parts.get(part.id);
    if (!box) return;
    const { content, paint } = part;
    const lineDirection = part.rules.direction === undefined ? rtl : part.rules.direction === 'rtl';
    if (paint && (paint.fill || paint.stroke)) body.push(boxSvg(box, paint, defs));
    if (content?.kind === 'text')
      body.push(textSvg(content, lines.get(part.id) ?? [], box, lineDirection, m, outlined));
    if (content?.kind === 'art') body.push(artSvg(content, box));
    if (content?.kind === 'turned') {
      const own = {
        x: box.x + (box.width - content.width) / 2,
        y: box.y + (box.height - content.height) / 2,
        width: content.width,
        height: content.height,
      };
      body.push(
        tag(
          'g',
          [
            [
              'transform',
              `rotate(${n(content.angle)} ${n(box.x + box.width / 2)} ${n(box.y + box.height / 2)})`,
            ],
          ],
          textSvg(
            content.text,
            [{ runs: content.text.runs, width: content.width }],
            own,
            lineDirection,
            m,
            outlined,
          ),
        ),
      );
    }
    if (content?.kind === 'picture') {
      if (content.href === undefined) body.push(boxSvg(box, { ...paint, ...PLACEHOLDER }, defs));
      else
        body.push(
          tag('image', [
            ['x', box.x],
            ['y', box.y],
            ['width', box.width],
            ['height', box.height],
            ['preserveAspectRatio', FITS[content.fit]],
            ['href', content.href],
          ]),
        );
    }
    part.children.forEach((c) => {
      visit(c, lineDirection);
    });
  };
  visit(root, false);
  const drawing = defs.toString();
  return {
    name: `${slug(structure.name)}-${width}.svg`,
    text: `<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}" height="${n(height)}" viewBox="0 0 ${n(width)} ${n(height)}">\n${drawing === '' ? '' : `<defs>${drawing}</defs>\n`}${body.filter((b) => b !== '').join('\n')}\n</svg>\n`,
  };
}
