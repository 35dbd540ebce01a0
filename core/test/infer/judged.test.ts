import { beforeAll, describe, expect, test } from 'vitest';
import { readSeveral } from '@tinfold/core/infer';
import { Engine, itemBoxes, reflow } from '@tinfold/core/layout';
import { right, standing, type Rect, type Structure } from '@tinfold/core/model';
import { deviations, GRAVE_CHECKS, prove } from '@tinfold/core/proof';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { style } from '../support/build.js';
import { draw, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

const WIDTHS = [320, 360, 414, 480, 560, 640, 720, 800, 900, 1000, 1100, 1200, 1280, 1440, 1920];

describe('what is read is judged at all widths', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  const boxesAt = (structure: Structure, width: number): ReadonlyMap<string, Rect> => {
    const root = standing(structure, { width });
    return itemBoxes(root, reflow(root, width, new Engine(m)));
  };

  const bar = () => {
    let x = 560;
    const links = ['Sailings', 'Fares', 'Fleet', 'Help'].map((t, i) => {
      const link = words(`l${i}`, x, 45.5, t);
      x += m.width(t, style()) + 28;
      return link;
    });
    return draw(
      1280,
      300,
      words('name', 40, 45.5, 'Kittiwake Line', 'font-weight="600"') +
        links.join('') +
        rect('sign', 1150, 20, 90, 40, 'rx="6" fill="#0a4f55"') +
        words('st', 1195 - m.width('Sign in', style()) / 2, 45.5, 'Sign in', 'fill="#fff"') +
        words('h', 40, 140, 'Next sailings', 'font-size="28"') +
        rect('card', 40, 180, 1200, 90) +
        words('ct', 64, 230, 'Marrow Isle at 14:20 from pier 2'),
      m,
    );
  };

  test('a bar whose links have no room lets none of them leave the frame, and hides none', () => {
    const structure = readSeveral([bar()], m);
    for (const width of WIDTHS) {
      const boxes = boxesAt(structure, width);
      for (const id of ['name', 'l0', 'l1', 'l2', 'l3', 'sign']) {
        const box = boxes.get(id);
        expect(box, `${id} at ${width}`).toBeDefined();
        expect(box && right(box), `${id} at ${width}`).toBeLessThanOrEqual(width + 1);
      }
    }
  });

  test('it costs less than what was read without it, and stands as drawn all the same', () => {
    const panels = draw(
      1200,
      400,
      [0, 1, 2]
        .map(
          (i) =>
            rect(`p${i}`, 40 + i * 380, 40, 360, 200) +
            words(
              `t${i}`,
              64 + i * 380,
              90,
              ['Fares by the day', 'Decks and cars', 'Piers and ramps'][i] ?? '',
            ),
        )
        .join('') +
        words(
          'foot',
          40,
          300,
          'Kittiwake Line carries cars, bicycles and people to nine piers of the north isles',
        ),
      m,
    );
    for (const drawing of [panels, bar()]) {
      const errors = (structure: Structure): number =>
        prove(structure, new Engine(m), {
          drawings: [drawing],
          checks: GRAVE_CHECKS,
          only: WIDTHS,
        }).faults.filter((f) => f.severity === 'error').length;
      const judged = readSeveral([drawing], m);
      // What shows in one frame of fifteen alone may cost less than any other rule.
      expect(errors(judged)).toBeLessThanOrEqual(1);
      expect(errors(judged)).toBeLessThanOrEqual(
        errors(readSeveral([drawing], m, { without: new Set(['judge']) })),
      );
      expect(Math.max(...deviations(judged, drawing, new Engine(m)).map((d) => d.by))).toBeLessThanOrEqual(
        1.001,
      );
    }
  });

  test('it tells how far it is, and can be cancelled', () => {
    const stages = new Set<string>();
    readSeveral([bar()], m, { onProgress: ({ stage }) => stages.add(stage) });
    expect(stages).toContain('judging');
    const cancel = () =>
      readSeveral([bar()], m, {
        onProgress: ({ stage }) => {
          if (stage === 'judging') throw new Error('cancelled');
        },
      });
    expect(cancel).toThrow('cancelled');
  });
});
