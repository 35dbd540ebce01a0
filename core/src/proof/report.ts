import { escapeHtml } from '../handoff/index.js';
import { reflow, type Engine } from '../layout/index.js';
import { round, standing, walk, type Part, type Rect, type Structure } from '../model/index.js';
import { deviceAt, sheetWidths } from './devices.js';
import { formatExpectation } from './expectationLanguage.js';
import type { Held } from './expectations.js';
import { EXACT, type Deviation } from './faithful.js';
import { isAt, type Fault } from './faults.js';
import { KINDS } from './kinds.js';
import type { Range } from './prove.js';
import { wholeSentenceOf, widthsOf } from './sentences.js';

/** What a report tells of. */
export interface Reported {
  readonly structure: Structure;
  readonly engine: Engine;
  readonly range: Range;
  readonly faults: readonly Fault[];
  readonly expectations: readonly Held[];
  /** How far each item stands from its place in each drawing. */
  readonly drawings: readonly { readonly width: number; readonly deviations: readonly Deviation[] }[];
  /** The names of the trials that were run. */
  readonly trials: readonly string[];
}

/** All pictures of a contact sheet are at this scale. */
const SCALE = 0.16;
/** A picture shows no more of a long screen, frame px. */
const MOST_HEIGHT = 2400;
/** No more worst widths of faults are on a contact sheet. */
const MOST_WORST = 4;

const CSS = `
:root{--ink:#1d2b34;--paper:#f6f4ee;--line:#8a938f;--error:#b3261e;--warning:#8a5a00;--note:#44606b}
*{box-sizing:border-box}
body{margin:0;padding:32px;background:var(--paper);color:var(--ink);font:15px/1.45 system-ui,sans-serif}
h1{font-size:26px;margin:0 0 4px}h2{font-size:17px;margin:36px 0 10px;border-bottom:1px solid var(--ink);padding-bottom:4px}
p{margin:4px 0}.sheet{display:flex;flex-wrap:wrap;gap:20px;align-items:flex-start}
figure{margin:0;break-inside:avoid}figcaption{font-size:12px;margin-bottom:4px}
figure svg{display:block;border:1px solid var(--ink);background:#fff}
table{border-collapse:collapse;width:100%}th,td{text-align:left;vertical-align:top;padding:5px 12px 5px 0;border-bottom:1px solid #d5d2c8}
th{font-size:12px}td.number{font-variant-numeric:tabular-nums;white-space:nowrap}
.error{color:var(--error)}.warning{color:var(--warning)}.note{color:var(--note)}
@media print{body{padding:0;background:none}h2{break-after:avoid}tr{break-inside:avoid}}
`;

const solid = (part: Part): string => (part.paint?.fill?.kind === 'solid' ? part.paint.fill.colour : 'none');

/** A screen at a width as a small SVG picture: boxes with their paint, words as bars, faults as outlines. */
export function pictureAt(
  structure: Structure,
  engine: Engine,
  width: number,
  faults: readonly Fault[],
  scale = SCALE,
): string {
  const root = standing(structure, { width });
  const { parts, lines, height } = reflow(root, width, engine, structure.drawn.height);
  const rect = ({ x, y, width: w, height: h }: Rect, rest: string): string =>
    `<rect x="${round(x, 1)}" y="${round(y, 1)}" width="${round(w, 1)}" height="${round(h, 1)}" ${rest}/>`;
  const shapes = [...walk(root)].flatMap((part): string[] => {
    const box = parts.get(part.id);
    if (!box) return [];
    const words = lines.get(part.id);
    const { content } = part;
    if (words && content?.kind === 'text') {
      const colour = content.runs[0]?.style.colour ?? '#1d2b34';
      return words.map((line, i) => {
        const free = box.width - line.width;
        const x = box.x + (content.align === 'centre' ? free / 2 : content.align === 'end' ? free : 0);
        const y = box.y + (i + 0.28) * content.lineHeight;
        return rect(
          { x, y, width: line.width, height: content.lineHeight * 0.44 },
          `fill="${escapeHtml(colour)}" opacity=".75"`,
        );
      });
    }
    if (content?.kind === 'picture') return [rect(box, 'fill="#a9c4c2"')];
    if (content) return [rect(box, 'fill="#8a938f"')];
    const fill = solid(part);
    const stroke = part.paint?.stroke ? `stroke="${escapeHtml(part.paint.stroke.colour)}"` : '';
    return fill === 'none' && stroke === '' ? [] : [rect(box, `fill="${escapeHtml(fill)}" ${stroke}`)];
  });
  const here = faults.filter((f) => isAt(f, width));
  const marks = here.flatMap((fault) =>
    fault.parts.slice(0, 2).flatMap((id) => {
      const box = parts.get(id);
      const colour = fault.severity === 'error' ? '#b3261e' : '#c98a12';
      return box
        ? [rect(box, `fill="${colour}" fill-opacity=".12" stroke="${colour}" stroke-width="${2 / scale}"`)]
        : [];
    }),
  );
  const shown = Math.min(height, MOST_HEIGHT);
  return `<svg width="${Math.round(width * scale)}" height="${Math.round(shown * scale)}" viewBox="0 0 ${width} ${round(shown, 1)}" role="img" aria-label="The screen at ${width}">${shapes.join('')}${marks.join('')}</svg>`;
}

