import { Segmented } from 'antd';
import { memo, useEffect, useMemo, useState, type PointerEvent, type ReactNode, type RefObject } from 'react';
import type { Drawing } from '@tinfold/core/drawing';
import { paintRules } from '@tinfold/core/handoff';
import type { Reflow } from '@tinfold/core/layout';
import { contains, findPart, modesOf, walk, type Part, type Rect } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';
import { Handles } from './Handles';
import { SelectionMarks } from './Overlay';
import { DrawingPaint, OwnFamilies, ReflowPaint } from './Paint';
import { useRoom } from './room';
import type { SheetMode, WorkbenchStore } from './store';

const MODES: { value: SheetMode; label: string }[] = [
  { value: 'both', label: 'Both' },
  { value: 'drawn', label: 'As drawn' },
  { value: 'reflowed', label: 'Reflowed' },
  { value: 'over', label: 'Laid over' },
  { value: 'outlines', label: 'Outlines' },
];

/** The room around and between sheets, px on the screen. */
const EDGE = 16;
const BETWEEN = 24;
/** What captions and margins take from two sheets below each other, px. */
const CAPTIONS = 108;

interface SheetsProps {
  readonly use: WorkbenchStore;
  readonly root: Part;
  readonly reflow: Reflow;
  /** What the drawing lies on, in its own colours. */
  readonly paper: Part['paint'];
  readonly drawing: Drawing | undefined;
  readonly measurer: TextMeasurer;
  readonly selected: string | undefined;
  /** Parts in hand besides the selected one. */
  readonly also: ReadonlySet<string>;
  readonly mode: SheetMode;
  /** `more` where the part is to be in hand with those that are. */
  readonly onSelect: (id: string, more: boolean) => void;
  readonly onMode: (mode: SheetMode) => void;
}

/** The innermost part at a point; a later one lies on top. */
function partAt(root: Part, reflow: Reflow, x: number, y: number): string | undefined {
  let found: string | undefined;
  for (const part of walk(root)) {
    const box = reflow.parts.get(part.id);
    if (box && contains(box, { x, y, width: 0, height: 0 }, 0)) found = part.id;
  }
  return found;
}

interface SheetProps {
  readonly title: string;
  readonly label: string;
  readonly width: number;
  readonly height: number;
  readonly scale: number;
  readonly background: Part['paint'];
  readonly onPoint?: (x: number, y: number, more: boolean) => void;
  readonly children: ReactNode;
  /** What is drawn over the sheet, and into the margin around it. */
  readonly marks?: ReactNode;
}

function Sheet({ title, label, width, height, scale, background, onPoint, children, marks }: SheetProps) {
  const point = (event: PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const more = event.shiftKey || event.ctrlKey || event.metaKey;
    onPoint?.((event.clientX - box.left) / scale, (event.clientY - box.top) / scale, more);
  };
  const style = Object.fromEntries(
    (background ? paintRules(background) : []).filter(([p]) => p === 'background'),
  );
  return (
    <figure className="sheet" aria-label={label}>
      <figcaption>
        <b>{title}</b> {Math.round(width)} × {Math.round(height)}
      </figcaption>
      <div
        className="sheet-frame"
        style={{ width: width * scale, height: height * scale }}
        onPointerDown={point}
      >
        <div className="sheet-paper" style={{ width, height, transform: `scale(${scale})`, ...style }}>
          {children}
        </div>
        <div className="sheet-marks" style={{ width, height, transform: `scale(${scale})` }}>
          {marks}
        </div>
      </div>
    </figure>
  );
}

/** Where the reader has cut the frame: fold lines between the parts of the part in hand, or of the frame. */
function FoldLines({
  boxes,
  width,
  height,
  scale,
}: {
  readonly boxes: readonly Rect[];
  readonly width: number;
  readonly height: number;
  readonly scale: number;
}) {
  const tops = boxes.slice(1).map((b, i) => {
    const above = boxes[i];
    return above ? (above.y + above.height + b.y) / 2 : b.y;
  });
  return (
    <svg className="marks" width={width} height={height} aria-hidden="true">
      {tops.map((y, i) => (
        <line
          key={i}
          x1={0}
          x2={width}
          y1={y}
          y2={y}
          stroke="var(--copper)"
          strokeWidth={1 / scale}
          strokeDasharray={`${6 / scale} ${4 / scale}`}
        />
      ))}
    </svg>
  );
}

/** Scales stay between these. */
const SMALLEST = 0.1;
const LARGEST = 4;
/** How much a notch of the wheel scales: 120 units are one notch. */
const NOTCH = 600;

