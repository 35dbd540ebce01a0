import type { TextStyle } from '../../model/index.js';
import type { Note } from '../items.js';
import type { RawDrawing, RawText } from '../raw.js';
import type { GlyphTable } from './glyphTable.js';
import { piecesOf, replaced } from './pieces.js';
import { recognise, type ReadLine } from './recognise.js';

function styleOf({ style, size, paint }: ReadLine, table: GlyphTable): TextStyle {
  const { family, weight, italic } = table.styles[style] ?? { family: 'Inter', weight: 400, italic: false };
  return { family, size, weight, italic, letterSpacing: 0, colour: paint };
}

const textOf = (line: ReadLine, style: TextStyle, id: string, groups: readonly string[]): RawText => ({
  kind: 'text',
  id,
  groups,
  outlined: { glyphs: line.glyphs, doubtful: line.doubtful },
  chunks: [
    {
      x: line.x,
      y: line.baseline,
      anchor: 'start',
      span: line.span,
      last: line.last,
      runs: [{ text: line.text, style }],
    },
  ],
});

const shareOf = (part: number, whole: number): string =>
  part === whole ? '100 %' : `${Math.min(99, Math.floor((part / whole) * 100))} %`;

interface Told {
  readonly line: ReadLine;
  readonly id: string;
  readonly style: TextStyle;
}

/** What was read of words that a drawing has as outlines, and what of it is doubtful. */
function notesOf(told: readonly Told[]): Note[] {
  const byStyle = new Map<string, Told[]>();
  for (const one of told) {
    const { family, weight, italic, size } = one.style;
    const name = `${family}${weight === 400 ? '' : ` ${weight}`}${italic ? ' italic' : ''} ${size}`;
    byStyle.set(name, [...(byStyle.get(name) ?? []), one]);
  }
  const read = [...byStyle].map(([name, own]): Note => {
    const glyphs = own.reduce((sum, { line }) => sum + line.glyphs, 0);
    const sure = glyphs - own.reduce((sum, { line }) => sum + line.doubtful.length, 0);
    const of = `${shareOf(sure, glyphs)} of ${glyphs} ${glyphs === 1 ? 'glyph' : 'glyphs'}`;
    return {
      kind: 'cleaned up',
      text: `words were outlines: read as ${name} (${of})`,
      items: own.map((o) => o.id),
    };
  });
  const doubtful = told.filter(({ line }) => line.doubtful.length > 0);
  if (doubtful.length === 0) return read;
  const pairs = new Set(doubtful.flatMap(({ line }) => line.doubtful.map((d) => `${d.read} (or ${d.or})`)));
  const text = `Letters of one shape were told apart by nothing but their place: ${[...pairs].join(', ')}. Look at these words.`;
  return [...read, { kind: 'not understood', text, items: doubtful.map((d) => d.id) }];
}

/** A drawing with its words, where they are outlines of known glyphs, as texts. */
export function withWords(raw: RawDrawing, table: GlyphTable): RawDrawing {
  const pieces = piecesOf(raw.items);
  const lines = recognise(pieces, table);
  if (lines.length === 0) return raw;
  const told: Told[] = [];
  const items = replaced(
    raw.items,
    pieces,
    lines.map((line) => ({
      ...line,
      text: (id, groups) => {
        const style = styleOf(line, table);
        told.push({ line, id, style });
        return textOf(line, style, id, groups);
      },
    })),
  );
  return { ...raw, items, notes: [...raw.notes, ...notesOf(told)] };
}
