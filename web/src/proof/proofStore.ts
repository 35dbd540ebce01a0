import { proxy, wrap, type Remote } from 'comlink';
import { create, type StoreApi, type UseBoundStore } from 'zustand';
import type { Drawing } from '@tinfold/core/drawing';
import type { Structure } from '@tinfold/core/model';
import {
  formatExpectation,
  leave,
  leftOf,
  runCounts,
  TRIALS,
  USUAL_RANGE,
  type Fault,
  type Held,
  type Left,
  type Mend,
  type PartSeries,
  type Range,
  type Trial,
  type TrialName,
} from '@tinfold/core/proof';
import { api, ApiError, type ProofRun, type ScreenDetail } from '../api/client';
import type { ProofNews, ProofTask, ProofWorker } from './proof.worker';

export type Phase = 'waiting' | 'running' | 'done' | 'stopped';

/** The mends of the fault in hand, as far as they are known. */
export interface MendsOf {
  readonly fault: Fault;
  readonly mends: readonly Mend[];
  readonly searching: boolean;
}

export interface ProofState {
  readonly phase: Phase;
  /** How far the run has come, 0 to 1. */
  readonly done: number;
  readonly ms: number;
  readonly range: Range;
  readonly faults: readonly Fault[];
  readonly drawnSo: readonly Fault[];
  readonly events: readonly number[];
  readonly held: readonly Held[];
  readonly trials: ReadonlyMap<TrialName, Trial>;
  readonly expectations: readonly string[];
  readonly left: readonly Left[];
  readonly runs: readonly ProofRun[];
  readonly mends: MendsOf | undefined;
  /** How many mends were taken so far, while all are. */
  readonly mending: number | undefined;
  /** What went wrong last, or was done, as a sentence. */
  readonly said: string | undefined;
  /** The edit by which an expectation was broken, by its sentence, as far as that was seen. */
  readonly brokenBy: ReadonlyMap<string, string>;
  /** Proves a structure; `edit` names what was done to it last. */
  readonly prove: (structure: Structure, edit?: string) => void;
  readonly stop: () => void;
  /** Lets a proof under way wait for a moment: a hand drags, and the machine is needed for what it sees. */
  readonly makeRoom: () => void;
  readonly setTrial: (name: TrialName, trial: Trial | undefined) => void;
  readonly setExpectations: (sentences: readonly string[]) => void;
  readonly propose: () => Promise<readonly string[]>;
  readonly findMends: (fault: Fault) => void;
  readonly closeMends: () => void;
  readonly mendAll: () => Promise<
    { readonly step: Mend['step']; readonly labels: readonly string[] } | undefined
  >;
  readonly leaveSo: (fault: Fault, reason: string) => void;
  readonly takeUp: (left: Left) => void;
  readonly series: (part: string) => Promise<PartSeries>;
  readonly report: () => Promise<string>;
  /** Keeps the last run with the revision that it was made on. */
  readonly keep: (revision: number) => void;
  readonly close: () => void;
}

export type ProofStore = UseBoundStore<StoreApi<ProofState>>;

/** What is left to be mended: what the designer does not leave so. */
export const openFaults = ({ faults, left }: Pick<ProofState, 'faults' | 'left'>): Fault[] =>
  faults.filter((f) => !leftOf(f, left));

/**
 * What is shown while a proof runs: what it has found, and of what it has not come to the end of, what was known before,
 * so that the list does not shrink and grow again after each edit.
 */
export function sofar({ faults, pending }: ProofNews, before: readonly Fault[]): readonly Fault[] {
  const stale = before.filter((f) => pending.includes(f.trial));
  const known = new Set(stale.map((f) => f.trial));
  return [...faults.filter((f) => !known.has(f.trial)), ...stale];
}

/** What is proved of a screen; without an id, it is looked at through a link, and nothing of the proof is kept. */
export type Proved = Pick<ScreenDetail, 'fonts' | 'expectations' | 'left'> &
  Partial<Pick<ScreenDetail, 'id'>>;

/** How long a proof waits for a hand that drags, and how often it is asked to while that goes on, ms. */
const ROOM = 250;
const ASK_ROOM = 100;

