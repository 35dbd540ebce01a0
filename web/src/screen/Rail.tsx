import { memo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { KINDS, widthsOf, type Fault, type Severity } from '@tinfold/core/proof';
import { useRoom } from '../workbench/room';
import { clampFrame, MAX_FRAME, MIN_FRAME } from '../workbench/store';
import { placeMarks, type Mark } from './markLabels';
import { Turn } from './Turn';

interface RailProps {
  readonly width: number;
  readonly marks: readonly Mark[];
  /** The faults that the band beneath the ruler shows. */
  readonly faults: readonly Fault[];
  /** The next width in a direction at which something turns: a wrap, a drawn width, a fault's edge. */
  readonly nextEvent: (from: number, direction: 1 | -1) => number;
  readonly onChange: (width: number) => void;
  /** The breakpoints, and what moves one or takes it away. */
  readonly turns: readonly number[];
  readonly onTurn: (from: number, to: number | undefined) => void;
}

const NUMBERED = [400, 600, 800, 1000, 1200, 1400, 1600, 1800];
const TICKS = Array.from({ length: (MAX_FRAME - MIN_FRAME) / 40 + 1 }, (_, i) => MIN_FRAME + i * 40);
const shareOf = (width: number): number => (width - MIN_FRAME) / (MAX_FRAME - MIN_FRAME);
const place = (width: number): string => `${shareOf(width) * 100}%`;

/** The ruler, which stays as it is while the caliper moves. */
const RULER = (
  <>
    {TICKS.map((w) => (
      <i key={w} className="rail-tick" style={{ left: place(w) }} />
    ))}
    {NUMBERED.map((w) => (
      <span key={w} className="rail-number" style={{ left: place(w) }}>
        {w}
      </span>
    ))}
  </>
);
/** What the caliper's number takes to its right, px. */
const NUMBER = 58;

/** Runs of widths of one severity, each once. */
function runsOf(faults: readonly Fault[], severity: Severity): { from: number; to: number; title: string }[] {
  const runs: { from: number; to: number; titles: Set<string> }[] = [];
  const all = faults.filter((f) => f.severity === severity).flatMap((f) => f.runs.map((r) => ({ ...r, f })));
  for (const { from, to, f } of all.sort((a, b) => a.from - b.from)) {
    const title = KINDS[f.kind].label;
    const last = runs.at(-1);
    if (last && from <= last.to + 1) {
      last.to = Math.max(last.to, to);
      last.titles.add(title);
    } else runs.push({ from, to, titles: new Set([title]) });
  }
  return runs.map(({ from, to, titles }) => ({ from, to, title: [...titles].join(', ') }));
}

/** Where the frame breaks: errors as high as the band, warnings lower, notes as a line. */
const Band = memo(function Band({ faults }: { readonly faults: readonly Fault[] }) {
  return (
    <div className="rail-band" role="img" aria-label={bandWords(faults)}>
      {(['note', 'warning', 'error'] as const).flatMap((severity) =>
        runsOf(faults, severity).map(({ from, to, title }) => (
          <i
            key={`${severity} ${from}`}
            className={`rail-fault rail-${severity}`}
            title={`${title}, ${widthsOf({ from, to })}`}
            style={{
              left: place(Math.max(MIN_FRAME, from)),
              width: `${(shareOf(Math.min(MAX_FRAME, to + 1)) - shareOf(Math.max(MIN_FRAME, from))) * 100}%`,
            }}
          />
        )),
      )}
    </div>
  );
});

function bandWords(faults: readonly Fault[]): string {
  const runs = runsOf(faults, 'error');
  return runs.length === 0
    ? 'No errors at any width that was proved.'
    : `Errors at ${runs.map((r) => widthsOf(r)).join(', ')}.`;
}

/** The rail: a ruler of frame widths with the caliper on it, and where the screen breaks. */
export function Rail({ width, marks, faults, nextEvent, onChange, turns, onTurn }: RailProps) {
  const [track, room] = useRoom();
  const caliper = useRef<HTMLDivElement>(null);
  const [typed, setTyped] = useState<string>();
  const widthAt = (clientX: number): number => {
    const box = track.current?.getBoundingClientRect();
    return box ? MIN_FRAME + ((clientX - box.left) / box.width) * (MAX_FRAME - MIN_FRAME) : MIN_FRAME;
  };
  const drag = (event: PointerEvent) => {
    if (event.buttons !== 0) onChange(clampFrame(widthAt(event.clientX)));
  };
  const grab = (event: PointerEvent<HTMLDivElement>) => {
    if ((event.target as Element).closest('.caliper-number')) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    caliper.current?.focus();
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
  const xOf = (w: number): number => shareOf(w) * room.width;
  const number = { from: xOf(width) - 4, to: xOf(width) + NUMBER };
  return (
    <section className="rail" aria-label="Frame width">
      <div className="rail-track" ref={track} onPointerDown={grab} onPointerMove={drag}>
        {RULER}
        <Band faults={faults} />
        {placeMarks(marks, xOf, room.width, number).map((m) => (
          <span
            key={m.label}
            className={`rail-mark rail-mark-${m.side} rail-mark-row-${m.row}`}
            title={m.label}
            style={{ left: place(m.width) }}
          >
            {m.words}
          </span>
        ))}
        <div
          className="caliper"
          ref={caliper}
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
        </div>
        <input
          className="caliper-number"
          style={{ left: place(width) }}
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
            if (e.key === 'Enter') e.currentTarget.blur();
            if (e.key === 'Escape') setTyped(undefined);
          }}
        />
        {turns.map((turn) => (
          <Turn
            key={turn}
            width={turn}
            place={place}
            widthAt={widthAt}
            onMove={(to) => {
              onTurn(turn, to);
            }}
            onDrop={() => {
              onTurn(turn, undefined);
            }}
          />
        ))}
      </div>
    </section>
  );
}
