import { expect, describe, test } from 'vitest';
import { Engine, reflow, scrolled, staying } from '@tinfold/core/layout';
import { FILL, formatRuleLine, pad, parseRuleLine, unsound } from '@tinfold/core/model';
import { column, named, shape, structure } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const engine = new Engine(await testMeasurer());

describe('what stays while the rest scrolls', () => {
  const root = column(
    {},
    named(
      'bar',
      column(
        { height: { kind: 'fixed', px: 60 }, width: FILL, stay: { side: 'top', at: 0 } },
        named('logo', shape(20, 20)),
      ),
    ),
    named(
      'list',
      column(
        { padding: pad(10), width: FILL },
        named('head', shape(40, 30, { stay: { side: 'top', at: 60 } })),
        named('rows', shape(40, 400)),
      ),
    ),
    named('long', shape(40, 600)),
    named('buttons', shape(40, 50, { stay: { side: 'bottom', at: 16 } })),
  );
  const whole = reflow(root, 500, engine);
  const at = (from: number) => {
    const { parts } = scrolled(root, whole, { height: 400, from });
    return Object.fromEntries(
      ['bar', 'logo', 'head', 'rows', 'buttons'].map((id) => [id, (parts.get(id)?.y ?? 0) - from]),
    );
  };

  test('stays in sight at its side, with what is in it', () => {
    // The frame is 60 + 10 + 30 + 400 + 10 + 600 + 50 = 1160 px high.
    expect(at(0)).toEqual({ bar: 0, logo: 0, head: 70, rows: 100, buttons: 400 - 16 - 50 });
    expect(at(200)).toMatchObject({ bar: 0, logo: 0, head: 60, rows: -100, buttons: 334 });
  });

  test('never leaves its container, and keeps its distance also at the end', () => {
    // The list ends at 510: its head goes away with it.
    expect(at(600)).toMatchObject({ bar: 0, head: 510 - 10 - 30 - 600 });
    expect(at(1160 - 400)).toMatchObject({ buttons: 400 - 16 - 50 });
  });

  test('lies over the rest with all that is in it', () => {
    expect([...staying(root)]).toEqual(['bar', 'logo', 'head', 'buttons']);
  });

  test('is typed, and is not pinned besides', () => {
    const parsed = parseRuleLine('stay bottom 16 gap 4');
    expect(parsed).toEqual({ ok: true, value: { stay: { side: 'bottom', at: 16 }, gap: 4 } });
    expect(formatRuleLine({ stay: { side: 'top', at: 0 } })).toContain('stay top');
    expect(parseRuleLine('stay left').ok).toBe(false);
    const both = structure(column({}, shape(1, 1, { stay: { side: 'top', at: 0 }, pin: { top: 0 } })));
    expect(unsound(both)?.reason).toContain('it is pinned and stays');
  });
});
