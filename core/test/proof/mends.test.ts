import { readFileSync, readdirSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { facesOf, measureDrawing, readSvg } from '@tinfold/core/drawing';
import { alignDrawings, readSeveral } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import {
  applyStep,
  FILL,
  fixed,
  invertStep,
  pad,
  withOverride,
  type Part,
  type Size,
  type Structure,
} from '@tinfold/core/model';
import {
  countsOf,
  faultsIn,
  mendingAll,
  mendsFor,
  prove,
  type FaultKind,
  type Mend,
  type Mended,
} from '@tinfold/core/proof';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { column, grid, row, structure, style, text } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';
import { art, box, card, frame, named, picture, pinned } from '../support/screens.js';

const DEMO = new URL('../../../demo/', import.meta.url);

const TEN = Array.from({ length: 10 }, () => 'ferry').join(' ');
const NINE = Array.from({ length: 9 }, () => 'ferry').join(' ');
const LONG = Array.from({ length: 40 }, () => 'ferry').join(' ');

const screen = (root: Part, drawn = 1000): Structure => ({
  ...structure(root, drawn),
  tokens: [{ kind: 'length', name: 'fine', value: 14, below: [{ width: 600, value: 9 }] }],
});

async function mendsAgainst(doc: Structure, kind: FaultKind): Promise<Mend[]> {
  const engine = new Engine(await testMeasurer());
  const faults = faultsIn(doc, engine, {});
  const fault = faults.find((f) => f.kind === kind);
  if (!fault) throw new Error(`There is no fault “${kind}”, but ${faults.map((f) => f.kind).join(', ')}.`);
  return [...mendsFor(doc, engine, fault, faults)];
}

/** A way with a screen where it is right and one, with the same kind of fault, where it must not be offered. */
interface Case {
  readonly way: RegExp;
  readonly kind: FaultKind;
  readonly right: () => Part;
  readonly wrong: () => Part;
  readonly drawn?: number;
  readonly doubtful?: boolean;
}

const CASES: readonly Case[] = [
  {
    way: /be narrower than 500/,
    kind: 'side-scroll',
    right: () => frame({}, box(500, 40)),
    // An art that is narrower than drawn is out of its ratio.
    wrong: () => frame({}, { ...art(24, 24, { width: fixed(500), height: fixed(500) }), name: 'Map' }),
  },
  {
    way: /^Drop the min width of/,
    kind: 'side-scroll',
    right: () => frame({}, box(10, 40, { width: FILL, minWidth: 500 })),
    // Its content needs it.
    wrong: () => frame({}, card({ minWidth: 500 }, box(500, 40))),
  },
  {
    way: /^Let “Links” wrap below/,
    kind: 'side-scroll',
    right: () => frame({}, named('Links', row({ gap: 16 }, box(300, 40), box(300, 40)))),
    // One of them is too wide by itself.
    wrong: () => frame({}, named('Links', row({ gap: 16 }, box(700, 40), box(100, 40)))),
  },
  {
    way: /^Break “Halves” where its parts would be under 360/,
    kind: 'sliver',
    right: () =>
      frame(
        {},
        named(
          'Halves',
          row(
            { width: FILL },
            text(TEN, { width: FILL }),
            column({ width: FILL }, text(TEN, { width: FILL })),
          ),
        ),
      ),
    // Beside a picture of its own width there is but one that fills.
    wrong: () =>
      frame({}, named('Halves', row({ width: FILL }, text(TEN, { width: FILL }), picture(200, 100, {})))),
  },
  {
    way: /^One below another under \d+: “Halves”/,
    kind: 'sliver',
    right: () =>
      frame({}, named('Halves', row({ width: FILL }, text(TEN, { width: FILL }), picture(200, 100, {})))),
    // Between paddings as wide as that, it stays squeezed.
    wrong: () =>
      frame(
        {},
        named('Halves', row({ width: FILL, padding: pad(0, 120) }, text(TEN, { width: FILL }), box(10, 10))),
      ),
  },
  {
    way: /^Let the picture shrink first/,
    kind: 'side-scroll',
    right: () => frame({}, row({ width: FILL }, picture(300, 100, {}), box(200, 40))),
    // Words stand there, no picture.
    wrong: () => frame({}, row({ width: FILL }, box(300, 100), box(200, 40))),
  },
  {
    way: /^Half the side paddings below/,
    kind: 'sliver',
    right: () => frame({ padding: pad(0, 100) }, text(TEN, { width: FILL })),
    // There is no padding to speak of.
    wrong: () => frame({}, row({ width: FILL }, text(TEN, { width: FILL }), box(200, 40))),
  },
  {
    way: /^(One column|2 columns) below \d+: “Fares”/,
    kind: 'long-word',
    right: () =>
      frame(
        {},
        named(
          'Fares',
          grid(
            { columns: { kind: 'count', count: 4 }, width: FILL },
            ...[1, 2, 3, 4].map(() => text('Skerrywards', { width: FILL })),
          ),
        ),
      ),
    wrong: () =>
      frame(
        { padding: pad(0, 150) },
        named(
          'Fares',
          grid(
            { columns: { kind: 'count', count: 1 }, width: FILL },
            text('Unbookmarkable', { width: FILL }),
          ),
        ),
      ),
  },
  {
    way: /^Pin .* to the right edge instead/,
    kind: 'overlap',
    doubtful: true,
    right: () =>
      frame(
        {},
        card({ height: fixed(80) }, box(100, 40), pinned(box(60, 40), { left: 0, leftShare: 20, top: 0 })),
      ),
    // It lies over the same thing there.
    wrong: () =>
      frame(
        {},
        card(
          { height: fixed(80) },
          box(10, 40, { width: FILL, maxWidth: 450 }),
          pinned(box(60, 40), { left: 0, leftShare: 60, top: 0 }),
        ),
        box(10, 10),
      ),
    drawn: 800,
  },
  {
    way: /be as high as its content/,
    kind: 'text-over',
    right: () => frame({}, text(TEN, { width: FILL, height: fixed(24) })),
    wrong: () => frame({}, text(TEN, { width: FILL, maxHeight: 24 })),
  },
  {
    way: /^Drop the max height of/,
    kind: 'text-over',
    right: () => frame({}, text(TEN, { width: FILL, maxHeight: 24 })),
    wrong: () => frame({}, text(TEN, { width: FILL, height: fixed(24) })),
  },
  {
    way: /take 2 lines/,
    kind: 'text-cut',
    right: () => frame({}, text(TEN, { width: FILL, maxLines: 1 })),
    // Two lines are not enough.
    wrong: () => frame({ padding: pad(0, 120) }, text(TEN, { width: FILL, maxLines: 1 })),
  },
  {
    way: /take all its lines/,
    kind: 'text-cut',
    right: () => frame({ padding: pad(0, 75) }, text(NINE, { width: FILL, maxLines: 1 })),
    // Below it there is no room for more.
    wrong: () => frame({}, card({ height: fixed(24) }, text(TEN, { width: FILL, maxLines: 1 }))),
  },
  {
    way: /^Do not cut off what is in/,
    kind: 'cut-off',
    right: () => frame({ padding: pad(0, 100, 0, 0) }, column({ width: FILL, clip: true }, box(300, 40))),
    // What is cut off would stick out of the frame.
    wrong: () => frame({}, column({ width: FILL, clip: true }, box(400, 40))),
  },
  {
    way: /^Keep the ratio of/,
    kind: 'distorted',
    right: () => frame({}, art(24, 24, { width: { kind: 'share', percent: 2.4 }, height: fixed(24) })),
    // Nothing tells a ratio that would hold in the drawing.
    wrong: () =>
      frame({}, picture(400, 100, { width: { kind: 'share', percent: 40 }, height: fixed(200) }, 'fill')),
  },
  {
    way: /^No wider than its 400 pixels/,
    kind: 'enlarged',
    right: () => frame({}, picture(400, 200, { width: FILL, height: fixed(100) })),
    // The card around it would show a strip.
    wrong: () => frame({ padding: pad(1) }, card({}, picture(400, 200, { width: FILL, height: fixed(100) }))),
    drawn: 400,
  },
  {
    way: /^Limit .* to \d+/,
    kind: 'long-lines',
    right: () => frame({}, text(LONG, { width: FILL })),
    // So narrow it is not even in the drawing.
    wrong: () => frame({}, text(LONG, { width: FILL }, 16, style(12))),
    drawn: 440,
  },
  {
    way: /^Let all in “Halves” end alike/,
    kind: 'out-of-line',
    right: () =>
      frame(
        {},
        named(
          'Halves',
          row(
            { width: FILL, align: 'start' },
            card({ width: { kind: 'share', percent: 50 } }, text(TEN, { width: FILL })),
            card({}, text('ferry')),
          ),
        ),
      ),
    // Pictures keep their ratios.
    wrong: () => {
      const height: Size = { kind: 'ratio', width: 5, height: 1 };
      const half = picture(10, 10, { width: { kind: 'share', percent: 50 }, height });
      return frame(
        {},
        named(
          'Halves',
          row({ width: FILL, align: 'start' }, half, picture(10, 10, { width: fixed(500), height })),
        ),
      );
    },
  },
  {
    way: /fill the width$/,
    kind: 'out-of-line',
    right: () => frame({ padding: pad(1) }, card({}, box(998, 20))),
    wrong: () =>
      frame(
        { padding: pad(1) },
        card(
          { align: 'start' },
          { ...picture(998, 20, {}), content: { kind: 'art', view: [0, 0, 998, 20], paths: [] } },
        ),
      ),
  },
  {
    way: /^One gap for all/,
    kind: 'uneven-gaps',
    right: () =>
      frame(
        {},
        row(
          { width: FILL, gap: 8 },
          box(20, 40),
          { ...withOverride(box(20, 40), 600, { gapBefore: 30 }) },
          box(20, 40),
        ),
      ),
    // The columns are unlike, not the gaps.
    wrong: () =>
      frame(
        {},
        withOverride(
          grid({ columns: { kind: 'count', count: 3 }, width: FILL }, box(20, 40), box(20, 40), box(20, 40)),
          600,
          { columns: { kind: 'tracks', tracks: [100, 200, 20].map((px) => ({ kind: 'fixed', px })) } },
        ),
      ),
  },
  {
    way: /^2 columns below \d+/,
    kind: 'lonely-card',
    right: () =>
      frame(
        {},
        grid(
          { columns: { kind: 'repeat', min: 250, most: 4 }, width: FILL },
          ...[1, 2, 3, 4].map(() => ({ ...card({}, text('Low Tarn')), pattern: 'Sailing' })),
        ),
      ),
    // Three in two columns leave one alone, too.
    wrong: () =>
      frame(
        {},
        grid(
          { columns: { kind: 'repeat', min: 300, most: 3 }, width: FILL },
          ...[1, 2, 3].map(() => ({ ...card({}, text('Low Tarn')), pattern: 'Sailing' })),
        ),
      ),
  },
  {
    way: /^At least 24 × 24/,
    kind: 'small-target',
    right: () =>
      frame(
        {},
        row(
          { width: FILL },
          card(
            { width: { kind: 'share', percent: 4 }, height: fixed(40) },
            art(24, 24, { width: fixed(10), height: fixed(10) }),
          ),
        ),
      ),
    // It would push the next one out.
    wrong: () =>
      frame(
        {},
        row(
          { width: FILL },
          card(
            { width: { kind: 'share', percent: 4 }, height: fixed(40) },
            art(24, 24, { width: fixed(10), height: fixed(10) }),
          ),
          box(10, 40, { width: { kind: 'share', percent: 96 } }),
        ),
      ),
  },
  {
    way: /^Show .* as well/,
    kind: 'hidden',
    right: () => frame({}, withOverride(box(200, 40), 600, { hidden: true }), box(200, 40), box(200, 40)),
    // There is no room for it.
    wrong: () => frame({}, withOverride(box(700, 40), 600, { hidden: true }), box(200, 40), box(200, 40)),
  },
  {
    way: /^Keep the reading order below 600/,
    kind: 'order',
    right: () =>
      frame({}, withOverride(row({ width: FILL }, box(100, 40), box(100, 40)), 600, { reverse: true })),
    wrong: () =>
      frame({}, withOverride(row({ width: FILL }, box(100, 40), box(100, 40)), 700, { reverse: true })),
  },
  {
    way: /^Keep the size of/,
    kind: 'small-type',
    right: () => frame({}, { ...text('Fares', {}, 20, style(14)), bound: { 'text.size': 'fine' } }),
    // As large as in the drawing it has no room.
    wrong: () =>
      frame({}, { ...text('Unbookmarkable'.repeat(3), {}, 20, style(14)), bound: { 'text.size': 'fine' } }),
  },
];

describe('mends', () => {
  test.each(CASES.map((c) => [`${c.way.source} against ${c.kind}`, c] as const))(
    '%s',
    async (_, { way, kind, right, wrong, drawn, doubtful }) => {
      const offered = await mendsAgainst(screen(right(), drawn), kind);
      const mend = offered.find((m) => way.test(m.label));
      expect(offered.map((m) => m.label)).toContainEqual(expect.stringMatching(way));
      expect(mend?.certain).toBe(doubtful !== true);
      const not = await mendsAgainst(screen(wrong(), drawn), kind);
      expect(not.map((m) => m.label)).not.toContainEqual(expect.stringMatching(way));
    },
  );

  test('each is proved: the fault goes, none comes, the drawing stands, and one step back undoes it', async () => {
    const engine = new Engine(await testMeasurer());
    for (const { kind, right, drawn } of CASES) {
      const doc = screen(right(), drawn);
      for (const mend of await mendsAgainst(doc, kind)) {
        const mended = applyStep(doc, mend.step);
        if (!mended.ok) throw new Error(mended.reason);
        const after = prove(mended.doc, engine).faults;
        expect(countsOf(after)).toEqual(mend.after);
        expect(mend.after.error).toBeLessThanOrEqual(mend.before.error);
        const back = applyStep(mended.doc, invertStep(doc, mend.step));
        expect(back.ok && JSON.stringify(back.doc)).toBe(JSON.stringify(doc));
      }
    }
  });

  test('hiding is offered last and is never certain', async () => {
    const offered = await mendsAgainst(
      screen(frame({}, row({ gap: 16 }, box(300, 40), box(300, 40)))),
      'side-scroll',
    );
    const hide = offered.filter((m) => m.label.startsWith('Hide'));
    expect(hide.every((m) => !m.certain)).toBe(true);
    expect(offered.findIndex((m) => m.label.startsWith('Hide'))).toBe(
      hide.length === 0 ? -1 : offered.length - 1,
    );
  });
});

describe('mend all that are certain', () => {
  // What is left of a table, of a dialog over a page, and of cards with lists takes a designer's eye: no certain mend is known for it yet.
  const demos = readdirSync(DEMO).filter((f) => /^(?:boarding|departures|booking|fleet).*\.svg$/.test(f));
  const sets: [string, string[]][] = [
    ...demos.map((f): [string, string[]] => [f, [f]]),
    ['the board at both widths', ['departures-1280.svg', 'departures-390.svg']],
  ];

  test.each(sets)('leaves no error: %s', async (_, files) => {
    const raws = files.map((f) => readSvg(readFileSync(new URL(f, DEMO), 'utf8'), 'Screen'));
    const m = await loadMeasurer(raws.flatMap((r) => facesOf(r)));
    const drawings = alignDrawings(raws.map((r) => measureDrawing(r, m))).map((a) => a.drawing);
    const doc = readSeveral(drawings, m);
    const engine = new Engine(m);
    const mended = finished(mendingAll(doc, engine, { drawings }));
    expect(mended.after.error).toBe(0);
    const result = applyStep(doc, mended.step);
    expect(result.ok && JSON.stringify(result.doc)).toBe(JSON.stringify(mended.structure));
    expect(countsOf(faultsIn(mended.structure, engine, { drawings }))).toEqual(mended.after);
  });

  const finished = (steps: Generator<unknown, Mended>): Mended => {
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
    }
  };
});
