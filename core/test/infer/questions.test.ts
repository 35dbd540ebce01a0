import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, test } from 'vitest';
import { NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import {
  alignDrawings,
  carryOver,
  decisionsAt,
  placesOf,
  questionsAbout,
  readSeveral,
  readStructure,
  type Question,
} from '@tinfold/core/infer';
import { Engine, itemBoxes, reflow } from '@tinfold/core/layout';
import { applyStep, invertStep, standing, walk, type Step, type Structure } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { pageCases, patternCases } from '../support/benchmark.js';

const DEMO = new URL('../../../demo/', import.meta.url);

async function read(...files: readonly URL[]) {
  const opened = files.map((f) => openDrawing(readFileSync(f, 'utf8'), 'Screen'));
  const m: TextMeasurer = await loadMeasurer(opened.flatMap((o) => o.faces()));
  const drawings = alignDrawings(opened.map((o) => o.measure(m, NO_DECISIONS))).map((a) => a.drawing);
  const structure = readSeveral(drawings, m);
  const widths = drawings.map((d) => d.width);
  return { structure, widths, engine: new Engine(m), m, drawings };
}

const taken = (doc: Structure, step: Step): Structure => {
  const result = applyStep(doc, step);
  if (!result.ok) throw new Error(result.reason);
  return result.doc;
};

const answered = (q: Question, other: boolean): Step => {
  const note: Step = { kind: 'answer', parts: q.alike, topic: q.topic };
  return other ? { kind: 'several', steps: [q.stepForAll, note] } : note;
};

describe('questions about the demo’s board at one width', () => {
  let board: Awaited<ReturnType<typeof read>>;
  let questions: readonly Question[];
  beforeAll(async () => {
    board = await read(new URL('departures-1280.svg', DEMO));
    questions = questionsAbout(board.structure, board.widths, board.engine);
  });
  const boxes = (doc: Structure, width: number) => {
    const root = standing(doc, { width });
    return itemBoxes(root, reflow(root, width, board.engine));
  };

  test('are few, and the weightiest comes first', () => {
    expect(questions.length).toBeGreaterThan(2);
    expect(questions.length).toBeLessThanOrEqual(8);
    const weights = questions.map((q) => q.effect * (1 - q.confidence));
    expect(weights).toEqual(weights.toSorted((a, b) => b - a));
    expect(questions[0]).toMatchObject({ topic: 'turn', other: 'they stay side by side' });
  });

  test('have answers that are equal as drawn and differ where they say', () => {
    for (const q of questions) {
      const other = taken(board.structure, q.stepForAll);
      const far = (width: number) => {
        const [a, b] = [boxes(board.structure, width), boxes(other, width)];
        return Math.max(
          ...[...new Set([...a.keys(), ...b.keys()])].map((id) => {
            const [p, r] = [a.get(id), b.get(id)];
            return p && r
              ? Math.max(
                  Math.abs(p.x - r.x),
                  Math.abs(p.y - r.y),
                  Math.abs(p.width - r.width),
                  Math.abs(p.height - r.height),
                )
              : Infinity;
          }),
        );
      };
      for (const width of board.widths) expect(far(width), q.other).toBeLessThan(2);
      expect(Math.max(...q.widths.map(far)), q.other).toBeGreaterThan(2);
      expect(q.evidence).toMatch(/\d/);
    }
  });

  test('are not asked again once answered, either way, and an answer is taken back whole', () => {
    for (const [i, q] of questions.entries()) {
      const step = answered(q, i % 2 === 0);
      const doc = taken(board.structure, step);
      const again = questionsAbout(doc, board.widths, board.engine);
      expect(again.some((a) => a.part === q.part && a.topic === q.topic)).toBe(false);
      expect(taken(doc, invertStep(board.structure, step))).toEqual(board.structure);
    }
  });

  test('and their answers stay when the drawing is read again', () => {
    const doc = questions.reduce((d, q, i) => taken(d, answered(q, i % 2 === 0)), board.structure);
    const [drawing] = board.drawings;
    if (!drawing) throw new Error('no drawing');
    const fresh = readSeveral([drawing], board.m);
    const carried = carryOver(board.structure, doc, fresh);
    expect(carried.lost).toEqual([]);
    expect(carried.structure).toEqual(doc);
    expect(questionsAbout(carried.structure, board.widths, board.engine).map((q) => q.topic)).toEqual(
      questionsAbout(doc, board.widths, board.engine).map((q) => q.topic),
    );
  });

  test('a drawing of another width answers what is open', async () => {
    const both = await read(new URL('departures-1280.svg', DEMO), new URL('departures-390.svg', DEMO));
    expect(questionsAbout(both.structure, both.widths, both.engine)).toEqual([]);
  });
});

test('alike places are one question, whose answer can go to all of them', async () => {
  const cards = [0, 1, 2]
    .map((i) => {
      const x = 24 + i * 264;
      return `<rect x="${x}" y="24" width="240" height="230" fill="#e3ecea"/><image x="${x}" y="24" width="240" height="150" href="data:image/png;base64,iVBORw0KGgo="/><text x="${x + 16}" y="210">Sailing ${i}</text>`;
    })
    .join('');
  const source = `<svg xmlns="http://www.w3.org/2000/svg" width="816" height="280" font-family="Inter" font-size="16">${cards}</svg>`;
  const opened = openDrawing(source, 'Cards');
  const m = await loadMeasurer(opened.faces());
  const structure = readStructure(opened.measure(m, NO_DECISIONS), m);
  const asked = questionsAbout(structure, [816], new Engine(m)).filter((q) => q.topic === 'height');
  expect(asked.map((q) => q.alike.length)).toEqual([3]);
  const [q] = asked as [Question];
  const heights = (doc: Structure) =>
    [...walk(doc.root)].filter((p) => p.kind === 'picture').map((p) => p.rules.height?.kind);
  const [before] = heights(structure);
  const after = before === 'fixed' ? 'ratio' : 'fixed';
  expect(heights(taken(structure, q.stepForAll))).toEqual([after, after, after]);
  expect(heights(taken(structure, q.step))).toEqual([after, before, before]);
});

test('every rule that the reader inferred carries what speaks for it', async () => {
  const { structure, widths, engine } = await read(new URL('departures-1280.svg', DEMO));
  const explained = [
    'flow',
    'gap',
    'gapBefore',
    'padding',
    'width',
    'height',
    'maxWidth',
    'columns',
    'align',
    'alignSelf',
    'pin',
  ];
  for (const place of placesOf(structure, widths[0] ?? 0, engine)) {
    const decisions = decisionsAt(place);
    for (const rule of Object.keys(place.part.rules).filter((r) => explained.includes(r))) {
      const decision = decisions.find((d) => d.rule === rule);
      expect(decision?.evidence, `${rule} of ${place.part.name}`).toMatch(/^[A-Z0-9].*[.]$/);
      expect(decision?.confidence).toBeGreaterThanOrEqual(0.5);
      expect(decision?.confidence).toBeLessThanOrEqual(1);
    }
  }
});

const cases = [...patternCases, ...pageCases];

describe.runIf(cases.length > 0)('a screen of a hundred parts is worth a dozen questions', () => {
  test.each(cases)('$name', async ({ files: [source] }) => {
    const { structure, widths, engine } = await read(source as URL);
    const parts = [...walk(structure.root)].length;
    const questions = questionsAbout(structure, widths, engine);
    expect(questions.length).toBeLessThanOrEqual(Math.max(3, Math.ceil(parts * 0.12)));
    for (const q of questions) expect(applyStep(structure, q.stepForAll).ok).toBe(true);
  });
});
