import { beforeAll, describe, expect, test } from 'vitest';
import { Engine, reflow } from '@tinfold/core/layout';
import { applyStep, FILL, fixed, pad, type Rect, type Step, type Structure } from '@tinfold/core/model';
import { GRAVE_CHECKS, prove, type Fault } from '@tinfold/core/proof';
import { inAllCopies } from '../../src/infer/copies.js';
import { heldOtherwise } from '../../src/infer/widths/heldOtherwise.js';
import { otherSizes } from '../../src/infer/widths/otherSizes.js';
import { column, named, row, shape, structure, text } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const DRAWN = 1000;
const NARROW = 320;

describe('what the judge may say against a fault', () => {
  let engine: Engine;
  beforeAll(async () => {
    engine = new Engine(await testMeasurer());
  });

  const partsAt = (of: Structure, width: number) => reflow(of.root, width, engine).parts;
  const gravest = (of: Structure): readonly Fault[] =>
    prove(of, engine, { drawings: [], checks: GRAVE_CHECKS, only: [NARROW] }).faults;

  /** What is offered against a fault. */
  const offered = (of: Structure, fault: Fault): Step[] => {
    const drawn = partsAt(of, DRAWN);
    const boxOf = (id: string): Rect | undefined => drawn.get(id);
    return [...otherSizes(of, fault, boxOf), ...heldOtherwise(of, fault, boxOf)];
  };

  /** The structure after the first offer that leaves all leaves where they were drawn and the gravest fault nowhere on a phone. */
  function mended(of: Structure): Structure | undefined {
    const [fault] = gravest(of);
    if (!fault) throw new Error('The structure has no fault to begin with.');
    const drawn = [...partsAt(of, DRAWN)].filter(([id]) => id.startsWith('leaf'));
    for (const step of offered(of, fault)) {
      const next = applyStep(of, step);
      if (!next.ok || gravest(next.doc).some((f) => f.kind === fault.kind)) continue;
      const now = partsAt(next.doc, DRAWN);
      if (drawn.every(([id, box]) => JSON.stringify(now.get(id)) === JSON.stringify(box))) return next.doc;
    }
    return undefined;
  }

  test('lines that hang at one side and span their containers keep their distances to both', () => {
    const entry = (n: number) => ({
      ...named(
        `entry ${n}`,
        column(
          { width: FILL, padding: pad(12, 28, 12, 0) },
          text('Pier 2 to Marrow Isle'),
          named(`leaf line ${n}`, shape(972, 1, { pin: { left: 0, bottom: 0 } })),
        ),
      ),
      pattern: 'entry',
    });
    const next = mended(structure(column({ width: FILL }, entry(1), entry(2)), DRAWN));
    for (const n of [1, 2])
      expect(next && partsAt(next, NARROW).get(`leaf line ${n}`)?.width).toBe(NARROW - 28);
  });

  test('what a limit keeps from one side is inset by a padding', () => {
    const banner = named('banner', column({ width: FILL, height: fixed(100) }));
    const badge = named('leaf badge', shape(120, 120, { pin: { left: 16, bottom: -60 } }));
    const name = column(
      { width: FILL, maxWidth: 840 },
      named('leaf name', text('Kittiwake Line', { width: FILL })),
    );
    const over = { ...banner, children: [badge] };
    const of = structure(column({ width: FILL, align: 'end', padding: pad(0) }, over, name), DRAWN);
    const fault = gravest(of).find((f) => f.kind === 'overlap') as Fault;
    const places = offered(of, fault)
      .map((s) => applyStep(of, s))
      .flatMap((r) => (r.ok ? [[DRAWN, NARROW].map((w) => partsAt(r.doc, w).get('leaf name'))] : []));
    expect(places).toContainEqual([
      { x: 160, y: 100, width: 840, height: 24 },
      { x: 160, y: 100, width: 160, height: 24 },
    ]);
  });

  test('a wide gap beside something that fills is room, and that is as wide as drawn', () => {
    const bar = row(
      { width: FILL, gap: 500 },
      named('leaf word', shape(60, 20)),
      named('leaf track', column({ width: FILL, height: fixed(20) })),
    );
    const drawn = structure(
      column({ width: FILL }, { ...bar, rules: { ...bar.rules, padding: pad(0, 200, 0, 0) } }),
      DRAWN,
    );
    expect(partsAt(drawn, DRAWN).get('leaf track')?.width).toBe(240);
    const fault = { ...(gravest(drawn)[0] as Fault), answerable: bar.id };
    const next = offered(drawn, fault)
      .filter((s) => /between.*fixed/.test(JSON.stringify(s)))
      .map((s) => applyStep(drawn, s))
      .find((r) => r.ok);
    const boxes = next?.ok ? partsAt(next.doc, 620) : undefined;
    expect(boxes?.get('leaf track')).toMatchObject({ x: 620 - 200 - 240, width: 240 });
  });

  test('a picture that gives way keeps its ratio', () => {
    const map = {
      ...named('leaf map', column({ width: fixed(600), height: fixed(300) })),
      content: { kind: 'picture', href: 'map.png', fit: 'fill' } as const,
    };
    const of = structure(column({ width: FILL }, map), DRAWN);
    const boxes = offered(of, gravest(of)[0] as Fault)
      .map((s) => applyStep(of, s))
      .flatMap((r) => (r.ok ? [partsAt(r.doc, NARROW).get('leaf map')] : []));
    expect(boxes).toContainEqual({ x: 0, y: 0, width: 320, height: 160 });
  });

  test('what is said of one copy of a pattern is said of all, at the same place in each', () => {
    const card = (n: number) => ({
      ...named(
        `card ${n}`,
        column({}, named(`title ${n}`, text('Sailing')), named(`price ${n}`, text('12'))),
      ),
      pattern: 'card',
    });
    const of = structure(column({}, card(1), card(2), named('alone', text('Fares'))), DRAWN);
    const step: Step = { kind: 'setRules', below: 600, parts: [{ id: 'price 1', set: { width: FILL } }] };
    expect(inAllCopies(of)(step)).toEqual({
      ...step,
      parts: ['price 1', 'price 2'].map((id) => ({ id, set: { width: FILL } })),
    });
    expect(inAllCopies(of)({ kind: 'several', steps: [step] })).toMatchObject({
      steps: [{ parts: [{ id: 'price 1' }, { id: 'price 2' }] }],
    });
    expect(
      inAllCopies(of)({ kind: 'setRules', parts: [{ id: 'alone', set: { width: FILL } }] }),
    ).toBeUndefined();
    expect(inAllCopies(of)({ kind: 'rename', id: 'card 1', name: 'Card' })).toBeUndefined();
  });
});
