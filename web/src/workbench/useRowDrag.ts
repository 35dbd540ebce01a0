import { useEffect, useRef, useState, type PointerEvent } from 'react';
import type { Bench } from '@tinfold/core/edit';
import { findPart, parentOf } from '@tinfold/core/model';
import { putInto } from './commands';
import type { WorkbenchStore } from './store';

/** Where a row would be dropped: before or after another, or into it. */
export interface Drop {
  readonly over: string;
  readonly where: 'before' | 'after' | 'into';
}

/** A press becomes a drag once it has moved so far, px. */
const STARTS = 5;

/** The row under the pointer, and where in it. */
function dropAt(x: number, y: number): Drop | undefined {
  const row = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-row]');
  const id = row?.dataset['row'];
  if (!row || id === undefined) return undefined;
  const { top, height } = row.getBoundingClientRect();
  const share = (y - top) / height;
  const holds = row.dataset['holds'] === 'true';
  if (holds && share > 0.25 && share < 0.75) return { over: id, where: 'into' };
  return { over: id, where: share < 0.5 ? 'before' : 'after' };
}

/** Rows that are dragged by their names, and put where they are let go. */
export function useRowDrag(use: WorkbenchStore, bench: Bench) {
  const [drop, setDrop] = useState<Drop>();
  const end = useRef<() => void>(undefined);
  useEffect(() => () => end.current?.(), []);

  const letGo = (id: string, { over, where }: Drop) => {
    const { doc, refuse } = use.getState();
    const parent = where === 'into' ? findPart(doc.root, over) : parentOf(doc.root, over);
    if (!parent) {
      refuse('The frame has no neighbours: drop the part into it.');
      return;
    }
    const rest = parent.children.filter((c) => c.id !== id);
    const beside = rest.findIndex((c) => c.id === over);
    const at = where === 'into' ? rest.length : beside + (where === 'after' ? 1 : 0);
    putInto(use, bench, id, parent.id, at);
  };

  const press = (id: string) => (event: PointerEvent) => {
    if (event.button !== 0) return;
    const [x, y] = [event.clientX, event.clientY];
    let at: Drop | undefined;
    const move = (e: globalThis.PointerEvent) => {
      if (at === undefined && Math.hypot(e.clientX - x, e.clientY - y) < STARTS) return;
      const next = dropAt(e.clientX, e.clientY);
      at = next?.over === id ? undefined : next;
      setDrop(at);
    };
    const stop = () => {
      document.removeEventListener('pointermove', move);
      document.removeEventListener('pointerup', up);
      document.removeEventListener('keydown', cancel);
      setDrop(undefined);
    };
    const up = () => {
      stop();
      if (at) letGo(id, at);
    };
    const cancel = (e: KeyboardEvent) => {
      if (e.key === 'Escape') stop();
    };
    end.current = stop;
    document.addEventListener('pointermove', move);
    document.addEventListener('pointerup', up);
    document.addEventListener('keydown', cancel);
  };
  return { drop, press };
}