/** The wheel with Ctrl scales the sheets; what is under the pointer stays under it. */
function useZoom(
  ref: RefObject<HTMLDivElement | null>,
  scale: number,
  setZoom: (scale: number) => void,
): void {
  useEffect(() => {
    const room = ref.current;
    if (!room) return;
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const next = Math.min(LARGEST, Math.max(SMALLEST, scale * 2 ** (-event.deltaY / NOTCH)));
      const box = room.getBoundingClientRect();
      const [x, y] = [event.clientX - box.left, event.clientY - box.top];
      const grown = next / scale;
      setZoom(next);
      requestAnimationFrame(() => {
        room.scrollTo((room.scrollLeft + x) * grown - x, (room.scrollTop + y) * grown - y);
      });
    };
    // React listens to the wheel passively, so that it could not keep the page from being scaled.
    room.addEventListener('wheel', wheel, { passive: false });
    return () => {
      room.removeEventListener('wheel', wheel);
    };
  }, [ref, scale, setZoom]);
}

/** A box narrower or lower than this has no room for its name, px on the screen. */
const NAMED = { width: 40, height: 14 };

/** The boxes of all parts with their names, and nothing else. */
function Outlines({
  root,
  reflow,
  scale,
}: Pick<SheetsProps, 'root' | 'reflow'> & { readonly scale: number }) {
  const line = 1 / scale;
  return (
    <svg className="marks" width={reflow.width} height={reflow.height} aria-hidden="true">
      {[...walk(root)].map(({ id, name, children }) => {
        const box = reflow.parts.get(id);
        if (!box) return null;
        const room =
          children.length === 0 && box.width * scale > NAMED.width && box.height * scale > NAMED.height;
        return (
          <g key={id}>
            <rect {...box} fill="none" stroke="var(--sea)" strokeWidth={line} />
            {room && (
              <svg x={box.x} y={box.y} width={box.width} height={box.height}>
                <text x={4 * line} y={12 * line} fontSize={11 * line} className="outline-name">
                  {name}
                </text>
              </svg>
            )}
          </g>
        );
      })}
    </svg>
  );
}

interface ModesProps {
  readonly mode: SheetMode;
  readonly onMode: (mode: SheetMode) => void;
}

const Modes = memo(function Modes({ mode, onMode }: ModesProps) {
  return (
    <Segmented
      size="small"
      value={mode}
      options={MODES}
      onChange={onMode}
      aria-label="Which sheets are shown"
    />
  );
});

/** Which colours the reflowed sheet has, where the tokens have values in several modes. */
function ColourModes({ use }: Pick<SheetsProps, 'use'>) {
  const tokens = use((s) => s.doc.tokens);
  const colours = use((s) => s.colours);
  const { setColours } = use.getState();
  const modes = useMemo(() => modesOf(tokens), [tokens]);
  if (modes.length === 0) return null;
  return (
    <select
      className="colour-modes"
      value={colours ?? ''}
      aria-label="Colours of the reflowed sheet"
      title="Colours of the reflowed sheet"
      onChange={(e) => {
        setColours(e.currentTarget.value === '' ? undefined : e.currentTarget.value);
      }}
    >
      <option value="">own colours</option>
      {modes.map((m) => (
        <option key={m} value={m}>
          in {m}
        </option>
      ))}
    </select>
  );
}

