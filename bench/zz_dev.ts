import { readFileSync } from 'node:fs';
import { NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import { alignDrawings } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import { walk } from '@tinfold/core/model';
import { deviations } from '../core/src/proof/index.js';
import { loadMeasurer } from '../cli/src/fonts.js';
import { shippedGlyphs } from '../cli/src/glyphs.js';
import { readDrawing } from '../core/src/infer/read.js';
import { readSeveral } from '../core/src/infer/several.js';
for (const f of process.argv.slice(2)) {
  let o = openDrawing(readFileSync(f, 'utf8'), 'x'); if (o.outlined) o = o.withGlyphs([shippedGlyphs()]);
  const measurer = await loadMeasurer(o.faces());
  const d = alignDrawings([o.measure(measurer, NO_DECISIONS)])[0]!.drawing;
  const engine = new Engine(measurer);
  const top = (s: any) => deviations(s, d, engine).sort((a: any, b: any) => b.by - a.by).slice(0, 3).map((x: any) => `${x.item}:${x.by.toFixed(1)}`).join(' ');
  const r = readDrawing(d, measurer, {});
  const s = readSeveral([d], measurer, {});
  console.log(f.split('/').slice(-2).join('/'), 'asDrawn', top({ ...r.structure, root: r.asDrawn }), '| guessed', top(r.structure), '| all', top(s), 'items', d.items.length, 'free', [...walk(r.asDrawn)].filter((p) => p.rules.flow === 'free').length);
}
if (process.env['ID']) { const f = process.argv[2]!; let o = openDrawing(readFileSync(f, 'utf8'), 'x'); const measurer = await loadMeasurer(o.faces()); const d = alignDrawings([o.measure(measurer, NO_DECISIONS)])[0]!.drawing; const engine = new Engine(measurer); const r = readDrawing(d, measurer, {}); const it: any = d.items.find((i) => i.id === process.env['ID']); console.log(JSON.stringify(it.box), it.kind, JSON.stringify(it.content?.runs?.map((x: any) => x.text)), JSON.stringify(it.lines)); const pr = (p: any, depth: number, path: string[]) => { if (p.source.includes(it.id)) console.log(path.join(' > '), JSON.stringify(p.rules)); for (const c of p.children) pr(c, depth + 1, [...path, p.id + ' ' + JSON.stringify(p.rules).slice(0, 200)]); }; pr(r.asDrawn, 0, []); }
