import * as v from 'valibot';
import { unsound } from './check.js';
import { BLENDS } from './paint.js';
import type { Part, Structure } from './part.js';
import type { RuleName } from './rules.js';
import type { Step } from './steps.js';
import { LENGTH_PLACES, TOKEN_NAME, type Bound } from './tokens.js';

/** Deeper trees are refused: no screen needs them, and walking them could run out of stack. */
export const MAX_DEPTH = 200;

const px = v.pipe(v.number(), v.finite());
/** The longest text, id and name of a document, UTF-16 units: importing cuts longer ones. */
export const MAX_TEXT = 1_000_000;
export const MAX_ID = 200;
export const MAX_NAME = 200;
/** The longest outline and picture, UTF-16 units: as much as the largest file that is read can hold of either. */
const MAX_DATA = 30_000_000;
/** Parts in one part, items that one stands for, runs of a text, outlines of an art: no list is longer. */
const MANY = 100_000;
/** A step is about no more parts than this: it is done while others wait to write. */
const MOST_PARTS = 5_000;

const text = v.pipe(v.string(), v.maxLength(MAX_TEXT));
const id = v.pipe(v.string(), v.minLength(1), v.maxLength(MAX_ID));

const size = v.variant('kind', [
  v.strictObject({ kind: v.literal('fixed'), px }),
  v.strictObject({ kind: v.literal('fit') }),
  v.strictObject({ kind: v.literal('fill'), weight: px }),
  v.strictObject({ kind: v.literal('share'), percent: px }),
  v.strictObject({ kind: v.literal('ratio'), width: px, height: px }),
]);
const limit = v.union([px, v.literal('content')]);
const align = v.picklist(['start', 'centre', 'end', 'stretch', 'baseline']);
const optionalPx = v.exactOptional(px);
const distribution = v.picklist(['start', 'centre', 'end', 'stretch', 'between', 'around', 'evenly']);
const line = v.exactOptional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(1000)));
/** An area's name is written into style sheets: a CSS identifier, or `.` for none. */
const areaName = v.pipe(v.string(), v.regex(/^(?:\.|[a-z][a-z0-9-]{0,39})$/));
const track = v.variant('kind', [
  v.strictObject({ kind: v.literal('fixed'), px }),
  v.strictObject({ kind: v.literal('fr'), weight: px, min: v.exactOptional(limit) }),
  v.strictObject({ kind: v.literal('fit') }),
  v.strictObject({ kind: v.literal('range'), min: limit, max: limit }),
]);

const ruleEntries = {
  flow: v.picklist(['column', 'row', 'wrap', 'grid', 'free']),
  width: size,
  height: size,
  minWidth: limit,
  maxWidth: limit,
  minHeight: limit,
  maxHeight: limit,
  gap: v.union([px, v.picklist(['between', 'around', 'evenly', 'centres'])]),
  crossGap: px,
  gapBefore: px,
  padding: v.strictObject({ top: px, right: px, bottom: px, left: px }),
  align,
  alignSelf: align,
  justify: v.picklist(['start', 'centre', 'end']),
  columns: v.variant('kind', [
    v.strictObject({
      kind: v.literal('repeat'),
      min: px,
      most: v.exactOptional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(1000))),
    }),
    v.strictObject({ kind: v.literal('count'), count: v.pipe(v.number(), v.integer(), v.maxValue(1000)) }),
    v.strictObject({ kind: v.literal('tracks'), tracks: v.pipe(v.array(track), v.maxLength(1000)) }),
  ]),
  reverse: v.boolean(),
  order: v.pipe(px, v.integer()),
  newLine: v.boolean(),
  firstOnTop: v.boolean(),
  givesWay: v.picklist(['first', 'never']),
  alignLines: distribution,
  rows: v.pipe(v.array(track), v.maxLength(1000)),
  autoRows: track,
  autoFlow: v.picklist(['row', 'column']),
  areas: v.pipe(v.array(v.pipe(v.array(areaName), v.maxLength(100))), v.maxLength(100)),
  justifyTracks: distribution,
  justifyItems: v.picklist(['start', 'centre', 'end']),
  justifySelf: v.picklist(['start', 'centre', 'end']),
  cell: v.strictObject({
    column: line,
    row: line,
    columnSpan: line,
    rowSpan: line,
    area: v.exactOptional(areaName),
  }),
  pin: v.strictObject({
    left: optionalPx,
    right: optionalPx,
    top: optionalPx,
    bottom: optionalPx,
    leftShare: optionalPx,
    rightShare: optionalPx,
    topShare: optionalPx,
    bottomShare: optionalPx,
    centreX: optionalPx,
    centreY: optionalPx,
    z: optionalPx,
  }),
  stay: v.strictObject({ side: v.picklist(['top', 'bottom']), at: px }),
  hidden: v.boolean(),
  clip: v.boolean(),
  scroll: v.boolean(),
  strokeTakesRoom: v.boolean(),
  safeArea: v.pipe(v.array(v.picklist(['top', 'right', 'bottom', 'left'])), v.maxLength(4)),
  direction: v.picklist(['ltr', 'rtl']),
  maxLines: v.pipe(v.number(), v.integer(), v.minValue(1)),
};

