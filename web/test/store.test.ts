import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { applyStep, fixed, type Step, type Structure } from '@tinfold/core/model';
import { column, shape, structure } from '../../core/test/support/build.js';
import { createWorkbench, type WorkbenchStore } from '../src/workbench/store';

interface Call {
  readonly write: string;
  readonly revision: number;
  readonly label: string;
  readonly steps: readonly Step[];
}

/** From one picture to the next, ms. */
const PICTURE = 16;

/** A server in the page: answers writes as the real one does, and can be made to fail. */
function fakeServer(start: Structure) {
  let doc = start;
  let revision = 0;
  const log: { revision: number; label: string; steps: readonly Step[]; write?: string }[] = [];
  /** Set where the screen was read again: then no steps lead from an older revision. */
  let readAt = 0;
  const failures: (() => Response)[] = [];
  const calls: Call[] = [];
  const take = (label: string, steps: readonly Step[], write?: string): void => {
    for (const step of steps) {
      const result = applyStep(doc, step);
      if (result.ok) doc = result.doc;
    }
    revision++;
    log.push({ revision, label, steps, ...(write !== undefined && { write }) });
  };
  const readAgain = (structure: Structure): void => {
    doc = structure;
    readAt = ++revision;
  };
  const answer = (status: number, body: unknown) => new Response(JSON.stringify(body), { status });
  vi.stubGlobal('fetch', (_: string, init: { body: string }) => {
    const call = JSON.parse(init.body) as Call;
    calls.push(call);
    const failure = failures.shift();
    if (failure) return Promise.resolve().then(failure);
    const done = log.find((l) => l.write === call.write);
    if (done?.revision === call.revision + 1)
      return Promise.resolve(answer(200, { revision: done.revision }));
    if (call.revision !== revision) {
      const steps = log.filter((l) => l.revision > call.revision);
      const read = readAt > call.revision ? { structure: doc } : {};
      return Promise.resolve(answer(409, { detail: 'late', revision, steps, ...read }));
    }
    take(call.label, call.steps, call.write);
    return Promise.resolve(answer(200, { revision }));
  });
  /** Does the next write and loses its answer on the way. */
  const loseAnswer = (): void => {
    failures.push(() => {
      const call = calls.at(-1) as Call;
      take(call.label, call.steps, call.write);
      throw new TypeError('The connection broke.');
    });
  };
  return { take, readAgain, loseAnswer, failures, calls, answer, now: () => ({ doc, revision }) };
}

