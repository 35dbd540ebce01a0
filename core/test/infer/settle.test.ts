import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { settle } from '../../src/infer/settle/settle.js';
import { readStructure } from '@tinfold/core/infer';
import { Engine, reflow, standingBoxes } from '@tinfold/core/layout';
import { FILL, FIT, fixed, pad, walk, type Part, type Rect, type Rules } from '@tinfold/core/model';
import { deviations } from '@tinfold/core/proof';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { draw, outline, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

const FRAME = { width: 800, height: 600 };

let made = 0;
const box = (rules: Rules, children: readonly Part[] = []): Part => {
  const id = `s${++made}`;
  return { id, name: id, kind: 'container', source: [], rules, children };
};
const tile = (width: number, height: number): Part =>
  box({ width: fixed(width), height: fixed(height), padding: pad(0) });

describe('what its containers say so that a tree stands where it was drawn', () => {
  let m: ShapedMeasurer;
  let engine: Engine;
  beforeAll(async () => {
    m = await testMeasurer();
    engine = new Engine(m);
  });

  const drawing = () => draw(FRAME.width, FRAME.height, '', m);
  const boxesOf = (root: Part) => reflow(root, FRAME.width, engine).parts;

  /** A draft and the places that its parts were meant to have, settled; what still is anywhere else is listed. */
  const settled = (draft: Part, meant: ReadonlyMap<string, Rect>) => {
    const targets = new Map(meant);
    const root = settle(draft, targets, drawing(), engine);
    const now = boxesOf(root);
    const off = [...meant].filter(([id, target]) => {
      const at = now.get(id);
      return !at || Math.abs(at.x - target.x) > 1.5 || Math.abs(at.y - target.y) > 1.5;
    });
    return { root, off };
  };
  const flows = (root: Part) => [...walk(root)].flatMap((p) => (p.children.length > 0 ? [p.rules.flow] : []));

  test('a row that shares its room unevenly keeps its flow, and the middle one stands in the middle', () => {
    const [brand, links, button] = [tile(80, 20), tile(100, 20), tile(160, 20)];
    const bar = box({ flow: 'row', gap: 'between', width: FILL, align: 'centre' }, [brand, links, button]);
    const draft = box({ width: FILL }, [bar]);
    const meant = new Map(boxesOf(draft));
    meant.set(links.id, { ...(meant.get(links.id) as Rect), x: 350 });
    const { root, off } = settled(draft, meant);
    expect(off).toEqual([]);
    expect(flows(root)).not.toContain('free');
    expect([...walk(root)].find((p) => p.id === links.id)?.rules.pin).toEqual({ centreX: 0, centreY: 0 });
  });

  test('a row that shares its room shares it still when one of its children was drawn wider', () => {
    const [brand, links, button] = [tile(80, 20), tile(100, 20), tile(160, 20)];
    const bar = box({ flow: 'row', gap: 'between', width: FILL, align: 'centre' }, [brand, links, button]);
    const draft = box({ width: FILL }, [bar]);
    const meant = new Map(boxesOf(draft));
    meant.set(button.id, { x: 636, y: 0, width: 164, height: 20 });
    meant.set(links.id, { x: 308, y: 0, width: 100, height: 20 });
    const { root, off } = settled(draft, meant);
    expect(off).toEqual([]);
    expect(root.children[0]?.rules.gap).toBe('between');
  });

  test('gaps that are wrong become those that were drawn', () => {
    const tiles = [40, 60, 50, 30].map((h) => tile(100, h));
    const good = box({ gap: 24, padding: pad(10) }, tiles);
    const around = box({ width: FILL }, [good]);
    const meant = boxesOf(around);
    const draft = { ...around, children: [{ ...good, rules: { ...good.rules, gap: 8 } }] };
    const { root, off } = settled(draft, meant);
    expect(off).toEqual([]);
    expect(root.children[0]?.rules.gap).toBe(24);
    expect(flows(root)).not.toContain('free');
  });

  test('what fills more than it was drawn with gets a limit and stays elastic', () => {
    const narrow = box({ width: FILL, height: fixed(30) });
    const draft = box({ width: FILL }, [box({ flow: 'row', width: FILL, gap: 16 }, [narrow, tile(200, 30)])]);
    const meant = new Map(boxesOf(draft));
    meant.set(narrow.id, { ...(meant.get(narrow.id) as Rect), width: 240 });
    const row = draft.children[0] as Part;
    const last = row.children[1] as Part;
    meant.set(last.id, { ...(meant.get(last.id) as Rect), x: 256 });
    const { root, off } = settled(draft, meant);
    expect(off).toEqual([]);
    const now = [...walk(root)].find((p) => p.id === narrow.id);
    expect(now?.rules).toMatchObject({ width: { kind: 'fill' }, maxWidth: 240 });
  });

  test('a container is left alone where only its surroundings put it elsewhere', () => {
    const inner = box({ gap: 8, width: FIT }, [tile(50, 20), tile(50, 20)]);
    const draft = box({ width: FILL, padding: pad(20) }, [tile(100, 40), inner]);
    const meant = new Map(boxesOf(draft));
    for (const part of walk(inner)) {
      const at = meant.get(part.id) as Rect;
      meant.set(part.id, { ...at, y: at.y + 30 });
    }
    const { root, off } = settled(draft, meant);
    expect(off).toEqual([]);
    expect([...walk(root)].find((p) => p.id === inner.id)?.children).toEqual(inner.children);
  });

  test('whatever is moved a little in a column or row, no container gives up its flow', () => {
    const flow = fc.constantFrom('column' as const, 'row' as const);
    fc.assert(
      fc.property(
        flow,
        fc.array(fc.integer({ min: 20, max: 90 }), { minLength: 2, maxLength: 5 }),
        fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 5, maxLength: 5 }),
        (along, sizes, spaces) => {
          const tiles = sizes.map((s) => tile(s, s));
          const stack = box({ flow: along, gap: 4 }, tiles);
          const draft = box({ width: FILL }, [stack]);
          const meant = new Map(boxesOf(draft));
          let moved = 0;
          for (const [i, part] of tiles.entries()) {
            const at = meant.get(part.id) as Rect;
            moved += i === 0 ? 0 : (spaces[i] ?? 0);
            meant.set(part.id, along === 'row' ? { ...at, x: at.x + moved } : { ...at, y: at.y + moved });
          }
          const whole = meant.get(stack.id) as Rect;
          meant.set(stack.id, {
            ...whole,
            ...(along === 'row' ? { width: whole.width + moved } : { height: whole.height + moved }),
          });
          const { root, off } = settled(draft, meant);
          const inside = off.filter(([id]) => tiles.some((t) => t.id === id));
          expect(inside, outline(root)).toEqual([]);
          expect(flows(root)).not.toContain('free');
        },
      ),
      { numRuns: 60 },
    );
  });

  test('what is held at a distance can be held again where another drawing has it elsewhere', () => {
    const held = tile(80, 20);
    const draft = box({ flow: 'column', width: FILL, align: 'start' }, [tile(400, 40), held]);
    const moved = (root: Part, by: number) => {
      const meant = new Map(boxesOf(root));
      const at = meant.get(held.id) as Rect;
      return settled(root, meant.set(held.id, { ...at, x: at.x + by }));
    };
    const first = moved(draft, 37);
    const second = moved(first.root, 31);
    expect([first.off, second.off]).toEqual([[], []]);
    const ids = [...walk(second.root)].map((p) => p.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids.length).toBe([...walk(draft)].length + 2);
  });

  test('a large picture over a line of small ones is no wrap: all give way together', () => {
    const small = [0, 1, 2, 3].map(
      (i) => `<image id="s${i}" x="${40 + i * 130}" y="430" width="118" height="118"/>`,
    );
    const text =
      words('h', 600, 70, 'The Marrow Isle boat', 'font-size="24"') +
      words('p', 600, 110, 'Two decks, forty cars.') +
      rect('line', 600, 140, 560, 1);
    const d = draw(
      1200,
      600,
      `<image id="big" x="40" y="40" width="508" height="381"/>${small.join('')}${text}`,
      m,
    );
    const structure = readStructure(d, m);
    expect(deviations(structure, d, engine).filter((x) => x.by > 1)).toEqual([]);
    const at = (width: number) => standingBoxes(structure, width, engine);
    const [wide, drawn] = [at(1500), at(1200)];
    const grown = (id: string) => (wide.get(id)?.width ?? 0) / (drawn.get(id)?.width ?? 1);
    expect(grown('big')).toBeGreaterThan(1.1);
    expect(Math.abs(grown('s0') - grown('big'))).toBeLessThan(0.1);
    expect((wide.get('s0')?.width ?? 0) / (wide.get('s0')?.height ?? 1)).toBeCloseTo(1, 1);
  });

  test('words that cannot stand as drawn do not cost the screen its nesting', () => {
    const hanging = `<text id="t"><tspan x="140" y="80">which begin far into</tspan><tspan x="40" y="104">their first line</tspan></text>`;
    const cards = [0, 1, 2]
      .map((i) => rect(`c${i}`, 40 + i * 240, 200, 220, 120) + words(`w${i}`, 56 + i * 240, 240, `Pier ${i}`))
      .join('');
    const structure = readStructure(draw(800, 400, hanging + cards, m), m);
    expect(structure.root.rules.flow).not.toBe('free');
  });
});
