import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import { alignDrawings } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import type { Structure } from '@tinfold/core/model';
import { loadMeasurer } from '../cli/src/fonts.js';
import { shippedGlyphs } from '../cli/src/glyphs.js';
import { reflowAnswer } from '../cli/src/answer.js';
import { readSeveral } from '../core/src/infer/several.js';
const { scoreCase } = await import('/work/shared/benchmark/score.mjs' as string);
const dir = process.argv[2]!;
const from = Number(process.argv[3] ?? 0), count = Number(process.argv[4] ?? 1000);
const MODES = (process.env.MODES ?? 'one,two').split(',');
const J = (f: string) => JSON.parse(readFileSync(f, 'utf8'));
const SW = '320,360,414,480,560,640,720,800,900,1000,1100,1200,1280,1366,1440,1600,1760,1920'.split(',').map(Number);
type B = [number, number, number, number];
let texts = new Set<string>();
const ov = (a: B, b: B, by: number) => Math.min(a[0] + a[2], b[0] + b[2]) - Math.max(a[0], b[0]) > by && Math.min(a[1] + a[3], b[1] + b[3]) - Math.max(a[1], b[1]) > by;
function faults(drawn: Record<string, B>, dw: number, now: Record<string, B>, w: number) {
  const ids = Object.keys(drawn).filter((i) => now[i]); const f = { over: 0, clash: 0, squash: 0, blown: 0, lost: 0 };
  const vis = Object.keys(drawn).length; if (ids.length < vis * 0.6) f.lost = vis - ids.length;
  for (const id of ids) { const d = drawn[id]!, n = now[id]!; const out = d[0] < -1 || d[0] + d[2] > dw + 1;
    if (!out && (n[0] < -1 || n[0] + n[2] > w + 1)) f.over++;
    if (texts.has(id) && n[2] < d[2] * .4 && n[3] >= d[3] * 3) f.squash++;
    if (!texts.has(id) && d[3] > 8 && w <= dw && n[2] * n[3] > 5 * d[2] * d[3]) f.blown++; }
  for (let i = 0; i < ids.length; i++) for (let j = i + 1; j < ids.length; j++) { const a = ids[i]!, b = ids[j]!; if (ov(drawn[a]!, drawn[b]!, .5)) continue; if (ov(now[a]!, now[b]!, 3)) f.clash++; }
  return f;
}
for (const name of readdirSync(dir).sort().slice(from, from + count)) {
  const c = path.join(dir, name); if (!readdirSync(c).includes('case.json')) continue;
  const kase = J(path.join(c, 'case.json')), truth = J(path.join(c, 'truth.json'));
  try {
  const opened = kase.samples.slice(0, 2).map((s: any) => { const o = openDrawing(readFileSync(path.join(c, s.svg), 'utf8'), name); return o.outlined ? o.withGlyphs([shippedGlyphs()]) : o; });
  const measurer = await loadMeasurer(opened.flatMap((o: any) => o.faces()));
  const svg = readFileSync(path.join(c, kase.samples[0].svg), 'utf8');
  texts = new Set([...svg.matchAll(/<text\b[^>]*?\bid="([^"]+)"/g)].map((m) => m[1]!));
  const out: any = { case: name, pattern: kase.pattern, W: kase.source.width, modes: {} };
  for (const mode of MODES) {
    const drawings = alignDrawings((mode.startsWith('two') ? opened : opened.slice(0, 1)).map((o: any) => o.measure(measurer, NO_DECISIONS)));
    const ds = drawings.map((x: any) => x.drawing);
    const t0 = performance.now();
    const structure = readSeveral(ds, measurer, mode.includes('bare') ? { without: new Set(['judge', 'narrow frames']) } as any : mode.includes('nojudge') ? { without: new Set(['judge']) } as any : {});
    const ms = performance.now() - t0;
    const answer = reflowAnswer({ drawings, structure, measurer } as any, [...new Set([...kase.heldOut, ...SW])]);
    const r = scoreCase(kase, truth, answer, mode.startsWith('two') ? 'two' : 'one');
    const grow: any[] = []; { const b = truth.widths[kase.source.width].boxes; const W = kase.source.width; for (const w of kase.heldOut) { if (w < W * 1.15) continue; const b2 = truth.widths[w].boxes, o = (answer.widths as any)[w].boxes; const it = Object.keys(b).filter((i) => b[i] && b2[i] && o[i] && !(b[i][0] < 2 && b[i][0] + b[i][2] > W - 2)); if (!it.length) continue; const ext = (q: any) => [Math.min(...it.map((i) => q[i][0])), Math.max(...it.map((i) => q[i][0] + q[i][2]))]; const [a, t, u] = [ext(b), ext(b2), ext(o)] as any; grow.push([w, a[0], W - a[1], ((t[1] - t[0]) - (a[1] - a[0])) / (w - W), ((u[1] - u[0]) - (a[1] - a[0])) / (w - W)]); } }
    const drawn = Object.fromEntries(Object.entries(truth.widths[kase.source.width].boxes).filter(([, b]) => b)) as any;
    let sound = 0; const fl: any = {};
    for (const w of SW) { const f = faults(drawn, kase.source.width, (answer.widths as any)[w].boxes, w); const n = f.over + f.clash + f.squash + f.blown + f.lost; if (!n) sound++; else for (const [k, v] of Object.entries(f)) if (v) (fl[k] ??= []).push(w); }
    const bins: any = {}; for (const [w, x] of Object.entries(r.widths) as any) { const q = Number(w) / kase.source.width; const k = q > 1.02 ? '5>1' : q > .75 ? '4.75-1' : q > .5 ? '3.5-.75' : q > .35 ? '2.35-.5' : '1<.35'; const b = (bins[k] ??= [0, 0]); b[0] += x.score; b[1]++; }
    out.modes[mode] = { score: r.score, H: r.H, V: r.V, I: r.IoU, sound: sound / SW.length, ms, bins, grow, fl, widths: Object.fromEntries(Object.entries(r.widths).map(([w, x]: any) => [w, [x.score, x.H, x.V]])) };
  }
  console.log(JSON.stringify(out));
  } catch (e) { console.log('Error', name, String((e as Error).stack).slice(0, 300)); }
}
