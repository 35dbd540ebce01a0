import * as v from 'valibot';
import { BLENDS, type Paint, type Rect, type TextContent, type TextStyle } from '../model/index.js';
import {
  breakLines,
  baselineInLine,
  facesOfRuns,
  normalLineHeight,
  resolveFamily,
  type Face,
  type Family,
  type TextMeasurer,
} from '../text/index.js';
import { normalColour } from './colour.js';
import { DrawingError, type Note } from './items.js';
import { pictureContent } from './picture.js';
import type { RawDrawing, RawItem } from './raw.js';
import { readSvgTree } from './svg.js';
import type { XmlElement } from './xml.js';

const px = v.pipe(v.number(), v.minValue(-1e7), v.maxValue(1e7));
const size = v.pipe(px, v.minValue(0));
const short = v.pipe(v.string(), v.maxLength(500));
const colour = v.pipe(short, v.description('A CSS colour.'));

const shadow = v.strictObject({ dx: px, dy: px, blur: size, colour });
const gradient = v.strictObject({
  angle: v.pipe(px, v.description('Degrees, 0 is upwards, clockwise, as in CSS.')),
  stops: v.pipe(v.array(v.strictObject({ at: px, colour })), v.minLength(2), v.maxLength(100)),
});
const stroke = v.strictObject({ colour, width: size, dashed: v.optional(v.boolean()) });

const common = {
  id: v.optional(v.pipe(short, v.description('Unique in the drawing; made up where it is absent.'))),
  x: v.pipe(px, v.description('Left edge, px from the left of the frame.')),
  y: v.pipe(px, v.description('Top edge, px from the top of the frame.')),
  width: size,
  height: size,
  groups: v.optional(
    v.pipe(
      v.array(short),
      v.maxLength(100),
      v.description('Names of the groups around it, outermost first.'),
    ),
  ),
  opacity: v.optional(v.pipe(v.number(), v.minValue(0), v.maxValue(1))),
  blend: v.optional(v.picklist(BLENDS)),
};

const box = v.strictObject({
  kind: v.literal('box'),
  ...common,
  fill: v.optional(v.union([colour, gradient])),
  stroke: v.optional(stroke),
  radius: v.optional(v.union([size, v.literal('round')])),
  shadow: v.optional(shadow),
});
const text = v.strictObject({
  kind: v.literal('text'),
  ...common,
  height: v.optional(size),
  text: v.pipe(v.string(), v.maxLength(20_000), v.description('The words; a line feed is a forced break.')),
  family: v.optional(v.pipe(short, v.description('A CSS font-family list.'))),
  size: v.optional(v.pipe(size, v.description('Type size in px.'))),
  weight: v.optional(v.pipe(v.number(), v.minValue(1), v.maxValue(1000))),
  italic: v.optional(v.boolean()),
  letterSpacing: v.optional(px),
  lineHeight: v.optional(v.pipe(size, v.description('px; what the font says where it is absent.'))),
  align: v.optional(v.picklist(['start', 'centre', 'end'])),
  colour: v.optional(colour),
});
const picture = v.strictObject({
  kind: v.literal('picture'),
  ...common,
  href: v.optional(
    v.pipe(
      v.string(),
      v.description('A data URI: PNG, JPEG, GIF, WebP or SVG. A placeholder where it is absent.'),
    ),
  ),
  fit: v.optional(v.picklist(['cover', 'contain', 'fill'])),
  radius: v.optional(v.union([size, v.literal('round')])),
});
const icon = v.strictObject({
  kind: v.literal('icon'),
  ...common,
  viewBox: v.optional(
    v.pipe(v.tuple([px, px, size, size]), v.description('The paths’ own coordinates: x, y, width, height.')),
  ),
  paths: v.pipe(
    v.array(
      v.strictObject({
        d: v.pipe(v.string(), v.maxLength(200_000), v.description('SVG path data.')),
        fill: v.optional(colour),
        stroke: v.optional(colour),
        strokeWidth: v.optional(size),
      }),
    ),
    v.minLength(1),
    v.maxLength(400),
  ),
});

/** More items than this are refused. */
const MAX_ITEMS = 50_000;

