import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { clampFrame, MAX_FRAME, MIN_FRAME } from './store';

interface Mark {
  readonly width: number;
  readonly label: string;
}

interface RailProps {
  readonly width: number;
  readonly marks: readonly Mark[];
  /** The next width in a direction at which something turns: a wrap, a drawn width. */
  readonly nextEvent: (from: number, direction: 1 | -1) => number;
  readonly onChange: (width: number) => void;
}

/** A mark this near to the caliper would be hidden by its number, frame px. */
const HIDES = 100;

/** On which side a mark at this distance from the caliper has its words. */
const markPlace = (distance: number): string =>
  Math.abs(distance) >= HIDES ? '' : distance > 0 ? 'rail-mark-under' : 'rail-mark-before';
const NUMBERED = [400, 600, 800, 1000, 1200, 1400, 1600, 1800];
const TICKS = Array.from({ length: (MAX_FRAME - MIN_FRAME) / 40 + 1 }, (_, i) => MIN_FRAME + i * 40);

const place = (width: number): string => `${((width - MIN_FRAME) / (MAX_FRAME - MIN_FRAME)) * 100}%`;

/** The rail: a ruler of frame widths with the caliper on it. */
export function Rail({ width, marks, nextEvent, onChange }: RailProps) {
  const track = useRef<HTMLDivElement>(null);
  const [typed, setTyped] = useState<string>();
  const drag = (event: PointerEvent) => {
    const box = track.current?.getBoundingClientRect();
    if (!box || event.buttons === 0) return;
    onChange(clampFrame(MIN_FRAME + ((event.clientX - box.left) / box.width) * (MAX_FRAME - MIN_FRAME)));
  };
  const grab = (event: PointerEvent<HTMLDivElement>) => {
    if ((event.target as Element).closest('.caliper-number')) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    drag(event);
  };
  const keys = (event: KeyboardEvent) => {
    const direction = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : undefined;
    if (event.key === 'Home') onChange(MIN_FRAME);
    else if (event.key === 'End') onChange(MAX_FRAME);
    else if (direction === undefined) return;
    else onChange(event.shiftKey ? nextEvent(width, direction) : clampFrame(width + direction));
    event.preventDefault();
  };
  const take = () => {
    const value = Number(typed);
    if (typed !== undefined && typed.trim() !== '' && Number.isFinite(value)) onChange(clampFrame(value));
    setTyped(undefined);
  };
  return (
    <div className="rail">
      <div className="rail-track" ref={track} onPointerDown={grab} onPointerMove={drag}>
        {TICKS.map((w) => (
          <i key={w} className="rail-tick" style={{ left: place(w) }} />
        ))}
        {NUMBERED.map((w) => (
          <span key={w} className="rail-number" style={{ left: place(w) }}>
            {w}
          </span>
        ))}
        <div className="rail-band" />
        {marks.map((m) => (
          <span
            key={m.label}
            className={`rail-mark ${markPlace(m.width - width)}`}
            title={m.label}
            style={{ left: place(m.width) }}
          >
            {m.label}
          </span>
        ))}
        <div
          className="caliper"
          style={{ left: place(width) }}
          role="slider"
          tabIndex={0}
          aria-label="Frame width"
          aria-valuemin={MIN_FRAME}
          aria-valuemax={MAX_FRAME}
          aria-valuenow={width}
          aria-valuetext={`${width} px`}
          onKeyDown={keys}
        >
          <span className="caliper-jaw" />
          <input
            className="caliper-number"
            aria-label="Type a frame width"
            value={typed ?? String(width)}
            inputMode="numeric"
            onFocus={(e) => {
              e.currentTarget.select();
            }}
            onChange={(e) => {
              setTyped(e.currentTarget.value);
            }}
            onBlur={take}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Enter') e.currentTarget.blur();
              if (e.key === 'Escape') setTyped(undefined);
            }}
          />
        </div>
      </div>
    </div>
  );
}
