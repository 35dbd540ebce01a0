import { reflow, type Engine, type Reflow } from '../layout/index.js';
import {
  NO_PADDING,
  round,
  ruleOf,
  standing,
  walk,
  type Part,
  type Rect,
  type Structure,
} from '../model/index.js';
import { escapeHtml } from './elements.js';
import type { TextFile } from './html.js';
import { sayRules } from './words.js';

const CSS = `
:root{--ink:#1d2b34;--paper:#f6f4ee;--line:#8a938f;--copper:#a54d24}
*{box-sizing:border-box}
body{margin:0;padding:32px;background:var(--paper);color:var(--ink);font:15px/1.45 system-ui,sans-serif}
h1{font-size:26px;margin:0 0 4px}h2{font-size:17px;margin:36px 0 10px;border-bottom:1px solid var(--ink);padding-bottom:4px}
section{display:grid;grid-template-columns:minmax(0,1fr) 360px;gap:24px;padding:14px 0;border-bottom:1px solid #d5d2c8;break-inside:avoid}
h3{font-size:15px;margin:0}p{margin:2px 0;color:#44606b}
dl{display:grid;grid-template-columns:max-content minmax(0,1fr);gap:2px 16px;margin:8px 0 0}dt{color:#44606b}dd{margin:0}
h4{font-size:13px;margin:10px 0 0;color:var(--copper)}
svg{display:block;max-width:100%;overflow:visible}svg text{font:11px system-ui,sans-serif}
table{border-collapse:collapse}td,th{text-align:left;padding:3px 18px 3px 0;border-bottom:1px solid #d5d2c8}
@media (max-width:720px){section{grid-template-columns:minmax(0,1fr)}}
@media print{body{padding:0;background:none}}
`;

/** How large a picture is at the most, px. */
const PICTURE = { width: 300, height: 200 };
/** Room around a picture for its dimension lines, px. */
const MARGIN = 28;

const box = ({ x, y, width, height }: Rect, look: string): string =>
  `<rect x="${round(x, 2)}" y="${round(y, 2)}" width="${round(width, 2)}" height="${round(height, 2)}" ${look}/>`;

/** A part with what stands in it as boxes, its paddings and gaps hatched, and its size as dimension lines. */
function picture(part: Part, { parts }: Reflow): string {
  const own = parts.get(part.id);
  if (!own || own.width <= 0 || own.height <= 0) return '<p>Not shown at this width.</p>';
  const scale = Math.min(1, PICTURE.width / own.width, PICTURE.height / own.height);
  const at = (r: Rect): Rect => ({
    x: MARGIN + (r.x - own.x) * scale,
    y: (r.y - own.y) * scale,
    width: r.width * scale,
    height: r.height * scale,
  });
  const whole = at(own);
  const { top, right, bottom, left } = part.rules.padding ?? NO_PADDING;
  const inner = at({
    x: own.x + left,
    y: own.y + top,
    width: Math.max(0, own.width - left - right),
    height: Math.max(0, own.height - top - bottom),
  });
  const kids = part.children.flatMap((c) => parts.get(c.id) ?? []).map(at);
  const end = whole.y + whole.height;
  const dimension = (
    x1: number,
    y1: number,
    x2: number,
    y2: number,
    words: string,
    x: number,
    y: number,
    turned = '',
  ) =>
    `<path d="M${round(x1, 2)} ${round(y1, 2)}L${round(x2, 2)} ${round(y2, 2)}" stroke="var(--ink)" marker-start="url(#tick)" marker-end="url(#tick)"/><text x="${round(x, 2)}" y="${round(y, 2)}" text-anchor="middle"${turned}>${words}</text>`;
  const middle = { x: whole.x + whole.width / 2, y: whole.y + whole.height / 2 };
  const painted = left + right + top + bottom > 0 ? box(inner, 'fill="var(--paper)"') : '';
  return `<svg width="${round(whole.width + 2 * MARGIN, 1)}" height="${round(whole.height + MARGIN, 1)}" role="img" aria-label="${escapeHtml(part.name)}, ${round(own.width, 1)} by ${round(own.height, 1)}">${box(whole, `fill="${painted === '' ? 'none' : 'url(#hatch)'}" stroke="var(--ink)"`)}${painted}${kids.map((k) => box(k, 'fill="#fff" fill-opacity=".7" stroke="var(--line)"')).join('')}${dimension(whole.x, end + 9, whole.x + whole.width, end + 9, String(round(own.width, 1)), middle.x, end + 22)}${dimension(14, whole.y, 14, end, String(round(own.height, 1)), 10, middle.y, ` transform="rotate(-90 10 ${round(middle.y, 2)})"`)}</svg>`;
}

const list = (said: readonly (readonly [string, string])[]): string =>
  said.length === 0
    ? ''
    : `<dl>${said.map(([label, value]) => `<dt>${escapeHtml(label)}</dt><dd>${escapeHtml(value)}</dd>`).join('')}</dl>`;

