import { describe, expect, test } from 'vitest';
import { applySteps, FILL, findPart, type Structure } from '@tinfold/core/model';
import { column, named, row, shape, structure, text } from '../../core/test/support/build.js';
import { conflictOf } from '../src/workbench/conflicts';
import type { Difference } from '../src/workbench/differences';
import { changedSince, marksOf } from '../src/workbench/marks';

describe('marks beside names', () => {
  const [a, b] = [shape(10, 10), text('Low Tarn')];
  const none = new Map<string, Difference>();
  const read = structure(column({ gap: 8 }, a, b));
  const after = (doc: Structure, ...steps: Parameters<typeof applySteps>[1]): Structure => {
    const result = applySteps(doc, steps);
    if (!result.ok) throw new Error(result.reason);
    return result.doc;
  };

  test('tell what was set by hand since it was read, and nothing that only moved or was named', () => {
    const now = after(
      read,
      { kind: 'setRules', below: 600, parts: [{ id: read.root.id, set: { gap: 20 } }] },
      { kind: 'rename', id: a.id, name: 'Another' },
      { kind: 'insert', parent: read.root.id, at: 0, part: { ...shape(3, 3), id: 'fresh' } },
    );
    expect([...changedSince(now.root, read)].sort()).toEqual([read.root.id, 'fresh'].sort());
    expect(changedSince(now.root, null).size).toBe(0);
    expect(changedSince(read.root, read).size).toBe(0);
  });

  test('tell what was answered, and which tokens a part takes', () => {
    const now = after(
      read,
      { kind: 'answer', parts: [a.id], topic: 'width' },
      { kind: 'bind', parts: [{ id: a.id, bound: {} }] },
    );
    const part = now.root.children[0];
    expect(
      part && marksOf(now.root, part, { changed: new Set([a.id]), differs: none }).map((m) => m.kind),
    ).toEqual(['changed', 'answered']);
    expect(
      part &&
        marksOf(now.root, { ...part, bound: { gap: 'space' } }, { changed: new Set(), differs: none }).at(-1)
          ?.says,
    ).toBe('Takes the token space');
  });

  test('tell what asks for room where none is left, with both ways out', () => {
    const greedy = named('greedy', text('a', { width: FILL }));
    const line = named('line', row({}, greedy, shape(10, 10)));
    const doc = structure(column({}, line));
    expect(marksOf(doc.root, greedy, { changed: new Set(), differs: none }).map((m) => m.kind)).toEqual([
      'conflict',
    ]);
    const conflict = conflictOf(doc.root, greedy);
    expect(conflict?.waysOut.map((w) => w.label)).toEqual(['“line” fills', '“greedy” fits']);
    for (const { step } of conflict?.waysOut ?? []) {
      const now = after(doc, step);
      const part = findPart(now.root, 'greedy');
      expect(part && conflictOf(now.root, part)).toBeUndefined();
    }
  });

  test('tell nothing where a part is as large as the largest beside it, or has a least to share', () => {
    const across = text('a', { width: FILL });
    expect(conflictOf(column({}, column({}, across)), across)).toBeUndefined();
    const held = text('a', { width: FILL });
    expect(conflictOf(column({}, row({ minWidth: 200 }, held)), held)).toBeUndefined();
  });
});