/** The JSON of a drawing, for scripts that have their own source; `docs/drawing.schema.json` is made from this. */
export const DrawingSchema = v.strictObject({
  $schema: v.optional(short),
  format: v.literal('tinfold-drawing'),
  version: v.literal(1),
  name: v.optional(short),
  width: v.pipe(size, v.minValue(1), v.description('The frame’s width, px.')),
  height: v.pipe(size, v.minValue(1)),
  background: v.optional(colour),
  items: v.pipe(
    v.array(v.variant('kind', [box, text, picture, icon])),
    v.maxLength(MAX_ITEMS),
    v.description('In paint order: later ones lie on top.'),
  ),
});

type Input = v.InferOutput<typeof DrawingSchema>;
type InputItem = Input['items'][number];
type InputText = Extract<InputItem, { kind: 'text' }>;
type InputIcon = Extract<InputItem, { kind: 'icon' }>;

/** A drawing in JSON that was checked; its words are still to be measured. */
export interface JsonDrawing {
  readonly faces: (own: readonly Family[]) => Face[];
  readonly layOut: (m: TextMeasurer) => RawDrawing;
}

const styleOf = (t: InputText): TextStyle => ({
  family: t.family ?? 'Inter',
  size: t.size ?? 16,
  weight: t.weight ?? 400,
  italic: t.italic ?? false,
  letterSpacing: t.letterSpacing ?? 0,
  colour: normalColour(t.colour ?? '#000000', t.opacity ?? 1) ?? 'transparent',
});

/** A paragraph set in its box: one line where the box has room for no second. */
function textItem(t: InputText, id: string, groups: readonly string[], m: TextMeasurer): RawItem {
  const style = styleOf(t);
  const metrics = m.metrics(style);
  const lineHeight = t.lineHeight ?? normalLineHeight(metrics);
  const align = t.align ?? 'start';
  const content: TextContent = { kind: 'text', runs: [{ text: t.text, style }], lineHeight, align };
  const oneLine = !t.text.includes('\n') && t.height !== undefined && t.height < lineHeight * 1.6;
  const lines = breakLines(content, oneLine ? Infinity : t.width + 0.5, m);
  const at = align === 'centre' ? t.x + t.width / 2 : align === 'end' ? t.x + t.width : t.x;
  const baseline = t.y + baselineInLine(metrics, lineHeight);
  const { exact } = resolveFamily(style.family, m.own);
  return {
    kind: 'text',
    id,
    groups,
    lineHeight,
    chunks: lines.map((line, i) => ({
      x: at,
      y: baseline + i * lineHeight,
      anchor: align === 'centre' ? 'middle' : align,
      // A font that is not here is measured so that its words are as wide as drawn.
      ...(oneLine && !exact && t.width > 0 && { wanted: t.width }),
      runs: line.runs.map((r) => ({ ...r })),
    })),
  };
}

/** An icon's paths in the frame's place, read as the SVG that they are. */
function iconItems(
  t: InputIcon,
  id: string,
  groups: readonly string[],
  frame: { width: number; height: number },
): RawItem[] {
  const path = (p: InputIcon['paths'][number]): XmlElement => ({
    name: 'path',
    attributes: {
      d: p.d,
      fill: p.fill ?? (p.stroke === undefined ? '#000000' : 'none'),
      ...(p.stroke !== undefined && { stroke: p.stroke, 'stroke-width': String(p.strokeWidth ?? 1) }),
      ...(t.opacity !== undefined && { opacity: String(t.opacity) }),
    },
    children: [],
  });
  const [vx, vy, vw, vh] = t.viewBox ?? [0, 0, t.width, t.height];
  const root: XmlElement = {
    name: 'svg',
    attributes: { width: String(frame.width), height: String(frame.height) },
    children: [
      {
        name: 'svg',
        attributes: {
          x: String(t.x),
          y: String(t.y),
          width: String(t.width),
          height: String(t.height),
          viewBox: `${vx} ${vy} ${vw} ${vh}`,
        },
        children: t.paths.map(path),
      },
    ],
  };
  const pieces = readSvgTree(root, id).items;
  return pieces.map((piece, i): RawItem => {
    if (piece.kind !== 'shape' && piece.kind !== 'art') return piece;
    const item = { ...piece.item, id: pieces.length === 1 ? id : `${id}-${i + 1}`, groups };
    return { ...piece, named: true, item, icon: id };
  });
}

