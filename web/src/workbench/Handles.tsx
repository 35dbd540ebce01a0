import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { intoCell, standingColumns } from '@tinfold/core/edit';
import type { Reflow } from '@tinfold/core/layout';
import type { Part, Step } from '@tinfold/core/model';
import { GRIP, handlesOf, type Handle } from './drags';
import { hatches } from './Overlay';
import { copiesOf } from './rows';
import { settingOf } from './said';
import type { WorkbenchStore } from './store';

interface Drag {
  readonly handle: Handle;
  readonly px: number;
  /** What changes, in words. */
  readonly what: string;
  /** What was typed in place of dragging on. */
  readonly typed: string;
}

interface HandlesProps {
  readonly use: WorkbenchStore;
  readonly part: Part;
  /** The container that it stands in; none for the frame itself. */
  readonly parent: Part | undefined;
  readonly reflow: Reflow;
  readonly scale: number;
}

/**
 * What of the part in hand is dragged on the sheet: gaps, paddings, edges, limits, pins. The sheet shows each number at once; letting go
 * or Enter takes it as one edit, Escape leaves it.
 */
export function Handles({ use, part, parent, reflow, scale }: HandlesProps) {
  const [drag, setDrag] = useState<Drag>();
  const stop = useRef<() => void>(undefined);
  useEffect(() => () => stop.current?.(), []);
  const box = reflow.parts.get(part.id);
  if (!box) return null;
  const outer = reflow.parts.get(parent?.id ?? '');
  const columns = parent && outer ? standingColumns(parent, outer) : undefined;
  const handles = handlesOf(part, !parent, box, hatches(part, reflow), GRIP / scale, columns);

  const press = (handle: Handle) => (event: PointerEvent) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.preventDefault();
    const { edit, setPreview, refuse } = use.getState();
    const start = handle.axis === 'x' ? event.clientX : event.clientY;
    let keys = { shift: event.shiftKey, alt: event.altKey };
    let px = handle.from;
    let typed = '';
    const now = () => (typed === '' ? px : Number(typed));
    const said = (): { step: Step; what: string } => {
      const { part: id, set, what } = handle.say(now(), keys);
      const state = use.getState();
      const ids = copiesOf(state.doc.root, id);
      // A part that takes several columns takes as many as there are where there are fewer.
      const step: Step =
        set.cell && state.holds === undefined
          ? { kind: 'several', steps: intoCell(state.doc, ids, set.cell) }
          : settingOf(state, id, ids, set);
      return { step, what };
    };
    const show = () => {
      const { what, step } = said();
      setDrag({ handle, px: now(), what, typed });
      setPreview(now() === handle.from ? undefined : step);
    };
    const move = (e: globalThis.PointerEvent) => {
      const by = ((handle.axis === 'x' ? e.clientX : e.clientY) - start) / scale;
      px = Math.max(0, Math.round(handle.from + by * handle.sign));
      if (by === 0) px = handle.from;
      keys = { shift: e.shiftKey, alt: e.altKey };
      show();
    };
    const end = () => {
      document.removeEventListener('pointermove', move);
      document.removeEventListener('pointerup', up);
      document.removeEventListener('keydown', key, true);
      setDrag(undefined);
      setPreview(undefined);
      stop.current = undefined;
    };
    const up = () => {
      const change = now() === handle.from ? undefined : said();
      end();
      if (change)
        edit(`${change.what[0]?.toUpperCase() ?? ''}${change.what.slice(1)}: ${now()}`, change.step);
    };
    const key = (e: KeyboardEvent) => {
      if (e.key === 'Escape') end();
      else if (e.key === 'Enter') up();
      else if (/^[\d.]$/.test(e.key)) typed += e.key;
      else if (e.key === 'Backspace') typed = typed.slice(0, -1);
      else return;
      e.preventDefault();
      e.stopPropagation();
      if (e.key !== 'Escape' && e.key !== 'Enter') {
        if (Number.isFinite(now())) show();
        else {
          typed = typed.slice(0, -1);
          refuse('A length is a number of px.');
        }
      }
    };
    stop.current = end;
    document.addEventListener('pointermove', move);
    document.addEventListener('pointerup', up);
    document.addEventListener('keydown', key, true);
    show();
  };

  const line = 1 / scale;
  return (
    <svg className="handles" width={reflow.width} height={reflow.height} aria-hidden="true">
      {handles.map((handle) => (
        <rect
          key={handle.id}
          data-handle={handle.id}
          className={`handle handle-${handle.axis}${handle.isLimit ? ' handle-limit' : ''}`}
          x={handle.box.x}
          y={handle.box.y}
          width={handle.box.width}
          height={handle.box.height}
          onPointerDown={press(handle)}
        >
          <title>{handle.label}</title>
        </rect>
      ))}
      {handles.map(({ id, isLimit, axis, box: b }) =>
        isLimit ? (
          <line
            key={id}
            className="limit-line"
            strokeWidth={1.5 * line}
            strokeDasharray={`${2 * line} ${3 * line}`}
            {...(axis === 'x'
              ? { x1: b.x + b.width / 2, x2: b.x + b.width / 2, y1: b.y, y2: b.y + b.height }
              : { x1: b.x, x2: b.x + b.width, y1: b.y + b.height / 2, y2: b.y + b.height / 2 })}
          />
        ) : null,
      )}
      {drag && (
        <g transform={`translate(${drag.handle.box.x} ${drag.handle.box.y - 24 * line})`}>
          <rect className="drag-ground" width={(drag.what.length * 7.3 + 56) * line} height={20 * line} />
          <text className="drag-number" x={7 * line} y={14 * line} fontSize={12 * line}>
            {drag.what} {drag.typed === '' ? drag.px : `${drag.typed}▏`}
          </text>
        </g>
      )}
    </svg>
  );
}
