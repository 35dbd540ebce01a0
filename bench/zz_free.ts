import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import { alignDrawings } from '@tinfold/core/infer';
import { walk, type Part } from '@tinfold/core/model';
import { loadMeasurer } from '../cli/src/fonts.js';
import { shippedGlyphs } from '../cli/src/glyphs.js';
import { readDrawing } from '../core/src/infer/read.js';
const dir = process.argv[2]!; const J = (f: string) => JSON.parse(readFileSync(f, 'utf8'));
const items = (p: Part) => [...walk(p)].reduce((s, q) => s + q.source.length, 0);
let all = 0, free = 0, pinned = 0;
for (const name of readdirSync(dir).sort()) {
  const c = path.join(dir, name); const kase = J(path.join(c, 'case.json'));
  const opened = openDrawing(readFileSync(path.join(c, kase.samples[0].svg), 'utf8'), name);
  const op = opened.outlined ? opened.withGlyphs([shippedGlyphs()]) : opened;
  const measurer = await loadMeasurer(op.faces());
  const drawings = alignDrawings([op.measure(measurer, NO_DECISIONS)]);
  const [d] = drawings.map((x: any) => x.drawing);
  const log: string[] = []; (globalThis as any).__settle = (l: string) => log.push(l); const read = readDrawing(d, measurer, {});
  const n = items(read.asDrawn); all += n;
  const out: string[] = []; let f = 0, pn = 0;
  const seen = new Set<Part>();
  for (const p of walk(read.asDrawn)) {
    if (p.rules.flow === 'free' && !seen.has(p)) { for (const q of walk(p)) seen.add(q); f += items(p); const bx=(q:any)=>{const its=[...walk(q)].flatMap((z:any)=>z.source).map((i:any)=>d.items.find((t:any)=>t.id===i)).filter(Boolean).map((t:any)=>t.box);const x=Math.min(...its.map((b:any)=>b.x)),y=Math.min(...its.map((b:any)=>b.y));return `${x.toFixed(1)},${y.toFixed(1)} ${(Math.max(...its.map((b:any)=>b.x+b.width))-x).toFixed(1)}x${(Math.max(...its.map((b:any)=>b.y+b.height))-y).toFixed(1)}`}; for(const k of p.children) out.push(`        ${k.kind} ${k.id} n${items(k)} [${bx(k)}] ${JSON.stringify(k.rules)}`.slice(0,220)); out.push(`   free ${p.id} ${p.name} kids ${p.children.length} items ${items(p)}: ${p.children.map((k) => k.name + (k.children.length ? '(' + items(k) + ')' : '')).slice(0, 8).join(' | ')}`); }
    for (const k of p.children) if (k.rules.pin && p.rules.flow !== 'free') { pn += items(k); out.push(`   pin ${k.id} ${k.name} (${items(k)}) in ${p.id} ${p.name} ${JSON.stringify(k.rules.pin)} ${JSON.stringify(k.rules.width)}`); }
  }
  free += f; pinned += pn;
  if (f || pn) { console.log(name, kase.pattern.slice(0, 70), d.width, `items ${n} free ${f} pinned ${pn}`); for (const o of out) console.log(o); for (const l of log) console.log(l); }
}
console.log({ all, free, pinned, share: free / all });
