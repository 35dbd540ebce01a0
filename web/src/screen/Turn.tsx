import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { clampFrame, MAX_FRAME, MIN_FRAME } from '../workbench/store';

interface TurnProps {
  readonly width: number;
  /** A frame width as a CSS place along the rail. */
  readonly place: (width: number) => string;
  /** The frame width at a place on the screen, px. */
  readonly widthAt: (clientX: number) => number;
  readonly onMove: (to: number) => void;
  readonly onDrop: () => void;
}

/** How far Shift and an arrow move it, px. */
const FAR = 10;

/** The grip of a breakpoint on the rail: dragged or moved by arrows to another width, taken away by Delete. */
export function Turn({ width, place, widthAt, onMove, onDrop }: TurnProps) {
  const [dragged, setDragged] = useState<number>();
  const now = dragged ?? width;
  const press = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    setDragged(width);
  };
  const move = (event: PointerEvent<HTMLElement>) => {
    if (dragged === undefined) return;
    event.stopPropagation();
    setDragged(clampFrame(widthAt(event.clientX)));
  };
  const release = () => {
    if (dragged !== undefined && dragged !== width) onMove(dragged);
    setDragged(undefined);
  };
  const keys = (event: KeyboardEvent) => {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (event.key === 'Delete' || event.key === 'Backspace') onDrop();
    else if (event.key === 'Escape') setDragged(undefined);
    // Held down it is one move, which ends when the key is let go.
    else if (by !== 0) setDragged(clampFrame(now + by * (event.shiftKey ? FAR : 1)));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      className="rail-turn"
      style={{ left: place(now) }}
      role="slider"
      tabIndex={0}
      aria-label="Breakpoint"
      aria-valuemin={MIN_FRAME}
      aria-valuemax={MAX_FRAME}
      aria-valuenow={Math.round(now)}
      aria-valuetext={`below ${now}`}
      title={`What holds below ${now}: drag it to another width; Delete lets what is above hold there too`}
      data-dragged={dragged !== undefined}
      onPointerDown={press}
      onPointerMove={move}
      onPointerUp={release}
      onPointerCancel={() => {
        setDragged(undefined);
      }}
      onKeyDown={keys}
      onKeyUp={(event) => {
        if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') release();
      }}
      onBlur={release}
    >
      {dragged !== undefined && <span className="rail-turn-number">below {now}</span>}
    </div>
  );
}
