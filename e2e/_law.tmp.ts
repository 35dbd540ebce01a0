import fc from 'fast-check';
import { formatRuleLine, walk, type Part } from '@tinfold/core/model';
import { faceFor } from '@tinfold/core/text';
import { loadMeasurer } from '/work/main/cli/src/fonts.js';
import { anyRoot } from '/work/main/core/test/support/arbitrary.js';
import { structure } from '/work/main/core/test/support/build.js';
import { openBrowser } from '/work/main/e2e/support/browser.js';
import { compare, loadFonts, startLawServer } from '/work/main/e2e/support/law.js';
const N=Number(process.argv[2]??200), depth=Number(process.argv[3]??2), seed=Number(process.argv[4]??7), showN=Number(process.argv[5]??4);
const show = (part: Part, d = 0): string => `${'  '.repeat(d)}${part.id} ${part.kind[0]} ${part.content?.kind==='text'?JSON.stringify(part.content.runs[0]!.text.slice(0,20)):''} ${JSON.stringify(part.rules).replace(/"kind":|"/g,'')}\n` + part.children.map((c) => show(c, d + 1)).join('');
const driver = await openBrowser(1600,1000);
const faces=[faceFor({ family: 'Inter', weight: 400, italic: false })];
const { server, url } = await startLawServer(faces);
try { await loadFonts(driver,url,faces); const m=await loadMeasurer(faces);
 const roots=fc.sample(anyRoot(depth),{numRuns:N,seed}); const bad:{n:number,s:string}[]=[]; let boxes=0;
 for(const r of roots){const x=await compare(driver,structure(r),[240,320,480,768,1024,1440],m); boxes+=x.boxes; if(x.differences.length) bad.push({n:[...walk(r)].length,s:x.differences.slice(0,4).map(d=>JSON.stringify(d)).join('\n')+'\n'+show(r)})}
 bad.sort((a,b)=>a.n-b.n); console.log(`${bad.length} of ${N} differ, ${boxes} boxes`); for(const b of bad.slice(0,showN)) console.log(b.s);
} finally { await driver.quit(); server.close(); }
