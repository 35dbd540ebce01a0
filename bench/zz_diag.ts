import { readFileSync } from 'node:fs';
import path from 'node:path';
import { NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import { alignDrawings } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import { walk, pathTo, ruleOf } from '@tinfold/core/model';
import { loadMeasurer } from '../cli/src/fonts.js';
import { shippedGlyphs } from '../cli/src/glyphs.js';
import { reflowAnswer } from '../cli/src/answer.js';
import { readSeveral } from '../core/src/infer/several.js';
const [, , dir, width, track = 'one', tree] = process.argv as string[];
const J = (f: string) => JSON.parse(readFileSync(f, 'utf8'));
const kase = J(path.join(dir!, 'case.json')), truth = J(path.join(dir!, 'truth.json'));
const opened = kase.samples.slice(0, track.startsWith('two') ? 2 : 1).map((s: any) => { const o = openDrawing(readFileSync(path.join(dir!, s.svg), 'utf8'), 'x'); return o.outlined ? o.withGlyphs([shippedGlyphs()]) : o; });
const measurer = await loadMeasurer(opened.flatMap((o: any) => o.faces()));
const drawings = alignDrawings(opened.map((o: any) => o.measure(measurer, NO_DECISIONS)));
const structure = readSeveral(drawings.map((x: any) => x.drawing), measurer, track.includes('bare') ? { without: new Set(['judge', 'narrow frames']) } as any : {});
const names = new Map<string, string>(); for (const { own } of drawings) for (const [s, id] of own) if (!names.has(s)) names.set(s, id);
const w = Number(width); const W = kase.source.width;
const ans = (reflowAnswer({ drawings, structure, measurer } as any, [w]).widths as any)[w];
const t = truth.widths[w] ?? { boxes: {}, height: 0 };
console.log(kase.pattern, 'drawn', W, 'at', w, 'height', t.height, 'ours', ans.height, kase.notes);
const part = new Map<string, string>(); const content = new Map<string, string>();
for (const p of walk(structure.root)) for (const s of p.source) { part.set(names.get(s) ?? s, p.id); content.set(names.get(s) ?? s, p.content?.kind === 'text' ? p.content.runs.map((r: any) => r.text).join('').slice(0, 24) : p.kind); }
if (tree) { const pr = (p: any, d: number) => { const b = ans.parts[p.id]; console.log('  '.repeat(d) + `${p.id} ${p.name} ${p.kind} ${b ? b.map((v: number) => v.toFixed(0)).join(',') : '-'} ${JSON.stringify(p.rules)} ${p.below ? 'BELOW ' + JSON.stringify(p.below) : ''}`.slice(0, 330)); for (const c of p.children) pr(c, d + 1); }; pr(structure.root, 0); }
const f = (b: any) => b ? b.map((v: number) => v.toFixed(0)).join(',') : 'none';
for (const [id, d] of Object.entries(truth.widths[W].boxes) as any) { if (!d) continue; const tb = t.boxes[id], ob = ans.boxes[id]; if (!tb) { if (ob) console.log(' gone  ', (content.get(id) ?? '?').padEnd(25), part.get(id), 'drawn', f(d), 'ours', f(ob)); continue; }
  const tx = Math.max(4, .015 * w), ty = Math.max(8, .02 * t.height); const H = ob && Math.abs(ob[0] - tb[0]) <= tx && Math.abs(ob[0] + ob[2] - tb[0] - tb[2]) <= tx, V = ob && Math.abs(ob[1] - tb[1]) <= ty && Math.abs(ob[1] + ob[3] - tb[1] - tb[3]) <= ty;
  console.log(H ? ' ' : 'H', V ? ' ' : 'V', '  ', (content.get(id) ?? '?').padEnd(25), (part.get(id) ?? '?').padEnd(6), 'drawn', f(d).padEnd(20), 'truth', f(tb).padEnd(20), 'ours', f(ob)); }
