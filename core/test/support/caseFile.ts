import { readFileSync, readdirSync } from 'node:fs';
import {
  parseCell,
  parsePin,
  parseRuleLine,
  parseTrack,
  withChange,
  type Parsed,
  type Part,
  type Rules,
} from '@tinfold/core/model';
import { bar, box, group, icon, line, picture, prose, scrim, spring } from './known.js';

/** A screen whose structure is known: it is drawn at a width, and is to be read back. */
export interface Known {
  readonly name: string;
  readonly width: number;
  readonly root: Part;
  /** What the drawing leaves open, so that it is asked about. */
  readonly asks: readonly string[];
  /** Whether the drawing fits several ways to say it, so that only where things stand in other frames is told. */
  readonly inPlaces: boolean;
}

interface Row {
  readonly depth: number;
  readonly text: string;
}

/** Words of texts that say none: each takes the next. */
const PORTS = ['Marrow Isle', 'Low Tarn', 'Nether Quay', 'Ellin Skerry', 'Gull Point', 'Old Pier', 'Westing'];
const LONG =
  'Foot passengers board by the north ramp until five minutes before the boat leaves; bicycles wait beside the ramp until all cars are aboard.';

function valueOf<T>(parsed: Parsed<T>, row: string): T {
  if (!parsed.ok) throw new Error(`${parsed.reason} It stands in “${row}”.`);
  return parsed.value;
}

/** What stands after a `|`: rules that have no word in a line of rules. */
function further(text: string): Rules {
  const [key = '', ...rest] = text.split(' ');
  const value = rest.join(' ');
  if (key === 'pin') return { pin: valueOf(parsePin(value), text) };
  if (key === 'cell') return { cell: valueOf(parseCell(value), text) ?? {} };
  if (key === 'rows') return { autoRows: valueOf(parseTrack(value), text) };
  throw new Error(`“${key}” is no rule of a case: write pin, cell or rows.`);
}

/** One row as a part: `box col gap 8 pad 16 fill`, `text 20 fill "Sailings" | pin top 8 right 8`. */
function partOf(row: string, children: readonly Part[], next: () => string): Part {
  const [said = '', ...more] = row.split(' | ');
  const quoted = /"(.*)"/.exec(said)?.[1];
  const [kind = '', ...words] = said.replace(/".*"/, '').trim().split(/\s+/);
  const side = kind === 'text' || kind === 'icon' ? Number(words[0]) : NaN;
  const ruled = words.slice(Number.isNaN(side) ? 0 : 1).join(' ');
  const typed: Rules = ruled === '' ? {} : withChange({}, valueOf(parseRuleLine(ruled), row));
  const rules = more.map(further).reduce((all, one) => ({ ...all, ...one }), typed);
  switch (kind) {
    case 'box':
      return box(rules, ...children);
    case 'group':
      return group(rules, ...children);
    case 'text':
      return line(quoted ?? next(), Number.isNaN(side) ? 16 : side, rules);
    case 'prose':
      return prose(quoted ?? LONG, rules);
    case 'icon':
      return icon(side, rules);
    case 'shape':
      return bar(rules);
    case 'picture':
      return picture(rules, ...children);
    case 'scrim':
      return scrim(rules, ...children);
    case 'spring':
      return spring();
    default:
      throw new Error(`“${kind}” is no part of a case: it stands in “${row}”.`);
  }
}

/** The parts of rows: those at the first one's depth, with what is deeper in them; `3 × text` is one three times. */
function partsFrom(rows: readonly Row[], next: () => string): Part[] {
  const depth = rows[0]?.depth ?? 0;
  const starts = rows.flatMap((r, i) => (r.depth === depth ? [i] : []));
  return starts.flatMap((start, i) => {
    const inner = rows.slice(start + 1, starts[i + 1]);
    const [, count = '1', row = ''] = /^(?:(\d+) × )?(.*)$/.exec(rows[start]?.text ?? '') ?? [];
    return Array.from({ length: Number(count) }, () => {
      const children = inner.length > 0 ? partsFrom(inner, next) : [];
      return partOf(row, children, next);
    });
  });
}

/** `{16|24|32}` is another value in each size of a case. */
const inSize = (text: string, size: number): string =>
  text.replace(/\{([^}]*)\}/g, (_, values: string) => values.split('|')[size] ?? '');

/**
 * Reads the cases of a file: a name after `#`, the frame's width in three sizes, how they are told apart and what is asked, and
 * the structure as indented rows.
 */
export function casesIn(file: string): Known[] {
  return file
    .split(/^# /m)
    .slice(1)
    .flatMap((text) => {
      const [name = '', head = '', ...rows] = text.split('\n').filter((row) => row.trim() !== '');
      const sizes = /\{([^}]*)\}/.exec(head)?.[1]?.split('|').length ?? 1;
      return Array.from({ length: sizes }, (_, size): Known => {
        const [, width = '', places, asks = ''] =
          /^width (\d+)( in places)?(?: asks (.*))?$/.exec(inSize(head, size)) ?? [];
        let taken = 0;
        const next = () => PORTS[taken++ % PORTS.length] as string;
        const [root] = partsFrom(
          rows.map((row) => ({ depth: row.search(/\S/), text: inSize(row.trim(), size) })),
          next,
        );
        if (!root || !(Number(width) > 0)) throw new Error(`The case “${name}” has no width or no parts.`);
        return {
          name: `${name}, ${width} wide`,
          width: Number(width),
          root,
          asks: asks.split(' ').filter(Boolean),
          inPlaces: places !== undefined,
        };
      });
    });
}

/** All cases of the folder beside the tests of the reader, by file. */
export function knownCases(): { readonly file: string; readonly cases: readonly Known[] }[] {
  const folder = new URL('../infer/cases/', import.meta.url);
  return readdirSync(folder)
    .sort()
    .map((file) => ({ file, cases: casesIn(readFileSync(new URL(file, folder), 'utf8')) }));
}
