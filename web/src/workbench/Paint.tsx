import {
  createContext,
  memo,
  useContext,
  useLayoutEffect,
  useMemo,
  useRef,
  type CSSProperties,
  type ReactNode,
} from 'react';
import type { Drawing, Item } from '@tinfold/core/drawing';
import { paintRules } from '@tinfold/core/handoff';
import { staying, type Reflow } from '@tinfold/core/layout';
import {
  drawnWidth,
  walk,
  type ArtContent,
  type Content,
  type DrawnWord,
  type Paint,
  type Part,
  type Rect,
  type TextContent,
  type TextStyle,
  type TurnedContent,
} from '@tinfold/core/model';
import { breakLines, resolveFamily, type Family, type Line, type TextMeasurer } from '@tinfold/core/text';
import { BAR } from '../moving/words';
import { fontFamilies } from '../reading/fonts';
import type { Seen } from './useSeen';

const ALL: Seen = { from: -Infinity, to: Infinity };

const camel = (property: string): string => property.replace(/-([a-z])/g, (_, c: string) => c.toUpperCase());

const NO_STYLE: CSSProperties = {};
const painted = new WeakMap<Paint, CSSProperties>();

/** A paint's style, made once: while the caliper is dragged every box is drawn anew at each frame. */
function paintStyle(paint: Paint | undefined): CSSProperties {
  if (!paint) return NO_STYLE;
  let style = painted.get(paint);
  if (!style) {
    style = Object.fromEntries(paintRules(paint).map(([p, v]) => [camel(p), v]));
    painted.set(paint, style);
  }
  return style;
}

/** The families that the user added to the project at hand. */
export const OwnFamilies = createContext<readonly Family[]>([]);

function typeStyle(style: TextStyle, own: readonly Family[]): CSSProperties {
  const { family, exact } = resolveFamily(style.family, own);
  return {
    fontFamily: fontFamilies(family),
    fontSize: style.size * (exact ? 1 : (style.sizeAdjust ?? 1)),
    fontWeight: style.weight,
    fontStyle: style.italic ? 'italic' : 'normal',
    letterSpacing: style.letterSpacing,
    color: style.colour,
  };
}

const Art = memo(function Art({ art }: { readonly art: ArtContent }) {
  return (
    <svg className="paint-fill" viewBox={art.view.join(' ')} preserveAspectRatio="none" aria-hidden="true">
      {art.paths.map((p, i) => (
        <path
          key={i}
          d={p.d}
          fill={p.fill ?? 'none'}
          fillRule={p.fillRule}
          stroke={p.stroke}
          strokeWidth={p.strokeWidth}
          strokeLinecap={p.cap}
          strokeLinejoin={p.join}
          opacity={p.opacity}
        />
      ))}
    </svg>
  );
});

/** A word, or a space, that is kept as it was drawn, on the line's baseline. */
function Drawn({ drawn, style }: { readonly drawn: DrawnWord; readonly style: TextStyle }) {
  return (
    <svg
      className="drawn-word"
      style={{ width: drawnWidth(drawn, style.size) }}
      viewBox={`0 ${-drawn.size} ${Math.max(drawn.width, 0.01)} ${drawn.size}`}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <path d={drawn.d} fill={style.colour} fillRule={drawn.rule} />
    </svg>
  );
}

/** The lines of a text; they are the same object as long as the words break alike. */
const Words = memo(function Words({
  content,
  lines,
}: {
  readonly content: TextContent;
  readonly lines: readonly Line[];
}) {
  const own = useContext(OwnFamilies);
  const align = content.align === 'centre' ? 'center' : content.align;
  return lines.map((line, i) => (
    <div
      key={i}
      className="paint-line"
      style={{ height: content.lineHeight, lineHeight: `${content.lineHeight}px`, textAlign: align }}
    >
      {line.runs.map((run, k) => (
        <span key={k} style={typeStyle(run.style, own)}>
          {run.drawn ? <Drawn drawn={run.drawn} style={run.style} /> : run.text}
        </span>
      ))}
    </div>
  ));
});