/** The proof of one opened screen: it runs in a worker, again after each edit, and tells what it finds as it goes. */
export function createProof(screen: Proved, drawings: readonly Drawing[]): ProofStore {
  let worker: Worker | undefined;
  let wrapped: Remote<ProofWorker> | undefined;
  /** The worker, which begins when there is something to do. */
  const remoteWorker = async (): Promise<Remote<ProofWorker>> => {
    if (!wrapped) {
      worker = new Worker(new URL('./proof.worker.ts', import.meta.url), { type: 'module' });
      wrapped = wrap<ProofWorker>(worker);
      await wrapped.open(drawings, screen.fonts);
    }
    return wrapped;
  };
  /** When a running proof was last asked to wait, ms. */
  let roomAsked = -Infinity;
  let structure: Structure | undefined;
  let lastEdit: string | undefined;
  let kept: Structure | undefined;
  const store: ProofStore = create<ProofState>()((set, get) => {
    const task = (): ProofTask => {
      if (!structure) throw new Error('There is nothing to prove yet.');
      const { range, trials, expectations } = get();
      return { structure, range, trials: Object.fromEntries(trials), expectations };
    };
    const trouble = (error: unknown) => {
      set({
        phase: 'stopped',
        said: error instanceof Error ? error.message : 'The proof broke off: try again.',
      });
    };
    const write = (what: (id: string) => Promise<unknown>): void => {
      if (screen.id === undefined) return;
      what(screen.id).catch((error: unknown) => {
        // Who may only look at the screen proves it all the same.
        if (!(error instanceof ApiError && error.status === 403)) trouble(error);
      });
    };
    const run = async (): Promise<void> => {
      const own = task();
      const { faults: before } = get();
      set({ phase: 'running', done: 0, mends: undefined });
      const remote = await remoteWorker();
      const result = await remote.prove(
        own,
        proxy((news) => {
          if (own.structure !== structure || get().phase !== 'running') return;
          set({ done: news.done, faults: sofar(news, before) });
        }),
      );
      if (!result || own.structure !== structure) return;
      const { held: heldBefore, brokenBy } = get();
      const held = new Set(heldBefore.filter((h) => h.holds).map((h) => formatExpectation(h.expectation)));
      const broken = result.held
        .filter((h) => !h.holds)
        .map((h) => formatExpectation(h.expectation))
        .flatMap((sentence): [string, string][] => {
          const by = held.has(sentence) ? lastEdit : brokenBy.get(sentence);
          return by === undefined ? [] : [[sentence, by]];
        });
      set({ ...result, phase: 'done', done: 1, brokenBy: new Map(broken) });
    };
    return {
      phase: 'waiting',
      done: 0,
      ms: 0,
      range: USUAL_RANGE,
      faults: [],
      drawnSo: [],
      events: [],
      held: [],
      trials: new Map(),
      expectations: screen.expectations,
      left: screen.left,
      runs: [],
      mends: undefined,
      mending: undefined,
      said: undefined,
      brokenBy: new Map(),
      prove(next, edit) {
        structure = next;
        lastEdit = edit;
        run().catch(trouble);
      },
      stop() {
        void wrapped?.stop();
        set({ phase: 'stopped', mending: undefined });
      },
      makeRoom() {
        const now = performance.now();
        if (get().phase !== 'running' || now < roomAsked + ASK_ROOM) return;
        roomAsked = now;
        void wrapped?.rest(ROOM);
      },
      setTrial(name, trial) {
        const trials = new Map(get().trials);
        if (trial) trials.set(name, trial);
        else trials.delete(name);
        set({ trials });
        if (structure) run().catch(trouble);
      },
      setExpectations(expectations) {
        set({ expectations });
        write((id) => api.writeExpectations(id, expectations));
        if (structure) run().catch(trouble);
      },
      async propose() {
        const { structure: doc, range } = task();
        return (await remoteWorker()).propose(doc, range, get().faults);
      },
      findMends(fault) {
        const own = task();
        set({ mends: { fault, mends: [], searching: true } });
        const isOpen = () => get().mends?.fault === fault;
        const told = proxy((mend: Mend) => {
          const { mends } = get();
          if (mends && isOpen()) set({ mends: { ...mends, mends: [...mends.mends, mend] } });
        });
        remoteWorker()
          .then((remote) => remote.mends(own, fault, get().faults, told))
          .then(() => {
            const { mends } = get();
            if (mends && isOpen()) set({ mends: { ...mends, searching: false } });
          }, trouble);
      },
      closeMends() {
        set({ mends: undefined });
      },
      async mendAll() {
        set({ mending: 0, said: undefined });
        const own = task();
        const result = await (
          await remoteWorker()
        ).mendAll(
          own,
          proxy((taken) => {
            set({ mending: taken });
          }),
        );
        set({ mending: undefined });
        if (!result) return undefined;
        if (result.labels.length === 0)
          set({ said: 'No mend is certain: look at the faults one by one and choose.' });
        return result.labels.length === 0 ? undefined : { step: result.step, labels: result.labels };
      },
      leaveSo(fault, reason) {
        const left = [...get().left, leave(fault, reason)];
        set({ left, mends: undefined });
        write((id) => api.writeLeft(id, left));
      },
      takeUp(one) {
        const left = get().left.filter((l) => l !== one);
        set({ left });
        write((id) => api.writeLeft(id, left));
      },
      series: async (part) => (await remoteWorker()).series(task().structure, get().range, part),
      report: async () => (await remoteWorker()).report(task(), openFaults(get()), get().held),
      keep(revision) {
        if (!structure || kept === structure || get().phase !== 'done') return;
        kept = structure;
        const { faults, range, trials } = get();
        write(async (id) => {
          const done = await api.writeProof(id, {
            revision,
            ...range,
            trials: [...trials.keys()],
            ...runCounts(faults),
          });
          set((s) => ({ runs: [...s.runs, done] }));
        });
      },
      close() {
        worker?.terminate();
        worker = undefined;
        wrapped = undefined;
      },
    };
  });
  if (screen.id !== undefined)
    api.proofs(screen.id).then(
      (runs) => {
        store.setState((s) => ({ runs: [...runs, ...s.runs] }));
      },
      () => undefined,
    );
  return store;
}

/** The usual settings of a trial. */
export const usualTrial = (name: TrialName): Trial => TRIALS[name];
