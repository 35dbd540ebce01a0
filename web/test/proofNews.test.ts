import { describe, expect, test } from 'vitest';
import type { Fault } from '@tinfold/core/proof';
import { sofar } from '../src/proof/proofStore';

const fault = (trial: string | null, from: number): Fault => ({
  kind: 'overlap',
  severity: 'error',
  parts: ['a', 'b'],
  count: 1,
  from,
  to: from + 10,
  runs: [{ from, to: from + 10 }],
  trial,
  by: 4,
  answerable: 'a',
  place: { width: from, box: null },
});

describe('what is shown while a proof runs', () => {
  test('at first, all that was found', () => {
    const faults = [fault(null, 320)];
    expect(sofar({ done: 0.1, pending: [null, 'long-word'], faults }, [])).toEqual(faults);
  });

  test('after an edit, what was known of that which is still looked at stays', () => {
    const before = [fault(null, 320), fault('long-word', 400), fault('insets', 500)];
    const faults = [fault(null, 340)];
    // Half of the widths as they are: the new fault is not yet all of it.
    expect(sofar({ done: 0.2, pending: [null, 'long-word', 'insets'], faults }, before)).toEqual(before);
    expect(sofar({ done: 0.5, pending: ['long-word', 'insets'], faults }, before)).toEqual([
      ...faults,
      before[1],
      before[2],
    ]);
  });

  test('a trial that was switched off is not shown any more', () => {
    const before = [fault(null, 320), fault('insets', 500)];
    expect(sofar({ done: 0.2, pending: [null], faults: [] }, before)).toEqual([before[0]]);
  });

  test('a trial that was switched on shows what it finds at once', () => {
    const before = [fault(null, 320)];
    const found = [fault(null, 320), fault('insets', 500)];
    expect(sofar({ done: 0.9, pending: ['insets'], faults: found }, before)).toEqual(found);
  });
});