/** Words that are too small to be read at the sheet's scale, as a background: bars as long and as high as they are. */
function barsStyle({ lineHeight, align, runs }: TextContent, lines: readonly Line[]): CSSProperties {
  const side = align === 'centre' ? '50%' : align === 'end' ? '100%' : '0';
  // The colour is thinned and not the box: hundreds of boxes with an opacity would each be composed on their own at each frame.
  const colour = `color-mix(in srgb, ${runs[0]?.style.colour ?? 'currentColor'} ${BAR.strength * 100}%, transparent)`;
  return {
    backgroundImage: lines.map(() => `linear-gradient(${colour}, ${colour})`).join(', '),
    backgroundPosition: lines.map((_, i) => `${side} ${(i + BAR.from) * lineHeight}px`).join(', '),
    backgroundSize: lines.map((l) => `${l.width}px ${lineHeight * BAR.height}px`).join(', '),
    backgroundRepeat: 'no-repeat',
  };
}

/** A line of words that stands at an angle in the middle of its box. */
function Turned({ turned }: { readonly turned: TurnedContent }) {
  const { width, height, angle, text } = turned;
  return (
    <div
      className="paint-turned"
      style={{ width, height, transform: `translate(-50%, -50%) rotate(${angle}deg)` }}
    >
      <Words content={text} lines={[{ runs: text.runs, width }]} />
    </div>
  );
}

/** What is painted in a box. */
interface PaintedProps {
  readonly id: string;
  readonly paint?: Paint | undefined;
  readonly content?: Content | undefined;
  readonly lines?: readonly Line[] | undefined;
  readonly attribute: 'data-part' | 'data-item';
  readonly clip?: boolean | undefined;
  /** Whether it lies over what scrolls under it. */
  readonly above?: boolean | undefined;
  /** Type smaller than this, px of the frame, is not to be read at the sheet's scale. */
  readonly least: number;
}

/** One painted box; `Boxes` puts it in its place. */
const Painted = memo(function Painted({
  id,
  paint,
  content,
  lines,
  attribute,
  clip,
  above,
  least,
}: PaintedProps): ReactNode {
  const picture = content?.kind === 'picture';
  const isSmall = content?.kind === 'text' && (content.runs[0]?.style.size ?? 0) < least;
  const bars = isSmall && lines ? barsStyle(content, lines) : NO_STYLE;
  return (
    <div
      {...{ [attribute]: id }}
      className={picture && !content.href ? 'paint-box paint-missing' : 'paint-box'}
      style={{
        ...paintStyle(paint),
        // An element less for each text: all of them are styled, placed and painted at each frame of a drag.
        ...(!paint && bars),
        ...(clip === true && { overflow: 'hidden' }),
        ...(above === true && { zIndex: 1 }),
      }}
    >
      {content?.kind === 'art' && <Art art={content} />}
      {content?.kind === 'turned' && <Turned turned={content} />}
      {picture && content.href !== undefined && (
        <img
          className="paint-fill"
          src={content.href}
          alt=""
          draggable={false}
          style={{ objectFit: content.fit }}
        />
      )}
      {isSmall && paint && <div className="paint-fill" style={bars} />}
      {content?.kind === 'text' && lines && !isSmall && <Words content={content} lines={lines} />}
    </div>
  );
});

const isSame = (a: readonly PaintedProps[], b: readonly PaintedProps[]): boolean =>
  a.length === b.length && a.every((p, i) => p === b[i]);

/** What is painted, without its places: while the caliper is dragged it is mostly the same from frame to frame. */
const AllPainted = memo(
  function AllPainted({ painted }: { readonly painted: readonly PaintedProps[] }) {
    return painted.map((p) => <Painted key={p.id} {...p} />);
  },
  (a, b) => isSame(a.painted, b.painted),
);

const isElement = (node: Element): node is HTMLElement => node instanceof HTMLElement;

/**
 * Boxes at their places, in paint order. The places are written to the page here and not by React, which would compare hundreds
 * of styles at each frame of a drag.
 */