function paintOf(item: Extract<InputItem, { kind: 'box' }>): Paint {
  const fill =
    typeof item.fill === 'string'
      ? { kind: 'solid' as const, colour: normalColour(item.fill) ?? 'transparent' }
      : item.fill && { kind: 'linear' as const, angle: item.fill.angle, stops: item.fill.stops };
  const line = item.stroke;
  return {
    ...(fill && { fill }),
    ...(line && { stroke: { colour: line.colour, width: line.width, ...(line.dashed && { dashed: true }) } }),
    ...(item.radius !== undefined && { radius: item.radius }),
    ...(item.shadow && { shadow: item.shadow }),
    ...(item.blend && { blend: item.blend }),
    ...(item.opacity !== undefined && item.opacity < 1 && { opacity: item.opacity }),
  };
}

function rawItems(item: InputItem, id: string, input: Input, m: TextMeasurer, lost: string[]): RawItem[] {
  const groups = item.groups ?? [];
  if (item.kind === 'text') return [textItem(item, id, groups, m)];
  if (item.kind === 'icon') return iconItems(item, id, groups, input);
  const place: Rect = { x: item.x, y: item.y, width: item.width, height: item.height };
  if (item.kind === 'picture') {
    const { content, kept } = pictureContent(item.href, item.fit ?? 'cover');
    if (!kept && item.href !== undefined) lost.push(id);
    const paint: Paint = {
      ...(item.radius !== undefined && { radius: item.radius }),
      ...(item.opacity !== undefined && item.opacity < 1 && { opacity: item.opacity }),
    };
    return [
      { kind: 'picture', named: true, item: { kind: 'picture', id, box: place, groups, paint, content } },
    ];
  }
  const paint = paintOf(item);
  const unpainted = !paint.fill && !paint.stroke;
  return [
    {
      kind: 'shape',
      named: item.id !== undefined,
      ...(unpainted && { leftOut: 'unpainted' as const }),
      item: { kind: 'shape', id, box: place, groups, paint },
      art: { d: '' },
    },
  ];
}

/** Reads a drawing in JSON. Throws a {@link DrawingError} whose sentence names the place that is wrong. */
export function readJsonDrawing(source: string, name: string): JsonDrawing {
  let value: unknown;
  try {
    value = JSON.parse(source);
  } catch (error) {
    const why = error instanceof Error ? error.message.slice(0, 120) : '';
    throw new DrawingError(`The file is not well-formed JSON (${why}): write it again.`);
  }
  const result = v.safeParse(DrawingSchema, value);
  if (!result.success) {
    const [issue] = result.issues;
    throw new DrawingError(
      `The file is not a drawing in JSON: at ${v.getDotPath(issue) ?? 'its top'}, ${issue.message.slice(0, 160)}. docs/drawing.schema.json says what it holds.`,
    );
  }
  const input = result.output;
  const taken = new Set<string>();
  const ids = input.items.map((item, i) => {
    const id = item.id ?? `item-${i + 1}`;
    if (taken.has(id))
      throw new DrawingError(`Two items have the id “${id.slice(0, 60)}”: give each its own.`);
    taken.add(id);
    return id;
  });
  const texts = input.items.filter((i) => i.kind === 'text');
  return {
    faces: (own) =>
      facesOfRuns(
        texts.map((t) => ({ text: t.text, style: styleOf(t) })),
        own,
      ),
    layOut: (m) => {
      const lost: string[] = [];
      const frame: Rect = { x: 0, y: 0, width: input.width, height: input.height };
      const fill = input.background === undefined ? undefined : normalColour(input.background);
      const canvas: RawItem[] = fill
        ? [
            {
              kind: 'shape',
              named: false,
              item: {
                kind: 'shape',
                id: 'background',
                box: frame,
                groups: [],
                paint: { fill: { kind: 'solid', colour: fill } },
              },
              art: { d: '' },
            },
          ]
        : [];
      const items = input.items.flatMap((item, i) => rawItems(item, ids[i] ?? '', input, m, lost));
      const notes: Note[] =
        lost.length > 0
          ? [
              {
                kind: 'not understood',
                text: 'Pictures that are not in the file are shown as placeholders.',
                items: lost,
              },
            ]
          : [];
      return {
        name: input.name ?? name,
        width: input.width,
        height: input.height,
        items: [...canvas, ...items],
        notes,
      };
    },
  };
}
