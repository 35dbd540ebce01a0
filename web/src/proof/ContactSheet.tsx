import { Segmented } from 'antd';
import { memo, useMemo, useState } from 'react';
import { reflow, type Engine } from '@tinfold/core/layout';
import { standing, type Structure } from '@tinfold/core/model';
import { deviceAt, isAt, sheetWidths, type Fault } from '@tinfold/core/proof';
import type { Family } from '@tinfold/core/text';
import { useScreen } from '../screen/Screen';
import { OwnFamilies, ReflowPaint } from '../workbench/Paint';
import { useRoom } from '../workbench/room';
import { Sign } from './Sign';

/** Phones and tablets on their side, frame px. */
const ON_ITS_SIDE = [
  { width: 568, height: 320 },
  { width: 844, height: 390 },
  { width: 1180, height: 820 },
  { width: 1366, height: 768 },
] as const;
/** Between two pictures, and around all of them, with what captions of narrow ones need besides, px. */
const BETWEEN = 14;
const AROUND = 72;
const SCALES = { least: 0.07, most: 0.2 };
/** No more worst widths of faults are shown. */
const MOST_WORST = 3;

type Pose = 'upright' | 'side';

/** The screen at the widths that matter, side by side at one scale, with its faults marked. */
export function ContactSheet({ faults }: { readonly faults: readonly Fault[] }) {
  const { screen, use, proof, engine, measurer } = useScreen();
  const doc = use((s) => s.doc);
  const now = use((s) => s.frameWidth);
  const range = proof((s) => s.range);
  const { setFrameWidth, select } = use.getState();
  const [pose, setPose] = useState<Pose>('upright');
  const [ref, room] = useRoom();
  const plain = useMemo(() => faults.filter((f) => f.trial === null), [faults]);
  const drawn = useMemo(() => screen.drawings.map((d) => Math.round(d.width)), [screen]);
  const frames = useMemo(() => {
    if (pose === 'side') return ON_ITS_SIDE;
    const worst = plain
      .filter((f) => f.severity === 'error')
      .slice(0, MOST_WORST)
      .map((f) => f.place.width);
    return sheetWidths(drawn, worst, range).map((width) => ({ width, height: undefined }));
  }, [pose, plain, drawn, range]);
  const across = frames.reduce((sum, f) => sum + f.width, 0);
  const free = room.width - AROUND - BETWEEN * (frames.length - 1);
  const scale = Math.min(SCALES.most, Math.max(SCALES.least, free / across));
  return (
    <section className="contact" aria-label="Contact sheet">
      <div className="contact-head">
        <Segmented
          size="small"
          value={pose}
          options={[
            { value: 'upright', label: 'Upright' },
            { value: 'side', label: 'On its side' },
          ]}
          onChange={setPose}
          aria-label="How the devices are held"
        />
      </div>
      <div className="contact-row" ref={ref}>
        {frames.map(({ width, height }) => {
          const here = plain.filter((f) => isAt(f, width));
          return (
            <Frame
              key={width}
              doc={doc}
              engine={engine}
              own={measurer.own}
              width={width}
              height={height}
              room={room.height}
              scale={scale}
              faults={here}
              caption={drawn.includes(width) ? 'drawn' : deviceAt(width)}
              isNow={now === width}
              onTake={() => {
                setFrameWidth(width);
                const [first] = here;
                if (first) select(first.parts[0]);
              }}
            />
          );
        })}
      </div>
    </section>
  );
}

interface FrameProps {
  readonly doc: Structure;
  readonly engine: Engine;
  readonly own: readonly Family[];
  readonly width: number;
  /** The window's height where it is flat; what is below is out of sight. */
  readonly height: number | undefined;
  /** What the strip has for it, px. */
  readonly room: number;
  readonly scale: number;
  readonly faults: readonly Fault[];
  readonly caption: string;
  readonly isNow: boolean;
  readonly onTake: () => void;
}

/** What the caption takes above a picture, px. */
const CAPTION = 40;

const Frame = memo(
  function Frame({
    doc,
    engine,
    own,
    width,
    height,
    room,
    scale,
    faults,
    caption,
    isNow,
    onTake,
  }: FrameProps) {
    const { root, result } = useMemo(() => {
      const stands = standing(doc, { width });
      return { root: stands, result: reflow(stands, width, engine, height ?? doc.drawn.height) };
    }, [doc, width, height, engine]);
    const shown = Math.min(height ?? result.height, Math.max(60, room - CAPTION) / scale);
    const worst = faults.find((f) => f.severity === 'error')
      ? 'error'
      : faults.length > 0
        ? faults[0]?.severity
        : undefined;
    const count = faults.filter((f) => f.severity !== 'note').length;
    const background = root.paint?.fill?.kind === 'solid' ? root.paint.fill.colour : undefined;
    return (
      <button
        type="button"
        className={`contact-frame ${isNow ? 'contact-now' : ''}`}
        onClick={onTake}
        title={`Set the caliper to ${width}`}
      >
        <span className="contact-caption" style={{ maxWidth: Math.max(68, width * scale) }}>
          <b>{width}</b>
          {worst && worst !== 'note' && (
            <em>
              <Sign severity={worst} /> {count}
            </em>
          )}
          <span>{caption}</span>
          <span className="unseen">{count === 0 ? 'no fault' : `${count} faults`}</span>
        </span>
        <span
          className={`contact-paper ${worst && worst !== 'note' ? `contact-${worst}` : ''} ${shown < result.height - 1 && height === undefined ? 'contact-goes-on' : ''}`}
          style={{ width: width * scale, height: shown * scale }}
        >
          <span
            className="contact-live"
            style={{ width, height: shown, transform: `scale(${scale})`, background }}
          >
            <OwnFamilies value={own}>
              <ReflowPaint root={root} reflow={result} />
            </OwnFamilies>
            <FaultMarks faults={faults} width={width} height={shown} scale={scale} boxes={result.parts} />
          </span>
        </span>
      </button>
    );
  },
  (a, b) =>
    a.doc === b.doc &&
    a.engine === b.engine &&
    a.height === b.height &&
    a.room === b.room &&
    a.scale === b.scale &&
    a.isNow === b.isNow &&
    a.caption === b.caption &&
    a.faults.length === b.faults.length &&
    a.faults.every((f, i) => f === b.faults[i]),
);

/** Faults pointed out on a picture: hatched boxes, wider spaced for warnings. */
function FaultMarks({
  faults,
  width,
  height,
  scale,
  boxes,
}: {
  readonly faults: readonly Fault[];
  readonly width: number;
  readonly height: number;
  readonly scale: number;
  readonly boxes: ReadonlyMap<string, { x: number; y: number; width: number; height: number }>;
}) {
  const line = 1 / scale;
  return (
    <svg className="marks" width={width} height={height} aria-hidden="true">
      {faults
        .filter((f) => f.severity !== 'note')
        .flatMap((f) =>
          f.parts.slice(0, 3).flatMap((id) => {
            const box = boxes.get(id);
            return box
              ? [
                  <rect
                    key={`${f.kind} ${f.from} ${id}`}
                    className={`fault-box fault-box-${f.severity}`}
                    x={box.x}
                    y={box.y}
                    width={Math.max(box.width, 4 * line)}
                    height={Math.max(box.height, 4 * line)}
                    strokeWidth={1.6 * line}
                    strokeDasharray={f.severity === 'warning' ? `${4 * line} ${3 * line}` : undefined}
                  />,
                ]
              : [];
          }),
        )}
    </svg>
  );
}
