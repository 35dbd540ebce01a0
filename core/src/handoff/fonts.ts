import { walk, type Part, type Structure, type TextStyle } from '../model/index.js';
import {
  faceKey,
  facesFor,
  familyNames,
  resolveFamily,
  UNICODE_RANGES,
  type Face,
  type Family,
  type TextMeasurer,
} from '../text/index.js';

/** What a `font-family` list may say without naming a family (CSS Fonts 4 §2.1.2). */
export const GENERIC = /^(?:serif|sans-serif|monospace|cursive|fantasy|system-ui|ui-[a-z-]+|math|emoji)$/;

/** A face as the style sheet names it, with the font file that stands behind it. */
export interface FontFace {
  /** The family as the texts ask for it: their own name, whatever file stands in for it. */
  readonly name: string;
  readonly weight: number;
  readonly italic: boolean;
  readonly file: Face;
  /** Whether it serves only for letters that the family's own files lack. */
  readonly isBehind: boolean;
  /** By how much a font that stands in is enlarged so that words are as wide as they were drawn (CSS Fonts 5 `size-adjust`). */
  readonly sizeAdjust?: number;
  /** The characters of the screen that are set in it, in order, each once. */
  readonly characters: string;
}

/** The first family that a `font-family` list names, or, where it names none, the one that it gets. */
export function leadingFamily(list: string, own: readonly Family[] = []): string {
  const [first] = familyNames(list);
  return first !== undefined && !GENERIC.test(first) ? first : resolveFamily(list, own).family.family;
}

function* runsOf(root: Part): Generator<{ readonly text: string; readonly style: TextStyle }> {
  for (const { content } of walk(root)) {
    const text = content?.kind === 'turned' ? content.text : content;
    if (text?.kind === 'text') yield* text.runs.filter((r) => !r.drawn);
  }
}

/**
 * The faces that the words of a screen are set in, by name; those of one file have its characters in common. `measurer` knows which
 * file has a character; a file that has none of those that it is asked for is left out.
 */
export function fontFaces({ root }: Structure, measurer: TextMeasurer): FontFace[] {
  const { own } = measurer;
  const found = new Map<string, Omit<FontFace, 'characters'>>();
  const characters = new Map<string, Set<string>>();
  for (const { text, style } of runsOf(root)) {
    const name = leadingFamily(style.family, own);
    const { family, exact } = resolveFamily(style.family, own);
    const [first] = facesFor(text, style, own);
    for (const ch of text) {
      const file = measurer.servedBy(ch, style) ?? first;
      if (!file) continue;
      const set = characters.get(faceKey(file)) ?? new Set();
      characters.set(faceKey(file), set.add(ch));
      found.set(`${name}|${style.weight}|${style.italic}|${faceKey(file)}`, {
        name,
        weight: style.weight,
        italic: style.italic,
        file,
        isBehind: file.family !== family,
        ...(!exact && style.sizeAdjust !== undefined && { sizeAdjust: style.sizeAdjust }),
      });
    }
  }
  // Of two rules that name a letter the later one holds (CSS Fonts 4 §4.5): what a family lacks stands behind what it has.
  return [...found]
    .sort(([a, x], [b, y]) => Number(x.isBehind) - Number(y.isBehind) || (a < b ? -1 : 1))
    .map(([, face]) => ({
      ...face,
      characters: [...(characters.get(faceKey(face.file)) ?? [])].sort().join(''),
    }));
}

/** The letters of a text as a `unicode-range` (CSS Fonts 4 §4.5). */
const rangeOf = (characters: string): string =>
  Array.from(
    characters,
    (ch) => `U+${(ch.codePointAt(0) ?? 0).toString(16).toUpperCase().padStart(4, '0')}`,
  ).join(', ');

/** Which letters a face is asked for: what its file was cut down to or, where it stands behind others, those alone that they lack. */
function unicodeRange({ file, isBehind, characters }: FontFace): string | undefined {
  if (isBehind) return rangeOf(characters);
  return file.subset === 'whole' ? undefined : UNICODE_RANGES[file.subset];
}

/** The path of a face's file in the folder that leaves. */
export const fontPath = (file: Face): string => `fonts/${faceKey(file)}.woff2`;

/** The `@font-face` rules of some faces (CSS Fonts 4 §4), their files in the folder that leaves, or where `urlOf` says. */
export function fontFaceCss(faces: readonly FontFace[], urlOf?: (file: Face) => string): string {
  const percent = (n: number) => `${Math.round(n * 10_000) / 100}%`;
  return faces
    .map((face) => {
      const { name, weight, italic, file, sizeAdjust } = face;
      const range = unicodeRange(face);
      const lines = [
        `font-family: '${name.replace(/[^\p{L}\p{N} _-]/gu, '')}';`,
        `font-weight: ${weight};`,
        `font-style: ${italic ? 'italic' : 'normal'};`,
        `src: url('${urlOf ? urlOf(file) : fontPath(file)}')${urlOf ? '' : " format('woff2')"};`,
        ...(sizeAdjust === undefined ? [] : [`size-adjust: ${percent(sizeAdjust)};`]),
        ...(range === undefined ? [] : [`unicode-range: ${range};`]),
      ];
      return `@font-face {\n${lines.map((l) => `  ${l}\n`).join('')}}\n`;
    })
    .join('');
}

/** What the folder says about its fonts, as Markdown: which stand in for which, and under which licence they are. */
export function fontsReadme(faces: readonly FontFace[]): string {
  const families = [...new Set(faces.map((f) => f.file.family.family))].sort();
  const standIns = [
    ...new Set(
      faces
        .filter((f) => !f.isBehind && f.name.toLowerCase() !== f.file.family.family.toLowerCase())
        .map((f) => {
          const size =
            f.sizeAdjust === undefined ? '' : `, at ${Math.round(f.sizeAdjust * 1000) / 10} % of its size`;
          return `- “${f.name}” ${f.weight}${f.italic ? ' italic' : ''} is not in this folder: ${f.file.family.family} stands in for it${size}, so that words are as wide as they were drawn.`;
        }),
    ),
  ];
  return `# Fonts

The files in \`fonts\` hold ${families.join(', ')}, cut down to the letters of this screen and those of basic Latin. Each is under
its own licence, which lies beside it.
${standIns.length > 0 ? `\n${standIns.join('\n')}\n\nPut the real files in their places, and take \`size-adjust\` out of \`styles.css\`, where you have them.\n` : ''}`;
}