function Boxes({
  painted,
  places,
}: {
  readonly painted: readonly PaintedProps[];
  readonly places: readonly Rect[];
}) {
  const holder = useRef<HTMLDivElement>(null);
  // The elements of what is painted, and where each stands; one that is another than before has no place yet.
  const shown = useRef<readonly PaintedProps[]>([]);
  const elements = useRef<readonly HTMLElement[]>([]);
  const before = useRef<readonly (Rect | undefined)[]>([]);
  useLayoutEffect(() => {
    if (!isSame(painted, shown.current)) {
      const stood = new Map(elements.current.map((element, i) => [element, before.current[i]]));
      elements.current = [...(holder.current?.children ?? [])].filter(isElement);
      before.current = elements.current.map((element) => stood.get(element));
      shown.current = painted;
    }
    elements.current.forEach(({ style }, i) => {
      const [box, was] = [places[i], before.current[i]];
      if (!box) return;
      if (was?.x !== box.x) style.marginLeft = `${box.x}px`;
      if (was?.y !== box.y) style.marginTop = `${box.y}px`;
      if (was?.width !== box.width) style.width = `${box.width}px`;
      if (was?.height !== box.height) style.height = `${box.height}px`;
    });
    before.current = places;
  }, [painted, places]);
  return (
    <div className="paint-boxes" ref={holder}>
      <AllPainted painted={painted} />
    </div>
  );
}

const isSeen = ({ y, height }: Rect, { from, to }: Seen): boolean => y <= to && y + height >= from;

const asPainted = new WeakMap<Part | Item, PaintedProps>();

/** What a thing is painted with: the same object as before where that has not changed, so that what has is found at a glance. */
function kept(of: Part | Item, now: PaintedProps): PaintedProps {
  const before = asPainted.get(of);
  // All else is the thing's own, which is another one where it has changed.
  if (before?.lines === now.lines && before?.above === now.above && before?.least === now.least)
    return before;
  asPainted.set(of, now);
  return now;
}

/**
 * A reflowed structure as painted boxes, in paint order; without `seen` all of it. Type smaller than `least` px is shown as bars.
 */
export const ReflowPaint = memo(function ReflowPaint({
  root,
  reflow,
  seen = ALL,
  least = 0,
}: {
  readonly root: Part;
  readonly reflow: Reflow;
  readonly seen?: Seen;
  readonly least?: number;
}) {
  const painted: PaintedProps[] = [];
  const places: Rect[] = [];
  const [parts, above] = useMemo(() => [[...walk(root)], staying(root)], [root]);
  for (const part of parts) {
    const box = reflow.parts.get(part.id);
    if (!box || !isSeen(box, seen)) continue;
    places.push(box);
    painted.push(
      kept(part, {
        id: part.id,
        paint: part.paint,
        content: part.content,
        lines: reflow.lines.get(part.id),
        clip: part.rules.clip,
        above: above.has(part.id),
        least,
        attribute: 'data-part',
      }),
    );
  }
  return <Boxes painted={painted} places={places} />;
});

const broken = new WeakMap<Item, { readonly measurer: TextMeasurer; readonly lines: readonly Line[] }>();

/** The lines of a drawing's text, broken once: while a sheet is scrolled it is asked for what is in sight again and again. */
function drawnLines(item: Item, measurer: TextMeasurer): readonly Line[] | undefined {
  if (item.kind !== 'text') return undefined;
  let known = broken.get(item);
  if (known?.measurer !== measurer) {
    known = { measurer, lines: breakLines(item.content, item.box.width + 0.3, measurer) };
    broken.set(item, known);
  }
  return known.lines;
}

/** A drawing as painted boxes, just as its file places them; without `seen` all of it. */
export const DrawingPaint = memo(function DrawingPaint({
  drawing,
  measurer,
  seen = ALL,
  least = 0,
}: {
  readonly drawing: Drawing;
  readonly measurer: TextMeasurer;
  readonly seen?: Seen;
  readonly least?: number;
}) {
  const items = drawing.items.filter((item) => isSeen(item.box, seen));
  const painted = items.map((item) =>
    kept(item, {
      id: item.id,
      paint: item.paint,
      content: item.kind === 'shape' ? undefined : item.content,
      lines: drawnLines(item, measurer),
      least,
      attribute: 'data-item',
    }),
  );
  return (
    <OwnFamilies value={measurer.own}>
      <Boxes painted={painted} places={items.map((item) => item.box)} />
    </OwnFamilies>
  );
});
