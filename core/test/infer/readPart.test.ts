import { beforeAll, describe, expect, test } from 'vitest';
import { readPart, readSeveral } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import {
  applyStep,
  invertStep,
  parentOf,
  unsound,
  walk,
  type Part,
  type Structure,
} from '@tinfold/core/model';
import { deviations } from '@tinfold/core/proof';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { draw, partOf, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

describe('one part is read again', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  const drawing = () =>
    draw(
      1000,
      500,
      words('h', 40, 60, 'Next sailings', 'font-size="28"') +
        rect('card', 40, 100, 400, 220) +
        words('a', 64, 140, 'Marrow Isle') +
        words('b', 64, 180, 'Leaves 14:20 from pier 2') +
        words('c', 64, 220, 'Space on the car deck') +
        words('foot', 40, 400, 'Piers and ramps'),
      m,
    );
  const shapeOf = (part: Part): unknown => [part.kind, part.rules, part.source, part.children.map(shapeOf)];

  test('what was made of it by hand goes, the rest stays, and it stands as drawn', () => {
    const drawn = drawing();
    const read = readSeveral([drawn], m);
    const card = partOf(read.root, 'card');
    const wrong = applyStep(read, {
      kind: 'several',
      steps: [
        { kind: 'setRules', parts: [{ id: card.id, set: { gap: 90, flow: 'row' } }] },
        { kind: 'rename', id: card.id, name: 'Sailing card' },
        { kind: 'setRules', parts: [{ id: partOf(read.root, 'h').id, set: { minWidth: 77 } }] },
      ],
    });
    if (!wrong.ok) throw new Error(wrong.reason);
    const reading = readPart(wrong.doc, card.id, [drawn], m, new Engine(m));
    if ('reason' in reading) throw new Error(reading.reason);
    const again = applyStep(wrong.doc, reading.step);
    if (!again.ok) throw new Error(again.reason);
    const now = again.doc;
    expect(unsound(now)).toBeUndefined();
    expect(partOf(now.root, 'card').name).toBe('Sailing card');
    expect(partOf(now.root, 'h').rules.minWidth).toBe(77);
    expect(parentOf(now.root, card.id)?.id).toBe(parentOf(read.root, card.id)?.id);
    const off = deviations(now, drawn, new Engine(m)).filter((d) => ['a', 'b', 'c', 'card'].includes(d.item));
    expect(Math.max(...off.map((d) => d.by))).toBeLessThan(0.6);
    const ids = [...walk(now.root)].map((p) => p.id);
    expect(new Set(ids).size).toBe(ids.length);
    const back = applyStep(now, invertStep(wrong.doc, reading.step));
    expect(back.ok && shapeOf(back.doc.root)).toEqual(shapeOf(wrong.doc.root));
  });

  test('what holds nothing of the drawing is refused with a sentence', () => {
    const read: Structure = readSeveral([drawing()], m);
    const refused = readPart(read, partOf(read.root, 'h').id, [drawing()], m, new Engine(m));
    expect('reason' in refused && refused.reason).toContain('choose a container');
  });
});
