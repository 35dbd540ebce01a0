import { create, type StoreApi, type UseBoundStore } from 'zustand';
import { applyStep, invertStep, type Range, type Step, type Structure } from '@tinfold/core/model';
import type { Moved, Refusal } from '@tinfold/core/edit';
import { Saver } from './saver';

/** One edit as history keeps it. */
interface Entry {
  readonly label: string;
  readonly step: Step;
  readonly inverse: Step;
}

/** What the last operation has done besides what was asked. */
export interface Told {
  readonly label: string;
  readonly moved: readonly Moved[];
  readonly notes: readonly string[];
}

export type Saving = 'saved' | 'saving' | 'waiting' | 'signed out';

/** A value near to one that was refused, and what takes it. */
export interface Offer {
  readonly value: string;
  readonly take: () => void;
}

/** How the sheets stand: side by side, one alone, laid over each other, or as outlines with names. */
export type SheetMode = 'both' | 'drawn' | 'reflowed' | 'over' | 'outlines';

export interface WorkbenchState {
  readonly doc: Structure;
  readonly revision: number;
  readonly saving: Saving;
  /** Why something could not be done, until the next thing is. */
  readonly refusal: string | undefined;
  /** What could be taken in place of what was refused. */
  readonly offer: Offer | undefined;
  readonly frameWidth: number;
  /** How much of the frame is seen at once, px; undefined for all of it. */
  readonly frameHeight: number | undefined;
  readonly selected: string | undefined;
  /** Parts that are in hand besides the selected one. */
  readonly also: ReadonlySet<string>;
  /** Whether all commands are shown. */
  readonly palette: boolean;
  /** What an operation asks before it can be done. */
  readonly asked: Refusal | undefined;
  /** What the last operation has done, until the next edit. */
  readonly told: Told | undefined;
  /** The column of the cell in hand in the parts list; -1 is the name. */
  readonly column: number;
  /** Edits hold in frames narrower than this alone, px; undefined where they hold as the rules do that they change. */
  readonly holds: Range | undefined;
  readonly mode: SheetMode;
  /** The colour mode that the reflowed sheet shows; undefined for the colours' own values. */
  readonly colours: string | undefined;
  /** What the left of the workbench shows. */
  readonly ledger: 'parts' | 'tokens';
  /** A step that the sheets show before it is taken. */
  readonly preview: Step | undefined;
  readonly undo: readonly Entry[];
  readonly redo: readonly Entry[];
  /** Applies an edit at once and saves it; tells whether it was taken. */
  readonly edit: (label: string, step: Step) => boolean;
  readonly undoEdit: () => void;
  readonly redoEdit: () => void;
  readonly select: (id: string | undefined) => void;
  /** Takes a part in hand with those that are, or puts it down. */
  readonly alsoSelect: (id: string) => void;
  readonly setPalette: (open: boolean) => void;
  readonly ask: (asked: Refusal | undefined) => void;
  readonly tell: (told: Told) => void;
  /** Takes back or does again until so many edits are done. */
  readonly goTo: (edits: number) => void;
  /** Takes several parts in hand, the first before the others. */
  readonly selectAll: (ids: readonly string[]) => void;
  readonly setColumn: (column: number) => void;
  readonly setFrameWidth: (width: number) => void;
  readonly setFrameHeight: (height: number | undefined) => void;
  readonly setHolds: (range: Range | undefined) => void;
  readonly setMode: (mode: SheetMode) => void;
  readonly setColours: (mode: string | undefined) => void;
  readonly setLedger: (ledger: 'parts' | 'tokens') => void;
  readonly refuse: (reason: string, offer?: Offer) => void;
  readonly setPreview: (step: Step | undefined) => void;
}

export type WorkbenchStore = UseBoundStore<StoreApi<WorkbenchState>>;

export const MIN_FRAME = 240;
export const MAX_FRAME = 1920;
/** How high a frame may be. */
export const MIN_TALL = 160;
export const MAX_TALL = 4000;

export const clampFrame = (width: number): number =>
  Math.min(MAX_FRAME, Math.max(MIN_FRAME, Math.round(width)));

/** Whether a frame is in a range. */
const isIn = (range: Range | undefined, width: number, height: number): boolean =>
  range === 'wide' ? width > height : range !== undefined && width < range;

/** What another window did may have taken away what an edit was about. */
const noLonger = (label: string, what: string, reason = ''): string =>
  `“${label}” can no longer be ${what}. ${reason}`.trim();

interface Opened {
  readonly use: WorkbenchStore;
  /** Takes over what other windows write, until the function is called that it gives. */
  readonly listen: () => () => void;
}

