/**
 * Counts what screens do as their frame gets narrower and which lengths their designers typed, over generated screens and
 * pages whose boxes are known at several widths, and writes the counts that the reader goes by.
 *
 *   npm run bench:priors -- [--phones] DIR [DIR …]
 *
 * With `--phones` only what screens do on phones is written.
 */
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { countPhones, nonePhones, phonePriors, type Box, type Boxes } from './phones.js';
import { countLineHeights, countSpaces, noneTyped } from './typed.js';

interface Case {
  readonly source: { readonly width: number; readonly height: number };
  readonly heldOut: readonly number[];
  readonly samples: readonly { readonly svg: string }[];
}
interface Truth {
  readonly widths: Readonly<Record<string, { readonly boxes: Boxes }>>;
}
interface Groups {
  readonly groups: readonly {
    readonly items: readonly string[];
    readonly flow: string;
    readonly gap: number | null;
    readonly crossGap: number | null;
    readonly padding: readonly number[];
  }[];
}

/** The shares of the drawn width between which breakpoints are counted. */
const UP_TO = [0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1];

const parsed = (...names: string[]): unknown => JSON.parse(readFileSync(path.join(...names), 'utf8'));

/** The box around some items; null where none is shown. */
function around(ids: readonly string[], boxes: Boxes): Box | null {
  const all = ids.map((id) => boxes[id]).filter((box) => box != null);
  if (all.length === 0) return null;
  const [left, top] = [Math.min(...all.map((b) => b[0])), Math.min(...all.map((b) => b[1]))];
  const right = Math.max(...all.map((b) => b[0] + b[2]));
  return [left, top, right - left, Math.max(...all.map((b) => b[1] + b[3])) - top];
}

/** Whether some boxes stand side by side, in their order. */
const inRow = (boxes: readonly (Box | null)[]): boolean =>
  boxes.every((b, i) => {
    const before = boxes[i - 1];
    return b !== null && (i === 0 || (before != null && b[0] >= before[0] + before[2] - 2));
  });

/** What stands in a group side by side: the largest groups in it, and its single items, but for its own ground. */
function unitsOf(items: readonly string[], groups: Groups['groups'], boxes: Boxes): string[][] {
  const own = new Set(items);
  const inner = groups
    .filter((g) => g.items.length < items.length && g.items.every((i) => own.has(i)))
    .toSorted((a, b) => b.items.length - a.items.length);
  const units: string[][] = [];
  for (const { items: inside } of inner) {
    if (!inside.every((i) => own.has(i))) continue;
    units.push([...inside]);
    for (const i of inside) own.delete(i);
  }
  const whole = around(items, boxes);
  const single = [...own].filter((i) => {
    const box = boxes[i];
    return box && whole && !(box[2] >= whole[2] - 1 && box[3] >= whole[3] - 1);
  });
  const left = (unit: string[]) => around(unit, boxes)?.[0] ?? 0;
  return [...units, ...single.map((i) => [i])].toSorted((a, b) => left(a) - left(b));
}

const turned = UP_TO.map((upTo) => ({ upTo, rows: 0, turned: 0 }));
const typed = noneTyped();
const phones = nonePhones();
let screens = 0;
const given = process.argv.slice(2);
const onlyPhones = given.includes('--phones');
for (const dir of given.filter((d) => d !== '--phones')) {
  for (const name of readdirSync(dir).sort()) {
    const at = path.join(dir, name);
    if (!existsSync(path.join(at, 'structure.json'))) continue;
    const { source, heldOut, samples } = parsed(at, 'case.json') as Case;
    const { widths } = parsed(at, 'truth.json') as Truth;
    const { groups } = parsed(at, 'structure.json') as Groups;
    const drawn = widths[source.width]?.boxes ?? {};
    screens++;
    countPhones(phones, {
      drawn: source.width,
      height: source.height,
      widths: new Map(
        [source.width, ...heldOut].flatMap((w) => {
          const at = widths[w];
          return at ? [[w, at.boxes] as const] : [];
        }),
      ),
    });
    countSpaces(typed, groups);
    await countLineHeights(typed, path.join(at, samples[0]?.svg ?? ''), drawn);
    for (const { items, flow } of groups) {
      const units = unitsOf(items, groups, drawn);
      if (flow === 'column' || units.length < 2 || !inRow(units.map((u) => around(u, drawn)))) continue;
      const narrower = heldOut.filter((w) => w < source.width).toSorted((a, b) => b - a);
      let last = source.width;
      for (const width of narrower) {
        const stands = inRow(units.map((u) => around(u, widths[width]?.boxes ?? {})));
        // The breakpoint lies between two widths that are known; the middle of them is as good a guess as any.
        const bin = turned.find((t) => Math.sqrt(width * last) / source.width <= t.upTo);
        if (bin) bin.rows++;
        if (!stands) {
          if (bin) bin.turned++;
          break;
        }
        last = width;
      }
    }
  }
}
const write = (name: string, counts: unknown): void => {
  const file = new URL(`../core/src/infer/${name}`, import.meta.url);
  writeFileSync(file, `${JSON.stringify(counts, null, 2)}\n`);
};
write('widths/phones.json', { screens, ...phonePriors(phones) });
if (!onlyPhones) write('priors.json', { screens, turns: turned, ...typed });
process.stdout.write(
  `${screens} screens\n${turned.map((t) => `to ${t.upTo}: ${t.turned} of ${t.rows} rows`).join('\n')}\n`,
);