describe('the workbench store', () => {
  const [a, b] = [shape(10, 10), shape(20, 20)];
  const start = structure(column({ gap: 8 }, a, b));
  const gap = (value: number): Step => ({
    kind: 'setRules',
    parts: [{ id: start.root.id, set: { gap: value } }],
  });
  const width = (id: string, px: number): Step => ({
    kind: 'setRules',
    parts: [{ id, set: { width: fixed(px) } }],
  });
  let server: ReturnType<typeof fakeServer>;
  let store: WorkbenchStore;

  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal('requestAnimationFrame', (draw: () => void) => setTimeout(draw, PICTURE));
    vi.stubGlobal('cancelAnimationFrame', clearTimeout);
    server = fakeServer(start);
    store = createWorkbench('screen', start, 0).use;
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  /** Edits are sent once the picture is there that shows them. */
  const settled = () => vi.advanceTimersByTimeAsync(2 * PICTURE);
  const shownGap = () => store.getState().doc.root.rules.gap;

  test('an edit shows at once and is saved after', async () => {
    expect(store.getState().edit('gap', gap(12))).toBe(true);
    expect([shownGap(), store.getState().saving]).toEqual([12, 'saving']);
    await settled();
    expect(store.getState()).toMatchObject({ saving: 'saved', revision: 1 });
    expect(server.now().doc).toEqual(store.getState().doc);
  });

  test('undo and redo are edits of their own, in order', async () => {
    const { edit, undoEdit, redoEdit } = store.getState();
    edit('gap', gap(12));
    edit('gap', gap(16));
    undoEdit();
    expect(shownGap()).toBe(12);
    undoEdit();
    expect(shownGap()).toBe(8);
    undoEdit();
    redoEdit();
    redoEdit();
    redoEdit();
    expect(shownGap()).toBe(16);
    await settled();
    expect(server.calls.map((c) => [c.revision, c.label])).toEqual([
      [0, 'gap'],
      [1, 'gap'],
      [2, 'Undo gap'],
      [3, 'Undo gap'],
      [4, 'Redo gap'],
      [5, 'Redo gap'],
    ]);
    expect(server.now().doc).toEqual(store.getState().doc);
  });

  test('a new edit ends what could be redone', () => {
    const { edit, undoEdit, redoEdit } = store.getState();
    edit('gap', gap(12));
    undoEdit();
    edit('gap', gap(20));
    redoEdit();
    expect(shownGap()).toBe(20);
  });

  test('an edit that cannot stand is refused and not sent', async () => {
    expect(
      store
        .getState()
        .edit('limits', { kind: 'setRules', parts: [{ id: a.id, set: { minWidth: 9, maxWidth: 3 } }] }),
    ).toBe(false);
    await settled();
    expect(store.getState().refusal).toContain('is over its max 3');
    expect([server.calls.length, store.getState().undo.length]).toEqual([0, 0]);
  });

  test('an edit that changes nothing is neither kept nor sent', async () => {
    store.getState().edit('name', { kind: 'setRules', parts: [] });
    await settled();
    expect([server.calls.length, store.getState().undo.length]).toEqual([0, 0]);
  });

  test('what another window did is taken over, the own edits on top', async () => {
    server.take('other', [width(a.id, 99)]);
    store.getState().edit('gap', gap(12));
    store.getState().edit('width', width(b.id, 55));
    await settled();
    expect(store.getState()).toMatchObject({ saving: 'saved', revision: 3 });
    expect(store.getState().doc).toEqual(server.now().doc);
    const [first, second] = store.getState().doc.root.children;
    expect([shownGap(), first?.rules.width, second?.rules.width]).toEqual([12, fixed(99), fixed(55)]);
  });

  test('an own edit that no longer fits is told, the others stay', async () => {
    server.take('other', [{ kind: 'replace', id: start.root.id, part: { ...start.root, children: [b] } }]);
    store.getState().edit('width', width(a.id, 50));
    store.getState().edit('gap', gap(30));
    await settled();
    expect(store.getState().refusal).toContain('“width” no longer fits');
    expect([shownGap(), store.getState().doc.root.children.length]).toEqual([30, 1]);
    expect(store.getState().doc).toEqual(server.now().doc);
  });

  test('while the server is away edits wait and are then sent, none lost', async () => {
    server.failures.push(
      () => {
        throw new TypeError('no network');
      },
      () => server.answer(503, { detail: 'busy' }),
    );
    store.getState().edit('gap', gap(12));
    store.getState().edit('width', width(b.id, 55));
    await settled();
    expect(store.getState().saving).toBe('waiting');
    await vi.advanceTimersByTimeAsync(10_000);
    expect(store.getState()).toMatchObject({ saving: 'saved', revision: 2 });
    expect(server.now().doc).toEqual(store.getState().doc);
  });

  test('what the server refuses is taken back with its reason, the edits after it stay', async () => {
    server.failures.push(() => server.answer(422, { detail: 'The server says no.' }));
    store.getState().edit('gap', gap(12));
    store.getState().edit('width', width(b.id, 55));
    await settled();
    expect(store.getState()).toMatchObject({
      saving: 'saved',
      refusal: '“gap” is not kept: The server says no.',
    });
    expect([shownGap(), store.getState().doc.root.children[1]?.rules.width]).toEqual([8, fixed(55)]);
    expect(server.now().doc).toEqual(store.getState().doc);
  });

  test('an edit whose answer was lost is not done twice, also where another window wrote since', async () => {
    const copy = { ...shape(30, 30), id: 'copy' };
    server.loseAnswer();
    store.getState().edit('copy', { kind: 'insert', parent: start.root.id, at: 2, part: copy });
    await settled();
    expect(store.getState().saving).toBe('waiting');
    server.take('other', [gap(20)]);
    store.getState().edit('width', width(b.id, 55));
    await vi.advanceTimersByTimeAsync(10_000);
    expect(store.getState()).toMatchObject({ saving: 'saved', revision: 3 });
    expect(store.getState().doc.root.children.map((c) => c.id)).toEqual([a.id, b.id, 'copy']);
    expect(server.now().doc).toEqual(store.getState().doc);
  });

  test('a reading in another window is taken over, the own edits on top of it', async () => {
    server.readAgain({ ...start, root: { ...start.root, rules: { gap: 40 }, children: [b] } });
    store.getState().edit('width', width(b.id, 55));
    store.getState().edit('other width', width(a.id, 44));
    await settled();
    expect(store.getState()).toMatchObject({ saving: 'saved', revision: 2 });
    expect(server.now().doc).toEqual(store.getState().doc);
    expect([shownGap(), store.getState().doc.root.children[0]?.rules.width]).toEqual([40, fixed(55)]);
    expect(store.getState().refusal).toContain('read again or put back in another window');
  });

  test('what can be taken back outlives the edits of another window', async () => {
    store.getState().edit('gap', gap(12));
    await settled();
    server.take('other', [width(a.id, 99)]);
    store.getState().edit('width', width(b.id, 55));
    await settled();
    const { undoEdit } = store.getState();
    undoEdit();
    undoEdit();
    await settled();
    expect([shownGap(), store.getState().doc.root.children[0]?.rules.width]).toEqual([8, fixed(99)]);
    expect(server.now().doc).toEqual(store.getState().doc);
  });

  test('the caliper keeps to the rail', () => {
    const { setFrameWidth } = store.getState();
    setFrameWidth(5);
    expect(store.getState().frameWidth).toBe(240);
    setFrameWidth(812.4);
    expect(store.getState().frameWidth).toBe(812);
    setFrameWidth(1e9);
    expect(store.getState().frameWidth).toBe(1920);
  });
});
