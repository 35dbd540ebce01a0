import { Segmented } from 'antd';
import { memo, useMemo, useState } from 'react';
import type { Bench } from '@tinfold/core/edit';
import type { Drawing } from '@tinfold/core/drawing';
import { scrolled, type Reflow } from '@tinfold/core/layout';
import { contains, findPart, modesOf, parentOf, walk, type Part } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';
import { MovingPaint } from '../moving/MovingPaint';
import { useRested } from '../moving/useRested';
import { landingAt, type Landing } from './carry';
import { putInto } from './commands';
import type { Difference } from './differences';
import { distancesOf, inShort, inWords } from './distances';
import { FrameHeight } from './FrameHeight';
import { Handles } from './Handles';
import { SelectionMarks } from './Overlay';
import { DrawingPaint, OwnFamilies, ReflowPaint } from './Paint';
import { mergeUnder } from './merging';
import { nextInHand, partAt, partsIn } from './pointing';
import { useRoom } from './room';
import { Sheet } from './Sheet';
import {
  AlsoMark,
  DifferenceMarks,
  DistanceMarks,
  drawnCuts,
  FoldLines,
  ItemMarks,
  LandingMark,
  Outlines,
} from './SheetMarks';
import type { SheetMode, WorkbenchStore } from './store';
import { useZoom } from './useZoom';

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
/** Type smaller than this on the screen cannot be read, px. */
const READABLE = 5;
/** What changes no more for so long is painted as boxes of the page, ms. */
const REST = 150;
/** What captions and margins take from two sheets below each other, px. */
const CAPTIONS = 108;

interface SheetsProps {
  readonly use: WorkbenchStore;
  readonly bench: Bench;
  readonly root: Part;
  readonly reflow: Reflow;
  /** What the drawing lies on, in its own colours. */
  readonly paper: Part['paint'];
  readonly drawing: Drawing | undefined;
  /** What stands elsewhere than drawn. */
  readonly differences: readonly Difference[];
  readonly measurer: TextMeasurer;
  readonly selected: string | undefined;
  /** Parts in hand besides the selected one. */
  readonly also: ReadonlySet<string>;
  readonly mode: SheetMode;
  /** `more` where the part is to be in hand with those that are. */
  readonly onSelect: (id: string, more: boolean) => void;
  readonly onMode: (mode: SheetMode) => void;
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
  bench,
  root,
  reflow: whole,
  paper,
  drawing,
  differences,
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
  const widest = Math.max(drawnWidth, whole.width);
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
  const take = (innermost: string, { more, inner }: { more: boolean; inner: boolean }) => {
    onSelect(inner || more ? innermost : nextInHand(root, innermost, selected), more);
  };
  const selectItem = (x: number, y: number, how: { more: boolean; inner: boolean }) => {
    const hit = drawing?.items.findLast((i) => contains(i.box, { x, y, width: 0, height: 0 }, 0));
    const owner = hit && [...walk(root)].find((p) => p.source.includes(hit.id));
    take(owner?.id ?? root.id, how);
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
      {(seen) => <DrawingPaint drawing={drawing} measurer={measurer} seen={seen} least={READABLE / scale} />}
    </Sheet>
  );
  const tall = use((s) => s.frameHeight);
  const [from, setFrom] = useState(0);
  const reflow = useMemo(
    () => (tall === undefined ? whole : scrolled(root, whole, { height: tall, from })),
    [root, whole, tall, from],
  );
  const shown = useMemo(() => ({ root, reflow }), [root, reflow]);
  const rested = useRested(shown, REST);
  const [landing, setLanding] = useState<Landing>();
  const [pointed, setPointed] = useState<string>();
  const distances = useMemo(
    () => (pointed === undefined ? [] : distancesOf(root, reflow, pointed, selected)),
    [root, reflow, pointed, selected],
  );
  const reflowed = (
    <Sheet
      title="Reflowed"
      label={`The structure at ${reflow.width}`}
      width={reflow.width}
      height={reflow.height}
      scale={scale}
      background={root.paint}
      tall={<FrameHeight use={use} whole={reflow.height} />}
      said={distances.length > 0 ? { short: inShort(distances), words: inWords(distances) } : undefined}
      window={tall}
      onScroll={setFrom}
      onPoint={(x, y, how) => {
        take(partAt(root, reflow, x, y) ?? root.id, how);
      }}
      onHover={(at) => {
        setPointed(at && partAt(root, reflow, at.x, at.y));
      }}
      carry={{
        takes: (x, y) => {
          const box = selected === undefined || selected === root.id ? undefined : reflow.parts.get(selected);
          return box !== undefined && contains(box, { x, y, width: 0, height: 0 }, 0);
        },
        over: (at) => {
          setLanding(
            at && selected !== undefined ? landingAt(root, reflow, selected, at.x, at.y) : undefined,
          );
        },
        drop: () => {
          if (landing && selected !== undefined) putInto(use, bench, selected, landing.parent, landing.at);
          setLanding(undefined);
        },
      }}
      onFrame={(frame, overCells) => {
        if (overCells) {
          mergeUnder(use, bench, root, reflow, frame);
          return;
        }
        const parts = partsIn(root, reflow, frame);
        if (parts.length > 0) use.getState().selectAll(parts);
      }}
      marks={
        <>
          {pointed !== undefined && (
            <DistanceMarks
              distances={distances}
              pointed={reflow.parts.get(pointed)}
              reflow={reflow}
              scale={scale}
            />
          )}
          {landing && <LandingMark landing={landing} reflow={reflow} scale={scale} />}
          {mode === 'over' && drawing && drawing.width === whole.width && (
            <DifferenceMarks
              differences={differences.filter((d) => d.width === drawing.width)}
              items={items}
              reflow={reflow}
              scale={scale}
            />
          )}
          {mode === 'outlines' && <Outlines root={root} reflow={reflow} scale={scale} />}
          {[...also].map((id) => (
            <AlsoMark key={id} box={reflow.parts.get(id)} reflow={reflow} scale={scale} />
          ))}
          {part && <SelectionMarks part={part} reflow={reflow} scale={scale} />}
          {part && also.size === 0 && (
            <Handles use={use} part={part} parent={parentOf(root, part.id)} reflow={reflow} scale={scale} />
          )}
        </>
      }
    >
      {(seen) => (
        <>
          <div
            className={mode === 'outlines' ? 'sheet-live sheet-outlined' : 'sheet-live'}
            aria-busy={rested !== shown}
          >
            <OwnFamilies value={measurer.own}>
              <ReflowPaint {...rested} seen={seen} least={READABLE / scale} />
            </OwnFamilies>
            <MovingPaint
              {...shown}
              seen={seen}
              least={READABLE / scale}
              scale={scale}
              measurer={measurer}
              moves={rested !== shown && mode !== 'outlines'}
            />
          </div>
          {mode === 'over' && drawing && (
            <div className="sheet-over" style={{ opacity: mix / 100 }}>
              <DrawingPaint drawing={drawing} measurer={measurer} seen={seen} least={READABLE / scale} />
            </div>
          )}
        </>
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