/** All rules by their names. */
export const RULE_NAMES = Object.keys(ruleEntries) as RuleName[];

const optionalRules = Object.fromEntries(
  Object.entries(ruleEntries).map(([name, schema]) => [name, v.exactOptional(schema as v.GenericSchema)]),
);
const nullableRules = Object.fromEntries(
  Object.entries(ruleEntries).map(([name, schema]) => [
    name,
    v.exactOptional(v.nullable(schema as v.GenericSchema)),
  ]),
);

const colour = v.pipe(v.string(), v.maxLength(80));
const stops = v.pipe(v.array(v.strictObject({ at: px, colour })), v.maxLength(1000));
const paint = v.strictObject({
  fill: v.exactOptional(
    v.variant('kind', [
      v.strictObject({ kind: v.literal('solid'), colour }),
      v.strictObject({ kind: v.literal('linear'), angle: px, stops }),
      v.strictObject({ kind: v.literal('radial'), cx: px, cy: px, rx: px, ry: px, stops }),
    ]),
  ),
  stroke: v.exactOptional(v.strictObject({ colour, width: px, dashed: v.exactOptional(v.boolean()) })),
  radius: v.exactOptional(v.union([px, v.strictTuple([px, px, px, px]), v.literal('round')])),
  opacity: optionalPx,
  shadow: v.exactOptional(v.strictObject({ dx: px, dy: px, blur: px, colour })),
  blur: optionalPx,
  blend: v.exactOptional(v.picklist(BLENDS)),
});
const style = v.strictObject({
  family: v.pipe(v.string(), v.maxLength(MAX_NAME)),
  size: px,
  weight: px,
  italic: v.boolean(),
  letterSpacing: px,
  colour,
  sizeAdjust: optionalPx,
});
const outline = v.pipe(v.string(), v.maxLength(MAX_DATA));
const drawn = v.strictObject({
  width: px,
  size: v.pipe(px, v.gtValue(0)),
  d: outline,
  rule: v.exactOptional(v.literal('evenodd')),
});
const runs = v.pipe(
  v.array(v.strictObject({ text, style, drawn: v.exactOptional(drawn) })),
  v.maxLength(MANY),
);
const textContent = v.strictObject({
  kind: v.literal('text'),
  runs,
  lineHeight: px,
  align: v.picklist(['start', 'centre', 'end']),
});
const content = v.variant('kind', [
  textContent,
  v.strictObject({ kind: v.literal('turned'), angle: px, width: px, height: px, text: textContent }),
  v.strictObject({
    kind: v.literal('picture'),
    href: v.exactOptional(v.pipe(v.string(), v.startsWith('data:image/'), v.maxLength(MAX_DATA))),
    natural: v.exactOptional(v.strictObject({ width: px, height: px })),
    fit: v.picklist(['cover', 'contain', 'fill']),
  }),
  v.strictObject({
    kind: v.literal('art'),
    view: v.tuple([px, px, px, px]),
    paths: v.pipe(
      v.array(
        v.strictObject({
          d: outline,
          fill: v.exactOptional(colour),
          fillRule: v.exactOptional(v.literal('evenodd')),
          stroke: v.exactOptional(colour),
          strokeWidth: optionalPx,
          cap: v.exactOptional(v.picklist(['round', 'square'])),
          join: v.exactOptional(v.picklist(['round', 'bevel'])),
          opacity: optionalPx,
        }),
      ),
      v.maxLength(MANY),
    ),
  }),
]);

const tokenName = v.pipe(v.string(), v.regex(TOKEN_NAME));
const token = v.variant('kind', [
  v.strictObject({
    kind: v.literal('length'),
    name: tokenName,
    value: px,
    below: v.exactOptional(v.pipe(v.array(v.strictObject({ width: px, value: px })), v.maxLength(50))),
  }),
  v.strictObject({
    kind: v.literal('colour'),
    name: tokenName,
    value: colour,
    modes: v.exactOptional(v.pipe(v.record(tokenName, colour), v.maxEntries(20))),
  }),
]);

const bound = v.strictObject(
  Object.fromEntries(
    ([...LENGTH_PLACES, 'fill', 'text.colour'] as const).map((p) => [p, v.exactOptional(tokenName)]),
  ),
) as v.GenericSchema<Bound>;

/** The schema of a part and all below it. */
export const PartSchema: v.GenericSchema<Part> = v.lazy(() =>
  v.strictObject({
    id,
    name: v.pipe(v.string(), v.maxLength(MAX_NAME)),
    kind: v.picklist(['container', 'text', 'picture', 'shape']),
    rules: v.strictObject(optionalRules),
    below: v.exactOptional(
      v.pipe(v.array(v.strictObject({ width: px, rules: v.strictObject(nullableRules) })), v.maxLength(50)),
    ),
    wide: v.exactOptional(v.strictObject(nullableRules)),
    bound: v.exactOptional(bound),
    children: v.pipe(v.array(PartSchema), v.maxLength(MANY)),
    source: v.pipe(v.array(id), v.maxLength(MANY)),
    paint: v.exactOptional(paint),
    content: v.exactOptional(content),
    answered: v.exactOptional(v.pipe(v.array(v.pipe(v.string(), v.maxLength(40))), v.maxLength(40))),
    pattern: v.exactOptional(v.pipe(v.string(), v.maxLength(MAX_NAME))),
  }),
);