const KINDS = { container: 'Container', text: 'Text', picture: 'Picture', shape: 'Shape' } as const;

function entry(part: Part, path: readonly Part[], copies: number, laid: Reflow): string {
  const { rules, below = [], wide, bound = {}, content } = part;
  const run = content?.kind === 'text' ? content.runs[0] : undefined;
  const type: [string, string][] = run
    ? [
        [
          'type',
          `${run.style.family}, ${run.style.size} px, weight ${run.style.weight}, lines ${round(content?.kind === 'text' ? content.lineHeight : 0, 2)} px, ${run.style.colour}`,
        ],
      ]
    : [];
  const paint: [string, string][] =
    part.paint?.fill?.kind === 'solid' ? [['fill', part.paint.fill.colour]] : [];
  const tokens = Object.entries(bound).map(([place, token]): [string, string] => [place, token]);
  const flow = ruleOf(rules, 'flow');
  const ranges = [
    ...below.map((o) => [`Below ${o.width}`, o.rules] as const),
    ...(wide ? ([['Wider than high', wide]] as const) : []),
  ];
  return `<section id="${escapeHtml(part.id)}"><div><h3>${escapeHtml(part.name)}</h3>
<p>${KINDS[part.kind]}${path.length > 0 ? ` in ${escapeHtml(path.map((p) => p.name).join(' › '))}` : ''}${copies > 1 ? `; ${copies} copies` : ''}</p>
${list([...(part.kind === 'container' && rules.flow === undefined ? sayRules({ flow }) : []), ...sayRules(rules), ...type, ...paint])}
${ranges.map(([label, set]) => `<h4>${escapeHtml(label)}</h4>${list(sayRules(set))}`).join('')}
${tokens.length > 0 ? `<h4>Tokens</h4>${list(tokens)}` : ''}</div>
<div>${picture(part, laid)}</div></section>`;
}

/** Each part with the parts around it; of the copies of a pattern the first alone, with how many there are. */
function entries(root: Part): { part: Part; path: readonly Part[]; copies: number }[] {
  const counts = new Map<string, number>();
  for (const p of walk(root))
    if (p.pattern !== undefined) counts.set(p.pattern, (counts.get(p.pattern) ?? 0) + 1);
  const seen = new Set<string>();
  const found: { part: Part; path: readonly Part[]; copies: number }[] = [];
  const visit = (part: Part, path: readonly Part[]): void => {
    if (part.pattern !== undefined && seen.has(part.pattern)) return;
    if (part.pattern !== undefined) seen.add(part.pattern);
    found.push({ part, path, copies: part.pattern === undefined ? 1 : (counts.get(part.pattern) ?? 1) });
    for (const child of part.children) visit(child, [...path, part]);
  };
  visit(root, []);
  return found;
}

/**
 * The specification as one HTML page that needs nothing else and prints well: each part's rules in words and numbers, what changes
 * in which range, the tokens it takes, and a picture with its dimensions at the drawn width.
 */
export function specSheet(structure: Structure, engine: Engine): TextFile {
  const { width, height } = structure.drawn;
  const laid = reflow(standing(structure, { width }), width, engine, height);
  const tokens = structure.tokens ?? [];
  const tokenRows = tokens
    .map((t) => {
      const more =
        t.kind === 'length'
          ? (t.below ?? []).map((s) => `below ${s.width}: ${s.value} px`)
          : Object.entries(t.modes ?? {}).map(([mode, value]) => `${mode}: ${value}`);
      return `<tr><td>${escapeHtml(t.name)}</td><td>${escapeHtml(t.kind === 'length' ? `${t.value} px` : t.value)}</td><td>${escapeHtml(more.join('; '))}</td></tr>`;
    })
    .join('');
  return {
    name: 'spec.html',
    text: `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Specification of ${escapeHtml(structure.name)}</title>
<style>${CSS}</style>
</head>
<body>
<main>
<h1>${escapeHtml(structure.name)}</h1>
<p>Drawn ${round(width, 1)} × ${round(height, 1)}. Lengths are px of the frame.</p>
<svg width="0" height="0" aria-hidden="true"><defs><pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><path d="M0 0V6" stroke="#a54d24" stroke-width="1.2"/></pattern><marker id="tick" viewBox="0 0 6 6" refX="3" refY="3" markerWidth="6" markerHeight="6" orient="auto"><path d="M1 5L5 1" stroke="#1d2b34"/></marker></defs></svg>
${tokens.length > 0 ? `<h2>Tokens</h2><table><thead><tr><th scope="col">Name</th><th scope="col">Value</th><th scope="col">Elsewhere</th></tr></thead><tbody>${tokenRows}</tbody></table>` : ''}
<h2>Parts</h2>
${entries(structure.root)
  .map(({ part, path, copies }) => entry(part, path, copies, laid))
  .join('\n')}
</main>
</body>
</html>
`,
  };
}