const rows = (cells: readonly (readonly string[])[]): string =>
  cells.map((row) => `<tr>${row.join('')}</tr>`).join('\n');
const cell = (text: string, kind = ''): string => `<td${kind && ` class="${kind}"`}>${escapeHtml(text)}</td>`;
const table = (heads: readonly string[], body: string): string =>
  `<table><thead><tr>${heads.map((h) => `<th scope="col">${escapeHtml(h)}</th>`).join('')}</tr></thead><tbody>${body}</tbody></table>`;

/** The report of a proof as one HTML page that needs nothing else and prints well. */
export function proofReport(reported: Reported): string {
  const { structure, engine, range, faults, expectations, drawings, trials } = reported;
  const names = new Map([...walk(structure.root)].map((p) => [p.id, p.name]));
  const nameOf = (id: string): string => names.get(id) ?? id;
  const plain = faults.filter((f) => f.trial === null);
  const worst = plain
    .filter((f) => f.severity === 'error')
    .slice(0, MOST_WORST)
    .map((f) => f.place.width);
  const widths = sheetWidths(
    drawings.map((d) => d.width),
    worst,
    range,
  );
  const count = (severity: Fault['severity']) => faults.filter((f) => f.severity === severity).length;
  const owners = new Map([...walk(structure.root)].flatMap((p) => p.source.map((s) => [s, p.name] as const)));
  const held = expectations.filter((h) => h.holds).length;
  const sheet = widths
    .map(
      (w) =>
        `<figure><figcaption><b>${w}</b> ${escapeHtml(drawings.some((d) => Math.round(d.width) === w) ? 'drawn' : deviceAt(w))}</figcaption>${pictureAt(structure, engine, w, plain)}</figure>`,
    )
    .join('\n');
  const faultRows = rows(
    faults.map((f) => [
      cell(f.severity, f.severity),
      cell(`${wholeSentenceOf(f, nameOf)}.`),
      cell(KINDS[f.kind].label),
      cell(widthsOf(f), 'number'),
      cell(f.trial ?? 'as it is'),
    ]),
  );
  const expectationRows = rows(
    expectations.map((h) => [
      cell(h.holds ? 'holds' : 'broken', h.holds ? '' : 'error'),
      cell(formatExpectation(h.expectation)),
      cell(h.reason ?? h.broken.map(widthsOf).join(', '), 'number'),
    ]),
  );
  const drawn = drawings.map(({ width, deviations }) => {
    const off = deviations.filter((d) => d.by > EXACT).sort((a, b) => b.by - a.by);
    const words =
      off.length === 0
        ? `All ${deviations.length} items stand within ${EXACT} px of where they were drawn.`
        : `${deviations.length - off.length} of ${deviations.length} items stand within ${EXACT} px of where they were drawn.`;
    const body = rows(
      off.map((d) => [
        cell(owners.get(d.item) ?? d.item),
        cell(d.item),
        cell(Number.isFinite(d.by) ? `${round(d.by, 2)} px` : 'not shown', 'number'),
      ]),
    );
    return `<h2>Drawn at ${width}</h2><p>${words}</p>${off.length > 0 ? table(['Part', 'Item of the drawing', 'Off by'], body) : ''}`;
  });
  return `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Proof of ${escapeHtml(structure.name)}</title>
<style>${CSS}</style>
</head>
<body>
<main>
<h1>Proof of ${escapeHtml(structure.name)}</h1>
<p>Every whole frame width from ${range.from} to ${range.to}: ${count('error')} errors, ${count('warning')} warnings, ${count('note')} notes. ${expectations.length > 0 ? `${held} of ${expectations.length} expectations hold.` : 'No expectations are stated.'}</p>
<p>Trials: ${trials.length > 0 ? escapeHtml(trials.join(', ')) : 'none'}.</p>
<h2>Contact sheet</h2>
<div class="sheet">
${sheet}
</div>
<h2>Faults</h2>
${faults.length > 0 ? table(['', 'What', 'Kind', 'Widths', 'Trial'], faultRows) : '<p>None.</p>'}
<h2>Expectations</h2>
${expectations.length > 0 ? table(['', 'Expectation', 'Broken at'], expectationRows) : '<p>None.</p>'}
${drawn.join('\n')}
</main>
</body>
</html>
`;
}
