import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { isDrawn, type Drawing, type DrawingGrid, type Item } from '@tinfold/core/drawing';
import { paintRules } from '@tinfold/core/handoff';
import { contains, type Rect } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { DrawingPaint } from '../workbench/Paint';
import { useRoom } from '../workbench/room';

interface ItemSheetProps {
  readonly drawing: Drawing;
  readonly measurer: ShapedMeasurer;
  readonly grid: DrawingGrid;
  readonly chosen: readonly string[];
  /** Where cleaned-up items stood that are pointed at. */
  readonly places: readonly Rect[];
  readonly onChoose: (items: readonly string[]) => void;
}

/** The mark of one item over the faded drawing. */
function ItemMark({
  item,
  line,
  chosen,
}: {
  readonly item: Item;
  readonly line: number;
  readonly chosen: boolean;
}) {
  const { x, y, width, height } = item.box;
  const className = `item-mark item-${item.kind}${chosen ? ' item-chosen' : ''}`;
  if (item.kind === 'text' && !chosen) {
    const dotted = isDrawn(item);
    // One line under words, two where they were outlines, dots where they still are.
    const under = item.outlined ? [2, 4] : [2];
    return (
      <g
        className={className}
        strokeWidth={dotted ? 1.5 * line : line}
        strokeDasharray={dotted ? `${1.5 * line} ${2 * line}` : undefined}
      >
        {item.lines.flatMap((l, i) =>
          under.map((below) => {
            const y = l.baseline + below * line;
            return <line key={`${i} ${below}`} x1={l.x} x2={l.x + l.width} y1={y} y2={y} />;
          }),
        )}
      </g>
    );
  }
  if (item.kind === 'art')
    return (
      <ellipse
        className={className}
        cx={x + width / 2}
        cy={y + height / 2}
        rx={width / 2}
        ry={height / 2}
        strokeWidth={line}
      />
    );
  return (
    <g className={className} strokeWidth={line}>
      <rect x={x} y={y} width={width} height={height} />
      {item.kind === 'picture' && <line x1={x} y1={y + height} x2={x + width} y2={y} />}
    </g>
  );
}

/** The columns that the drawing follows, as bands from top to bottom. */
function ColumnBands({ drawing, grid }: { readonly drawing: Drawing; readonly grid: DrawingGrid }) {
  if (!grid.columns) return null;
  const { count, gutter } = grid.columns;
  const width = (drawing.width - 2 * grid.margin - gutter * (count - 1)) / count;
  return Array.from({ length: count }, (_, i) => (
    <rect
      key={i}
      className="item-column"
      x={grid.margin + i * (width + gutter)}
      y={0}
      width={width}
      height={drawing.height}
    />
  ));
}

/** The padding of the room and the frame's own line, px: see drawing.css. */
const ROOM_EDGES = 14;

/** The drawing with its items marked by kind; pointing at one, or going to it with the arrow keys, chooses it. */
export function ItemSheet({ drawing, measurer, grid, chosen, places, onChoose }: ItemSheetProps) {
  const [ref, room] = useRoom();
  const [over, setOver] = useState<string>();
  const scale = Math.min(1, Math.max(0.1, (room.width - ROOM_EDGES) / drawing.width));
  const line = 1 / scale;
  const set = new Set(chosen);
  const hit = (event: PointerEvent<HTMLElement>): string | undefined => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = {
      x: (event.clientX - box.left) / scale,
      y: (event.clientY - box.top) / scale,
      width: 0,
      height: 0,
    };
    return drawing.items.findLast((i) => contains(i.box, at, 0))?.id;
  };
  const keys = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (event.key === 'Escape') onChoose([]);
    if (step === undefined) return;
    event.preventDefault();
    const at = drawing.items.findIndex((i) => i.id === chosen.at(-1));
    const next = drawing.items.at(at < 0 && step < 0 ? -1 : (at + step) % drawing.items.length);
    if (next) onChoose(event.shiftKey ? [...chosen, next.id] : [next.id]);
  };
  const { margin } = grid;
  const { safeArea } = drawing;
  const background = Object.fromEntries(paintRules(drawing.background).filter(([p]) => p === 'background'));
  return (
    <div className="item-room" ref={ref}>
      <div
        className="sheet-frame"
        style={{ width: drawing.width * scale, height: drawing.height * scale }}
        title={over}
        tabIndex={0}
        role="application"
        aria-label="Items of the drawing: arrow keys go from one to the next, with Shift several are chosen"
        onKeyDown={keys}
        onPointerMove={(e) => {
          setOver(hit(e));
        }}
        onPointerDown={(e) => {
          const id = hit(e);
          onChoose(id === undefined ? [] : e.shiftKey ? [...chosen, id] : [id]);
        }}
      >
        <div
          className="sheet-paper"
          style={{
            width: drawing.width,
            height: drawing.height,
            transform: `scale(${scale})`,
            ...background,
          }}
        >
          <div className="item-faded">
            <DrawingPaint drawing={drawing} measurer={measurer} />
          </div>
          <svg className="marks" width={drawing.width} height={drawing.height} aria-hidden="true">
            <ColumnBands drawing={drawing} grid={grid} />
            {safeArea && (
              <>
                <rect className="item-safe" x={0} y={0} width={drawing.width} height={safeArea.top} />
                <rect
                  className="item-safe"
                  x={0}
                  y={drawing.height - safeArea.bottom}
                  width={drawing.width}
                  height={safeArea.bottom}
                />
              </>
            )}
            {[margin, drawing.width - margin].map((x) => (
              <line
                key={x}
                className="item-margin"
                x1={x}
                x2={x}
                y1={0}
                y2={drawing.height}
                strokeWidth={line}
                strokeDasharray={`${6 * line} ${4 * line}`}
              />
            ))}
            {drawing.items.map((item) => (
              <ItemMark key={item.id} item={item} line={line} chosen={set.has(item.id)} />
            ))}
            {places.map((p, i) => (
              <rect
                key={i}
                className="item-gone"
                x={p.x}
                y={p.y}
                width={p.width}
                height={p.height}
                strokeWidth={1.5 * line}
                strokeDasharray={`${4 * line} ${3 * line}`}
              />
            ))}
          </svg>
        </div>
      </div>
    </div>
  );
}
