import { create, type StoreApi, type UseBoundStore } from 'zustand';
import { applyStep, applySteps, invertStep, type Step, type Structure } from '@tinfold/core/model';
import type { Moved, Refusal } from '@tinfold/core/edit';
import { api, ApiError, type Conflict } from '../api/client';

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

export type Saving = 'saved' | 'saving' | 'waiting';

/** How the sheets stand: side by side, one alone, laid over each other, or as outlines with names. */
export type SheetMode = 'both' | 'drawn' | 'reflowed' | 'over' | 'outlines';

export interface WorkbenchState {
  readonly doc: Structure;
  readonly revision: number;
  readonly saving: Saving;
  /** Why something could not be done, until the next thing is. */
  readonly refusal: string | undefined;
  readonly frameWidth: number;
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
  readonly holds: number | undefined;
  readonly mode: SheetMode;
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
  readonly setColumn: (column: number) => void;
  readonly setFrameWidth: (width: number) => void;
  readonly setHolds: (below: number | undefined) => void;
  readonly setMode: (mode: SheetMode) => void;
  readonly refuse: (reason: string) => void;
  readonly setPreview: (step: Step | undefined) => void;
}

export type WorkbenchStore = UseBoundStore<StoreApi<WorkbenchState>>;

export const MIN_FRAME = 240;
export const MAX_FRAME = 1920;
const RETRY_MS = 3000;

export const clampFrame = (width: number): number =>
  Math.min(MAX_FRAME, Math.max(MIN_FRAME, Math.round(width)));

interface Pending {
  readonly label: string;
  readonly steps: readonly Step[];
}

/**
 * Sends edits in order, one at a time. What others did meanwhile is taken over first and the own edits are put on
 * top; an edit that no longer applies is told, none is lost in silence. While the server is away edits wait.
 */
class Saver {
  readonly #screenId: string;
  readonly #store: Pick<WorkbenchStore, 'getState' | 'setState'>;
  #base: Structure;
  #queue: Pending[] = [];
  #busy = false;

  constructor(screenId: string, base: Structure, store: Pick<WorkbenchStore, 'getState' | 'setState'>) {
    this.#screenId = screenId;
    this.#base = base;
    this.#store = store;
  }

  add(pending: Pending): void {
    this.#queue.push(pending);
    this.#store.setState({ saving: 'saving' });
    if (!this.#busy) void this.#send();
  }

  async #send(): Promise<void> {
    this.#busy = true;
    for (let next = this.#queue[0]; next; next = this.#queue[0]) {
      try {
        const { revision } = await api.writeSteps(
          this.#screenId,
          this.#store.getState().revision,
          next.label,
          next.steps,
        );
        const result = applySteps(this.#base, next.steps);
        if (result.ok) this.#base = result.doc;
        this.#queue.shift();
        this.#store.setState({ revision, saving: this.#queue.length > 0 ? 'saving' : 'saved' });
      } catch (error) {
        if (error instanceof ApiError && error.status === 409) this.#rebase(error.body as Conflict);
        else if (error instanceof ApiError && error.status >= 400 && error.status < 500)
          this.#drop(error.message);
        else {
          this.#store.setState({ saving: 'waiting' });
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
        }
      }
    }
    this.#busy = false;
  }

  #rebase(conflict: Conflict): void {
    const theirs = applySteps(
      this.#base,
      conflict.steps.flatMap((s) => s.steps),
    );
    if (!theirs.ok) {
      this.#drop('The screen was changed in another window in a way that cannot be joined: reload the page.');
      return;
    }
    this.#base = theirs.doc;
    let doc = theirs.doc;
    const kept: Pending[] = [];
    for (const pending of this.#queue) {
      const result = applySteps(doc, pending.steps);
      if (result.ok) {
        doc = result.doc;
        kept.push(pending);
      } else this.#store.getState().refuse(`“${pending.label}” no longer fits: ${result.reason}`);
    }
    this.#queue = kept;
    this.#store.setState({ doc, revision: conflict.revision, undo: [], redo: [] });
  }

  #drop(reason: string): void {
    this.#queue = [];
    this.#store.setState({ doc: this.#base, saving: 'saved', undo: [], redo: [], refusal: reason });
  }
}

/** The state of one opened screen. Edits go through steps alone. */
export function createWorkbench(screenId: string, doc: Structure, revision: number): WorkbenchStore {
  const store: WorkbenchStore = create<WorkbenchState>()((set, get) => {
    /** Applies a step to what is shown and queues it for the server. */
    const apply = (label: string, step: Step): boolean => {
      const result = applyStep(get().doc, step);
      if (!result.ok) {
        set({ refusal: result.reason });
        return false;
      }
      if (result.doc === get().doc) return true;
      set({ doc: result.doc, refusal: undefined, asked: undefined, told: undefined });
      saver.add({ label, steps: [step] });
      return true;
    };
    return {
      doc,
      revision,
      saving: 'saved',
      refusal: undefined,
      frameWidth: clampFrame(doc.drawn.width),
      selected: undefined,
      also: new Set(),
      palette: false,
      asked: undefined,
      told: undefined,
      column: -1,
      holds: undefined,
      mode: 'both',
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
        if (!entry || !apply(`Undo ${entry.label}`, entry.inverse)) return;
        set((s) => ({ undo: s.undo.slice(0, -1), redo: [...s.redo, entry] }));
      },
      redoEdit() {
        const entry = get().redo.at(-1);
        if (!entry || !apply(`Redo ${entry.label}`, entry.step)) return;
        set((s) => ({ redo: s.redo.slice(0, -1), undo: [...s.undo, entry] }));
      },
      select(id) {
        set({ selected: id, also: new Set(), asked: undefined });
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
        set({ asked, refusal: undefined });
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
        set(({ holds }) => ({
          frameWidth,
          holds: holds !== undefined && frameWidth < holds ? holds : undefined,
        }));
      },
      setHolds(below) {
        set(({ frameWidth }) => ({
          holds: below,
          frameWidth: below === undefined ? frameWidth : Math.min(frameWidth, Math.ceil(below) - 1),
        }));
      },
      setMode(mode) {
        set({ mode });
      },
      refuse(reason) {
        set({ refusal: reason });
      },
      setPreview(step) {
        set({ preview: step });
      },
    };
  });
  const saver = new Saver(screenId, doc, store);
  return store;
}
