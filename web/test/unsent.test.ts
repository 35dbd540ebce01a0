import 'fake-indexeddb/auto';
import { afterEach, describe, expect, test, vi } from 'vitest';
import type { Step } from '@tinfold/core/model';
import { forget, keep, sendUnsent, unsentOf } from '../src/workbench/unsent';

const gap = (value: number): Step => ({ kind: 'setRules', parts: [{ id: 'root', set: { gap: value } }] });
const write = (n: number) => ({
  write: `00000000-0000-4000-8000-00000000000${n}`,
  label: `gap ${n}`,
  steps: [gap(n)],
});
const answer = (status: number, body: unknown) => new Response(JSON.stringify(body), { status });

describe('edits that the server has not got', () => {
  afterEach(() => {
    vi.unstubAllGlobals();
  });

  test('are kept by screen in their order until they are done', async () => {
    for (const n of [1, 2, 3]) await keep('one', write(n));
    await keep('two', write(4));
    await forget(write(2).write);
    expect((await unsentOf('one')).map((w) => w.label)).toEqual(['gap 1', 'gap 3']);
    for (const n of [1, 3, 4]) await forget(write(n).write);
    expect(await unsentOf('one')).toEqual([]);
  });

  test('are sent when the screen is opened again; one that no longer fits is told', async () => {
    for (const n of [5, 6, 7]) await keep('one', write(n));
    const asked: [number, string][] = [];
    const answers = [
      answer(200, { revision: 4 }),
      answer(409, { detail: 'late', revision: 9, steps: [] }),
      answer(422, { detail: 'That part is gone.' }),
      answer(200, { revision: 10 }),
    ];
    vi.stubGlobal('fetch', (_: string, init: { body: string }) => {
      const { revision, label } = JSON.parse(init.body) as { revision: number; label: string };
      asked.push([revision, label]);
      return Promise.resolve(answers.shift());
    });
    expect(await sendUnsent('one', 3)).toEqual({
      sent: 3,
      refused: ['“gap 6”, kept here from before, no longer fits: That part is gone.'],
    });
    expect(asked).toEqual([
      [3, 'gap 5'],
      [4, 'gap 6'],
      [9, 'gap 6'],
      [9, 'gap 7'],
    ]);
    expect(await unsentOf('one')).toEqual([]);
  });

  test('stay kept while there is no connection', async () => {
    await keep('one', write(8));
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no network')));
    await expect(sendUnsent('one', 3)).rejects.toThrow();
    expect(await unsentOf('one')).toHaveLength(1);
  });
});
