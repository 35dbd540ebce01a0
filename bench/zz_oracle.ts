import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import { alignDrawings } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import { FILL, walk, withOverride, updatePart, ruleOf, type Part, type Structure } from '@tinfold/core/model';
import { inFlow } from '../core/src/layout/index.js';
import { loadMeasurer } from '../cli/src/fonts.js';
import { shippedGlyphs } from '../cli/src/glyphs.js';
import { reflowAnswer } from '../cli/src/answer.js';
import { readDrawing } from '../core/src/infer/read.js';
import { readSeveral } from '../core/src/infer/several.js';
import { freeWidths } from '../core/src/infer/freeWidths.js';
import { asTyped } from '../core/src/infer/asTyped.js';
import { judged } from '../core/src/infer/widths/judged.js';
import { reflow } from '../core/src/layout/index.js';
const { scoreCase } = await import('/work/shared/benchmark/score.mjs' as string);

const dir = process.argv[2]!;
const from = Number(process.argv[3] ?? 0), count = Number(process.argv[4] ?? 1000);
const J = (f: string) => JSON.parse(readFileSync(f, 'utf8'));
type Box = [number, number, number, number];
const union = (bs: (Box | null | undefined)[]): Box | null => {
  const a = bs.filter(Boolean) as Box[]; if (!a.length) return null;
  const x = Math.min(...a.map((b) => b[0])), y = Math.min(...a.map((b) => b[1]));
  return [x, y, Math.max(...a.map((b) => b[0] + b[2])) - x, Math.max(...a.map((b) => b[1] + b[3])) - y];
};
const itemsOf = (p: Part): string[] => [...walk(p)].flatMap((q) => q.source);
const colsOf = (units: (Box | null)[]): number => {
  const u = units.filter(Boolean) as Box[];
  let most = 1;
  for (const b of u) most = Math.max(most, u.filter((o) => o[1] < b[1] + b[3] - 2 && o[1] + o[3] > b[1] + 2 && !(o[0] < b[0] + b[2] - 2 && o[0] + o[2] > b[0] + 2 && o !== b)).length);
  return most;
};
const names = (r: any) => { const m = new Map<string, string>(); for (const { own } of r) for (const [s, id] of own) if (!m.has(s)) m.set(s, id); return m; };
const tot: Record<string, { s: number; n: number; bins: Record<string, [number, number]>; H:number;V:number;I:number }> = {};
const add = (mode: string, r: any, W: number) => {
  const t = (tot[mode] ??= { s: 0, n: 0, bins: {}, H:0,V:0,I:0 });
  t.s += r.score; t.n++; t.H+=r.H;t.V+=r.V;t.I+=r.IoU;
  for (const [w, x] of Object.entries(r.widths) as any) {
    const q = Number(w) / W; const k = q > 1.02 ? '>1' : q > 0.75 ? '.75-1' : q > 0.5 ? '.5-.75' : q > .35 ? '.35-.5' : '<.35';
    const b = (t.bins[k] ??= [0, 0]); b[0] += x.score; b[1]++;
  }
};
const conf: Record<string, number> = {};
for (const name of readdirSync(dir).sort().slice(from, from + count)) {
  const c = path.join(dir, name); const kase = J(path.join(c, 'case.json')), truth = J(path.join(c, 'truth.json'));
  const opened = openDrawing(readFileSync(path.join(c, kase.samples[0].svg), 'utf8'), name);
  const op = opened.outlined ? opened.withGlyphs([shippedGlyphs()]) : opened;
  const measurer = await loadMeasurer(op.faces());
  const drawings = alignDrawings([op.measure(measurer, NO_DECISIONS)]);
  const [d] = drawings.map((x: any) => x.drawing);
  const engine = new Engine(measurer);
  const nm = names(drawings);
  const score = (structure: Structure, mode: string) => {
    const ans = reflowAnswer({ drawings, structure, measurer } as any, kase.heldOut);
    const r = scoreCase(kase, truth, ans, 'one'); add(mode, r, d.width); return r.score;
  };
  const t0 = Date.now();
  const now = readSeveral([d], measurer);
  const sNow = score(now, 'now');
  const read = readDrawing(d, measurer, {});
  const bare = asTyped(freeWidths({ ...read.structure, root: read.asDrawn, tokens: undefined } as any, [d], engine), [d], engine);
  score(bare, 'bare');
  score(judged(bare, [d], engine), 'bare+judged');
  // oracle
  const widths = (kase.heldOut as number[]).filter((w) => w < d.width).sort((a, b) => b - a);
  let root = bare.root;
  const boxes = reflow(bare.root, d.width, engine).parts;
  const nowParts = new Map([...walk(now.root)].map((p) => [p.id, p]));
  for (const p of walk(bare.root)) {
    const kids = inFlow(p); if (kids.length < 2) continue;
    const flow = ruleOf(p.rules, 'flow'); if (flow !== 'row' && flow !== 'grid' && flow !== 'wrap') continue;
    const unitsAt = (w: number) => kids.map((k) => union(itemsOf(k).map((i) => truth.widths[w]?.boxes[nm.get(i) ?? i])));
    let last = d.width; const drawnCols = colsOf(unitsAt(d.width)); let prev = drawnCols;
    for (const w of widths) {
      const units = unitsAt(w); const shown = units.filter(Boolean).length; if (shown < 2) { last = w; continue; }
      let cols = colsOf(units); 
      if (flow === 'row') cols = cols >= Math.min(shown, drawnCols) ? drawnCols : cols === 1 ? 1 : cols;
      if (cols !== prev) {
        const below = Math.floor((last + w) / 2);
        if (flow === 'row') {
          if (cols === 1) root = updatePart(root, p.id, (q) => withOverride({ ...q, children: q.children.map((k) => { const b = boxes.get(k.id); if (k.rules.pin || !b) return k; const small = k.kind === 'picture' ? b.width < 200 : k.kind !== 'text' && (b.width < 120 || k.children.length === 0);
              const ch: any = { ...(!small && k.rules.width?.kind !== 'fill' && { width: FILL }), ...(k.kind === 'picture' && k.rules.height?.kind === 'fixed' && !small && { height: { kind: 'ratio', width: b.width, height: b.height } }), ...(k.rules.gapBefore !== undefined && { gapBefore: null }), ...(k.rules.alignSelf !== undefined && { alignSelf: null }), ...(k.rules.height?.kind === 'share' && { height: null }) };
              return Object.keys(ch).length ? withOverride(k, below, ch) : k; }) }, below, { flow: 'column', align: 'start', gap: typeof q.rules.gap === 'number' ? Math.min(48, Math.max(0, q.rules.gap)) : 24 }));
          else if (cols === drawnCols) root = updatePart(root, p.id, (q) => withOverride(q, below, { flow: 'row' } as any));
          else root = updatePart(root, p.id, (q) => withOverride(q, below, { flow: 'wrap' } as any));
        } else root = updatePart(root, p.id, (q) => withOverride(q, below, { ...(flow==='wrap' && {flow:'grid'}), columns: { kind: 'count', count: cols } } as any));
        prev = cols;
      }
      last = w;
    }
    // confusion against now's boxes
    for (const w of widths) {
      const units = unitsAt(w); if (units.filter(Boolean).length < 2) continue;
      const tc = colsOf(units);
      const ansBoxes = (reflowCache(w) as any);
      const ours = colsOf(kids.map((k) => union(itemsOf(k).map((i) => ansBoxes[nm.get(i) ?? i]))));
      const key = `${flow} ${tc === drawnCols ? 'stands' : tc === 1 ? 'stacks' : 'fewer'} → ${ours === drawnCols ? 'stands' : ours === 1 ? 'stacks' : 'fewer'}`;
      conf[key] = (conf[key] ?? 0) + 1;
    }
    function reflowCache(w: number) { return ((globalThis as any).__c ??= new Map()).get(name + w) ?? ((globalThis as any).__c.set(name + w, reflowAnswer({ drawings, structure: now, measurer } as any, [w]).widths[w]!.boxes), (globalThis as any).__c.get(name + w)); }
  }
  const orc: Structure = { ...bare, root };
  score(orc, 'oracle');
  score(judged(orc, [d], engine), 'oracle+judged');
  // hidden oracle
  let hid = root;
  for (const p of walk(root)) {
    if (p === root) continue;
    const its = itemsOf(p); if (!its.length) continue;
    const shownAt = (w: number) => its.some((i) => truth.widths[w]?.boxes[nm.get(i) ?? i]);
    const gone = widths.filter((w) => !shownAt(w));
    if (gone.length) { const top = Math.max(...gone); const ups = widths.filter((w) => w > top); const below = Math.floor((top + Math.min(d.width, ...ups)) / 2); if (widths.filter(w=>w<=top).every((w) => gone.includes(w))) hid = updatePart(hid, p.id, (q) => withOverride(q, below, { hidden: true } as any)); }
  }
  score({ ...bare, root: hid }, 'oracle+hidden');
  console.log(name, kase.pattern.slice(0, 60), sNow.toFixed(3), `${Date.now() - t0} ms`);
}
for (const [m, t] of Object.entries(tot)) console.log(m.padEnd(16), (t.s / t.n).toFixed(4), 'H', (t.H/t.n).toFixed(3),'V', (t.V/t.n).toFixed(3),'I', (t.I/t.n).toFixed(3), Object.entries(t.bins).map(([k, b]) => `${k}: ${(b[0] / b[1]).toFixed(3)} (${b[1]})`).join('  '));
console.log(conf);
