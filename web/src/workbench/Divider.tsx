import { useState, type KeyboardEvent, type PointerEvent } from 'react';

/** What the parts list is wide where nothing else was chosen, px, and between what it stays. */
const USUAL = 716;
const LEAST = 360;
const SHEETS_NEED = 240;
/** How far a key moves the divider, px. */
const STEP = 20;
const KEPT_AS = 'tinfold.list-width';

const within = (px: number): number =>
  Math.round(Math.min(Math.max(px, LEAST), Math.max(LEAST, window.innerWidth - SHEETS_NEED)));

/** The width of the parts list, kept in this browser from one visit to the next. */
export function useListWidth(): [number, (px: number) => void] {
  const [width, setWidth] = useState(() => within(Number(localStorage.getItem(KEPT_AS) ?? USUAL) || USUAL));
  return [
    width,
    (px) => {
      setWidth(within(px));
      localStorage.setItem(KEPT_AS, String(within(px)));
    },
  ];
}

interface DividerProps {
  readonly width: number;
  readonly onWidth: (px: number) => void;
}

/** Stands between the list and the sheets, and is dragged or moved by arrow keys. */
export function Divider({ width, onWidth }: DividerProps) {
  const press = (event: PointerEvent<HTMLDivElement>) => {
    const start = event.clientX;
    const target = event.currentTarget;
    target.setPointerCapture(event.pointerId);
    const move = (e: globalThis.PointerEvent) => {
      onWidth(width + e.clientX - start);
    };
    target.addEventListener('pointermove', move);
    target.addEventListener(
      'lostpointercapture',
      () => {
        target.removeEventListener('pointermove', move);
      },
      { once: true },
    );
  };
  const keys = (event: KeyboardEvent) => {
    const by = event.key === 'ArrowLeft' ? -STEP : event.key === 'ArrowRight' ? STEP : 0;
    if (by === 0 || event.altKey) return;
    onWidth(width + by);
    event.preventDefault();
  };
  return (
    <div
      className="divider"
      role="separator"
      aria-orientation="vertical"
      aria-label="Width of the parts list"
      aria-valuenow={width}
      aria-valuemin={LEAST}
      aria-valuemax={within(Infinity)}
      tabIndex={0}
      onPointerDown={press}
      onKeyDown={keys}
      onDoubleClick={() => {
        onWidth(USUAL);
      }}
    />
  );
}