/** The state of one opened screen. Edits go through steps alone. */
export function createWorkbench(screenId: string, doc: Structure, revision: number): Opened {
  const store: WorkbenchStore = create<WorkbenchState>()((set, get) => {
    /** Applies a step to what is shown and queues it for the server. */
    const apply = (label: string, step: Step): boolean => {
      const result = applyStep(get().doc, step);
      if (!result.ok) {
        set({ refusal: result.reason, offer: undefined });
        return false;
      }
      if (result.doc === get().doc) return true;
      set({ doc: result.doc, refusal: undefined, offer: undefined, asked: undefined, told: undefined });
      saver.add(label, [step]);
      return true;
    };
    return {
      doc,
      revision,
      saving: 'saved',
      refusal: undefined,
      offer: undefined,
      frameWidth: clampFrame(doc.drawn.width),
      frameHeight: undefined,
      selected: undefined,
      also: new Set(),
      palette: false,
      asked: undefined,
      told: undefined,
      column: -1,
      holds: undefined,
      mode: 'both',
      colours: undefined,
      ledger: 'parts',
      preview: undefined,
      undo: [],
      redo: [],
      edit(label, step) {
        const before = get().doc;
        if (!apply(label, step)) return false;
        if (get().doc !== before)
          set((s) => ({ undo: [...s.undo, { label, step, inverse: invertStep(before, step) }], redo: [] }));
        return true;
      },
      undoEdit() {
        const entry = get().undo.at(-1);
        if (!entry) return;
        const taken = apply(`Undo ${entry.label}`, entry.inverse);
        set((s) => ({ undo: s.undo.slice(0, -1), ...(taken && { redo: [...s.redo, entry] }) }));
        if (!taken) get().refuse(noLonger(entry.label, 'taken back', get().refusal));
      },
      redoEdit() {
        const entry = get().redo.at(-1);
        if (!entry) return;
        const taken = apply(`Redo ${entry.label}`, entry.step);
        set((s) => ({ redo: s.redo.slice(0, -1), ...(taken && { undo: [...s.undo, entry] }) }));
        if (!taken) get().refuse(noLonger(entry.label, 'done again', get().refusal));
      },
      select(id) {
        set({ selected: id, also: new Set(), asked: undefined });
      },
      selectAll([first, ...others]) {
        set({ selected: first, also: new Set(others.filter((id) => id !== first)), asked: undefined });
      },
      alsoSelect(id) {
        const { selected, also } = get();
        if (selected === undefined) set({ selected: id });
        else if (id === selected) {
          const [next, ...rest] = also;
          set({ selected: next ?? selected, also: new Set(rest) });
        } else set({ also: new Set(also.has(id) ? [...also].filter((a) => a !== id) : [...also, id]) });
      },
      setPalette(open) {
        set({ palette: open });
      },
      ask(asked) {
        set({ asked, refusal: undefined, offer: undefined });
      },
      tell(told) {
        set({ told });
      },
      goTo(edits) {
        while (get().undo.length > edits) {
          const before = get().undo.length;
          get().undoEdit();
          if (get().undo.length === before) return;
        }
        while (get().undo.length < edits && get().redo.length > 0) {
          const before = get().undo.length;
          get().redoEdit();
          if (get().undo.length === before) return;
        }
      },
      setColumn(column) {
        set({ column });
      },
      setFrameWidth(width) {
        const frameWidth = clampFrame(width);
        // What is edited is seen: above its breakpoint an edit would not be.
        set(({ holds, frameHeight = Infinity }) => ({
          frameWidth,
          holds: isIn(holds, frameWidth, frameHeight) ? holds : undefined,
        }));
      },
      setFrameHeight(height) {
        set(({ holds, frameWidth }) => ({
          frameHeight: height,
          holds: isIn(holds, frameWidth, height ?? Infinity) ? holds : undefined,
        }));
      },
      setHolds(range) {
        set(({ frameWidth }) => ({
          holds: range,
          frameWidth: typeof range === 'number' ? Math.min(frameWidth, Math.ceil(range) - 1) : frameWidth,
        }));
      },
      setMode(mode) {
        set({ mode });
      },
      setColours(mode) {
        set({ colours: mode });
      },
      setLedger(ledger) {
        set({ ledger });
      },
      refuse(reason, offer) {
        set({ refusal: reason, offer });
      },
      setPreview(step) {
        set({ preview: step });
      },
    };
  });
  const saver = new Saver(screenId, doc, store);
  return { use: store, listen: () => saver.listen() };
}
