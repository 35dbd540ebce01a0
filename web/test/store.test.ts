import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { applyStep, fixed, type Step, type Structure } from '@tinfold/core/model';
import { column, shape, structure } from '../../core/test/support/build.js';
import { createWorkbench, type WorkbenchStore } from '../src/workbench/store';

interface Call {
  readonly revision: number;
  readonly label: string;
  readonly steps: readonly Step[];
}

/** A server in the page: answers writes as the real one does, and can be made to fail. */
function fakeServer(start: Structure) {
  let doc = start;
  let revision = 0;
  const log: { revision: number; label: string; steps: readonly Step[] }[] = [];
  const failures: (() => Response)[] = [];
  const calls: Call[] = [];
  const take = (label: string, steps: readonly Step[]): void => {
    for (const step of steps) {
      const result = applyStep(doc, step);
      if (result.ok) doc = result.doc;
    }
    revision++;
    log.push({ revision, label, steps });
  };
  const answer = (status: number, body: unknown) => new Response(JSON.stringify(body), { status });
  vi.stubGlobal('fetch', (_: string, init: { body: string }) => {
    const call = JSON.parse(init.body) as Call;
    calls.push(call);
    const failure = failures.shift();
    if (failure) return Promise.resolve().then(failure);
    if (call.revision !== revision)
      return Promise.resolve(
        answer(409, { detail: 'late', revision, steps: log.filter((l) => l.revision > call.revision) }),
      );
    take(call.label, call.steps);
    return Promise.resolve(answer(200, { revision }));
  });
  return { take, failures, calls, answer, now: () => ({ doc, revision }) };
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
    server = fakeServer(start);
    store = createWorkbench('screen', start, 0);
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  const settled = () => vi.advanceTimersByTimeAsync(0);
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

  test('what the server refuses is taken back with its reason', async () => {
    server.failures.push(() => server.answer(422, { detail: 'The server says no.' }));
    store.getState().edit('gap', gap(12));
    await settled();
    expect(store.getState()).toMatchObject({ saving: 'saved', refusal: 'The server says no.', doc: start });
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