/** The two sheets: as drawn, and reflowed at the caliper's width. */
export function Sheets({
  use,
  root,
  reflow,
  paper,
  drawing,
  measurer,
  selected,
  also,
  mode,
  onSelect,
  onMode,
}: SheetsProps) {
  const [ref, room] = useRoom();
  const drawnWidth = drawing?.width ?? 0;
  const both = mode === 'both' && drawing !== undefined;
  const widest = Math.max(drawnWidth, reflow.width);
  // The scale follows the wider of both, so that it holds still while the caliper stays within the drawn width.
  const across = room.width - 2 * EDGE;
  const beside = (across - BETWEEN) / (drawnWidth + widest);
  const below = drawing ? Math.min(across / widest, (room.height - CAPTIONS) / (2 * drawing.height)) : 0;
  const stacked = both && below > beside;
  const wanted = !both ? across / widest : stacked ? below : beside;
  const fit = Math.min(1, Math.max(0.1, wanted));
  const [zoom, setZoom] = useState<number>();
  const [mix, setMix] = useState(50);
  const scale = zoom ?? fit;
  useZoom(ref, scale, setZoom);
  const part = selected === undefined ? undefined : findPart(root, selected);
  const items = useMemo(() => new Map(drawing?.items.map((i) => [i.id, i.box])), [drawing]);
  const selectedItems = useMemo(
    () =>
      part
        ? [...walk(part)]
            .flatMap((p) => p.source)
            .map((id) => items.get(id))
            .filter((b) => b !== undefined)
        : [],
    [part, items],
  );
  const cuts = useMemo(() => drawnCuts(root, items), [root, items]);
  const selectItem = (x: number, y: number, more: boolean) => {
    const hit = drawing?.items.findLast((i) => contains(i.box, { x, y, width: 0, height: 0 }, 0));
    const owner = hit && [...walk(root)].find((p) => p.source.includes(hit.id));
    onSelect(owner?.id ?? root.id, more);
  };
  const drawn = drawing && (
    <Sheet
      title="As drawn"
      label={`The drawing at ${drawing.width}`}
      width={drawing.width}
      height={drawing.height}
      scale={scale}
      background={paper}
      onPoint={selectItem}
      marks={
        <>
          <FoldLines boxes={cuts} width={drawing.width} height={drawing.height} scale={scale} />
          <ItemMarks boxes={selectedItems} drawing={drawing} scale={scale} />
        </>
      }
    >
      <DrawingPaint drawing={drawing} measurer={measurer} />
    </Sheet>
  );
  const reflowed = (
    <Sheet
      title="Reflowed"
      label={`The structure at ${reflow.width}`}
      width={reflow.width}
      height={reflow.height}
      scale={scale}
      background={root.paint}
      onPoint={(x, y, more) => {
        onSelect(partAt(root, reflow, x, y) ?? root.id, more);
      }}
      marks={
        <>
          {mode === 'outlines' && <Outlines root={root} reflow={reflow} scale={scale} />}
          {[...also].map((id) => (
            <AlsoMark key={id} box={reflow.parts.get(id)} reflow={reflow} scale={scale} />
          ))}
          {part && <SelectionMarks part={part} reflow={reflow} scale={scale} />}
          {part && also.size === 0 && (
            <Handles use={use} part={part} isRoot={part === root} reflow={reflow} scale={scale} />
          )}
        </>
      }
    >
      <div className={mode === 'outlines' ? 'sheet-live sheet-outlined' : 'sheet-live'}>
        <OwnFamilies value={measurer.own}>
          <ReflowPaint root={root} reflow={reflow} />
        </OwnFamilies>
      </div>
      {mode === 'over' && drawing && (
        <div className="sheet-over" style={{ opacity: mix / 100 }}>
          <DrawingPaint drawing={drawing} measurer={measurer} />
        </div>
      )}
    </Sheet>
  );
  return (
    <section className="sheets" aria-label="Sheets">
      <div className="sheets-bar">
        <Modes mode={mode} onMode={onMode} />
        {mode === 'over' && (
          <input
            className="mix"
            type="range"
            min={0}
            max={100}
            value={mix}
            aria-label="How much of the drawing is laid over"
            onChange={(e) => {
              setMix(Number(e.currentTarget.value));
            }}
          />
        )}
        <ColourModes use={use} />
        <span className="sheets-scale">
          <button
            type="button"
            aria-pressed={zoom === undefined}
            title="As large as there is room for"
            onClick={() => {
              setZoom(undefined);
            }}
          >
            Fit
          </button>
          <button
            type="button"
            aria-pressed={zoom === 1}
            title="A px of the frame is a px of the screen; Ctrl and the wheel go between"
            onClick={() => {
              setZoom(1);
            }}
          >
            100 %
          </button>
          <output>{Math.round(scale * 100)} %</output>
        </span>
      </div>
      <div className="sheets-room" ref={ref}>
        <div className={stacked ? 'sheets-row sheets-stacked' : 'sheets-row'}>
          {(mode === 'both' || mode === 'drawn') && drawn}
          {mode !== 'drawn' && reflowed}
        </div>
      </div>
    </section>
  );
}

interface AlsoMarkProps {
  readonly box: Rect | undefined;
  readonly reflow: Reflow;
  readonly scale: number;
}

/** The outline of a part that is in hand besides another. */
function AlsoMark({ box, reflow, scale }: AlsoMarkProps) {
  if (!box) return null;
  return (
    <svg className="marks" width={reflow.width} height={reflow.height} aria-hidden="true">
      <rect
        {...box}
        data-also=""
        fill="none"
        stroke="var(--copper)"
        strokeWidth={1.6 / scale}
        strokeDasharray={`${5 / scale} ${3 / scale}`}
      />
    </svg>
  );
}

/** The union of the drawn items of each child of the frame, in order. */
function drawnCuts(root: Part, items: ReadonlyMap<string, Rect>): Rect[] {
  if (root.rules.flow !== undefined && root.rules.flow !== 'column') return [];
  return root.children
    .filter((c) => !c.rules.pin)
    .map((c) =>
      [...walk(c)]
        .flatMap((p) => p.source)
        .map((id) => items.get(id))
        .filter((b) => b !== undefined),
    )
    .filter((boxes) => boxes.length > 0)
    .map((boxes) => {
      const top = Math.min(...boxes.map((b) => b.y));
      return { x: 0, y: top, width: 0, height: Math.max(...boxes.map((b) => b.y + b.height)) - top };
    });
}

function ItemMarks({
  boxes,
  drawing,
  scale,
}: {
  readonly boxes: readonly Rect[];
  readonly drawing: Drawing;
  readonly scale: number;
}) {
  return (
    <svg className="marks" width={drawing.width} height={drawing.height} aria-hidden="true">
      {boxes.map((b, i) => (
        <rect
          key={i}
          x={b.x}
          y={b.y}
          width={b.width}
          height={b.height}
          fill="none"
          stroke="var(--copper)"
          strokeWidth={1.2 / scale}
        />
      ))}
    </svg>
  );
}
