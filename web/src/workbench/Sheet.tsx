import { useRef, useState, type PointerEvent, type ReactNode } from 'react';
import { paintRules } from '@tinfold/core/handoff';
import type { Part, Rect } from '@tinfold/core/model';
import { useSeen, type Seen } from './useSeen';

/** A pointer that moves less than this has clicked, px on the screen. */
const CLICK = 4;

export interface SheetProps {
  readonly title: string;
  readonly label: string;
  readonly width: number;
  readonly height: number;
  readonly scale: number;
  readonly background: Part['paint'];
  /** What stands in place of the height. */
  readonly tall?: ReactNode;
  /** What is said after the size. */
  readonly said?: { readonly short: string; readonly words: string } | undefined;
  /** How much of the frame is seen at once, px; the rest is scrolled to. */
  readonly window?: number | undefined;
  readonly onScroll?: (from: number) => void;
  /** `more` where the part is to be in hand with those that are, `inner` for the innermost there. */
  readonly onPoint?: (x: number, y: number, how: { readonly more: boolean; readonly inner: boolean }) => void;
  readonly onHover?: (at: { readonly x: number; readonly y: number } | undefined) => void;
  /** A frame was drawn round parts or, with Alt, over cells of the grid in hand. */
  readonly onFrame?: (frame: Rect, overCells: boolean) => void;
  /** What is carried when it is dragged: whether there is such a thing at a point, and where it is. */
  readonly carry?: {
    readonly takes: (x: number, y: number) => boolean;
    readonly over: (at: { readonly x: number; readonly y: number } | undefined) => void;
    readonly drop: () => void;
  };
  /** What is painted, where it is in sight. */
  readonly children: (seen: Seen) => ReactNode;
  /** What is drawn over the sheet, and into the margin around it. */
  readonly marks?: ReactNode;
}

/** A press on the sheet that has not been let go. */
interface Pressed {
  readonly from: Drawn['from'];
  /** Whether what is in hand is carried, and no frame drawn. */
  readonly carries: boolean;
  readonly moved: boolean;
}

interface Drawn {
  readonly from: { readonly x: number; readonly y: number };
  readonly to: { readonly x: number; readonly y: number };
}

const frameOf = ({ from, to }: Drawn): Rect => ({
  x: Math.min(from.x, to.x),
  y: Math.min(from.y, to.y),
  width: Math.abs(from.x - to.x),
  height: Math.abs(from.y - to.y),
});

/** A sheet of paper with a caption: something painted at a scale, pointed at, and marks over it. */
export function Sheet({
  title,
  label,
  width,
  height,
  scale,
  background,
  tall,
  said,
  window: seen,
  onScroll,
  onPoint,
  onHover,
  onFrame,
  carry,
  children,
  marks,
}: SheetProps) {
  const [drawn, setDrawn] = useState<Drawn>();
  const pressed = useRef<Pressed>(undefined);
  const paper = useRef<HTMLDivElement>(null);
  const inSight = useSeen(paper, scale);
  const at = (event: PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: (event.clientX - box.left) / scale, y: (event.clientY - box.top) / scale };
  };
  const press = (event: PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0) return;
    const from = at(event);
    pressed.current = { from, carries: !event.altKey && carry?.takes(from.x, from.y) === true, moved: false };
  };
  const move = (event: PointerEvent<HTMLDivElement>) => {
    const to = at(event);
    const press = pressed.current;
    if (!press || event.buttons === 0) {
      onHover?.(to);
      return;
    }
    const { from, carries } = press;
    if (!press.moved && Math.hypot(to.x - from.x, to.y - from.y) * scale <= CLICK) return;
    pressed.current = { ...press, moved: true };
    event.currentTarget.setPointerCapture(event.pointerId);
    onHover?.(undefined);
    if (carries) carry?.over(to);
    else if (onFrame) setDrawn({ from, to });
  };
  const release = (event: PointerEvent<HTMLDivElement>) => {
    const press = pressed.current;
    pressed.current = undefined;
    setDrawn(undefined);
    if (!press) return;
    if (!press.moved) {
      const more = event.shiftKey || event.ctrlKey || event.metaKey;
      onPoint?.(press.from.x, press.from.y, { more, inner: false });
    } else if (press.carries) carry?.drop();
    else if (drawn) onFrame?.(frameOf(drawn), event.altKey);
  };
  const giveUp = () => {
    pressed.current = undefined;
    setDrawn(undefined);
    carry?.over(undefined);
  };
  const style = Object.fromEntries(
    (background ? paintRules(background) : []).filter(([p]) => p === 'background'),
  );
  const frame = drawn && frameOf(drawn);
  const whole = (
    <div
      className="sheet-frame"
      style={{ width: width * scale, height: height * scale }}
      onPointerDown={press}
      onPointerMove={move}
      onPointerUp={release}
      onPointerCancel={giveUp}
      onPointerLeave={() => onHover?.(undefined)}
      onDoubleClick={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        onPoint?.((event.clientX - box.left) / scale, (event.clientY - box.top) / scale, {
          more: false,
          inner: true,
        });
      }}
    >
      <div
        ref={paper}
        className="sheet-paper"
        style={{ width, height, transform: `scale(${scale})`, ...style }}
      >
        {children(inSight)}
      </div>
      <div className="sheet-marks" style={{ width, height, transform: `scale(${scale})` }}>
        {marks}
        {frame && (
          <svg className="marks" width={width} height={height} aria-hidden="true">
            <rect className="sheet-drawn" {...frame} strokeWidth={1 / scale} />
          </svg>
        )}
      </div>
    </div>
  );
  return (
    <figure className="sheet" aria-label={label}>
      <figcaption>
        <b>{title}</b> {Math.round(width)} × {tall ?? Math.round(height)}
        {said && (
          <span className="sheet-said" title={said.words}>
            {said.short}
          </span>
        )}
      </figcaption>
      {seen === undefined ? (
        whole
      ) : (
        <div
          className="sheet-window"
          style={{ width: width * scale, height: seen * scale }}
          tabIndex={0}
          role="region"
          aria-label={`${label}, scrolled`}
          onScroll={(event) => onScroll?.(event.currentTarget.scrollTop / scale)}
        >
          {whole}
        </div>
      )}
    </figure>
  );
}
