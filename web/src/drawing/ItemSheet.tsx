import { useState } from 'react';
import type { Drawing, Item } from '@tinfold/core/drawing';
import { paintRules } from '@tinfold/core/handoff';
import { contains } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { DrawingPaint } from '../workbench/Paint';
import { useRoom } from '../workbench/room';

interface ItemSheetProps {
  readonly drawing: Drawing;
  readonly measurer: ShapedMeasurer;
  readonly margin: number;
  readonly chosen: readonly string[];
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
  if (item.kind === 'text' && !chosen)
    return (
      <g className={className} strokeWidth={line}>
        {item.lines.map((l, i) => (
          <line key={i} x1={l.x} x2={l.x + l.width} y1={l.baseline + 2 * line} y2={l.baseline + 2 * line} />
        ))}
      </g>
    );
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

/** The drawing with its items marked by kind; pointing at one chooses it. */
export function ItemSheet({ drawing, measurer, margin, chosen, onChoose }: ItemSheetProps) {
  const [ref, room] = useRoom();
  const [over, setOver] = useState<string>();
  const scale = Math.min(1, Math.max(0.1, (room.width - 2) / drawing.width));
  const line = 1 / scale;
  const set = new Set(chosen);
  const hit = (event: React.PointerEvent<HTMLElement>): string | undefined => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = {
      x: (event.clientX - box.left) / scale,
      y: (event.clientY - box.top) / scale,
      width: 0,
      height: 0,
    };
    return drawing.items.findLast((i) => contains(i.box, at, 0))?.id;
  };
  const background = Object.fromEntries(paintRules(drawing.background).filter(([p]) => p === 'background'));
  return (
    <div className="item-room" ref={ref}>
      <div
        className="sheet-frame"
        style={{ width: drawing.width * scale, height: drawing.height * scale }}
        title={over}
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
          </svg>
        </div>
      </div>
    </div>
  );
}