/** The schema of a whole document. */
export const StructureSchema: v.GenericSchema<Structure> = v.strictObject({
  version: v.literal(
    1,
    'this program knows version 1 of a structure: bring it up to date to read a later one',
  ),
  name: v.pipe(v.string(), v.maxLength(MAX_NAME)),
  drawn: v.strictObject({ width: px, height: px }),
  snap: px,
  tokens: v.exactOptional(v.pipe(v.array(token), v.maxLength(1000))),
  root: PartSchema,
});

/** A place among siblings. */
const place = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(100_000));

/** The schema of one step. */
export const StepSchema: v.GenericSchema<Step> = v.variant('kind', [
  v.strictObject({
    kind: v.literal('answer'),
    parts: v.pipe(v.array(id), v.minLength(1), v.maxLength(MOST_PARTS)),
    topic: v.pipe(v.string(), v.minLength(1), v.maxLength(40)),
    open: v.exactOptional(v.boolean()),
  }),
  v.strictObject({
    kind: v.literal('bind'),
    parts: v.pipe(v.array(v.strictObject({ id, bound })), v.minLength(1), v.maxLength(MOST_PARTS)),
  }),
  v.strictObject({
    kind: v.literal('several'),
    steps: v.pipe(v.array(v.lazy(() => StepSchema)), v.maxLength(500)),
  }),
  v.strictObject({
    kind: v.literal('setRules'),
    below: optionalPx,
    wide: v.exactOptional(v.literal(true)),
    parts: v.pipe(
      v.array(
        v.strictObject({
          id,
          set: v.strictObject(nullableRules),
          leave: v.exactOptional(v.pipe(v.array(v.picklist(RULE_NAMES)), v.maxLength(100))),
        }),
      ),
      v.minLength(1),
      v.maxLength(MOST_PARTS),
    ),
  }),
  v.strictObject({
    kind: v.literal('pattern'),
    parts: v.pipe(
      v.array(v.strictObject({ id, pattern: v.nullable(v.pipe(v.string(), v.maxLength(MAX_NAME))) })),
      v.minLength(1),
      v.maxLength(MOST_PARTS),
    ),
  }),
  v.strictObject({
    kind: v.literal('words'),
    parts: v.pipe(
      v.array(v.strictObject({ id, runs, lineHeight: optionalPx })),
      v.minLength(1),
      v.maxLength(1000),
    ),
  }),
  v.strictObject({
    kind: v.literal('paint'),
    parts: v.pipe(
      v.array(
        v.strictObject({
          id,
          paint: v.nullable(paint),
          source: v.exactOptional(v.pipe(v.array(id), v.maxLength(MANY))),
        }),
      ),
      v.minLength(1),
      v.maxLength(MOST_PARTS),
    ),
  }),
  v.strictObject({
    kind: v.literal('token'),
    name: tokenName,
    to: v.nullable(token),
    at: v.exactOptional(place),
  }),
  v.strictObject({ kind: v.literal('rename'), id, name: v.pipe(v.string(), v.maxLength(MAX_NAME)) }),
  v.strictObject({ kind: v.literal('replace'), id, part: PartSchema }),
  v.strictObject({ kind: v.literal('insert'), parent: id, at: place, part: PartSchema }),
  v.strictObject({ kind: v.literal('remove'), id }),
  v.strictObject({ kind: v.literal('move'), id, parent: id, at: place }),
  v.strictObject({
    kind: v.literal('wrap'),
    ids: v.pipe(v.array(id), v.minLength(1), v.maxLength(1000)),
    container: PartSchema,
  }),
  v.strictObject({ kind: v.literal('unwrap'), id }),
]);

/** Whether nested objects and arrays go deeper than `limit`; walks level by level, so that it cannot overflow. */
export function isDeeperThan(value: unknown, limit: number): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > limit) return true;
    level = level.flatMap((x) =>
      typeof x === 'object' && x !== null ? Object.values(x as Record<string, unknown>) : [],
    );
  }
  return false;
}

/**
 * Reads a document from parsed JSON; a wrong one, or one that cannot stand, throws a SyntaxError whose sentence names
 * the place.
 */
export function structureFromJson(value: unknown): Structure {
  if (isDeeperThan(value, MAX_DEPTH * 2))
    throw new SyntaxError(`This structure nests deeper than ${MAX_DEPTH} parts: flatten it.`);
  const result = v.safeParse(StructureSchema, value);
  if (result.success) {
    const problem = unsound(result.output);
    if (problem) throw new SyntaxError(problem.reason);
    return result.output;
  }
  const issue = result.issues[0];
  const place = v.getDotPath(issue) ?? 'the document';
  throw new SyntaxError(`This is not a Tin Fold structure: at ${place}, ${issue.message.slice(0, 200)}.`);
}
