import { walk, type Part, type Structure, type TextStyle } from '../model/index.js';
import {
  faceKey,
  facesFor,
  familyNames,
  resolveFamily,
  UNICODE_RANGES,
  type Face,
  type Family,
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

/** The faces that the words of a screen are set in, by name; those of one file have its characters in common. */
export function fontFaces({ root }: Structure, own: readonly Family[] = []): FontFace[] {
  const found = new Map<string, FontFace>();
  const characters = new Map<string, Set<string>>();
  for (const { text, style } of runsOf(root)) {
    const name = leadingFamily(style.family, own);
    const { exact } = resolveFamily(style.family, own);
    for (const file of facesFor(text, style, own)) {
      const key = `${name}|${style.weight}|${style.italic}|${faceKey(file)}`;
      const set = characters.get(faceKey(file)) ?? new Set();
      for (const ch of text) set.add(ch);
      characters.set(faceKey(file), set);
      if (!found.has(key))
        found.set(key, {
          name,
          weight: style.weight,
          italic: style.italic,
          file,
          ...(!exact && style.sizeAdjust !== undefined && { sizeAdjust: style.sizeAdjust }),
          characters: '',
        });
    }
  }
  return [...found]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([, face]) => ({
      ...face,
      characters: [...(characters.get(faceKey(face.file)) ?? [])].sort().join(''),
    }));
}

/** The path of a face's file in the folder that leaves. */
export const fontPath = (file: Face): string => `fonts/${faceKey(file)}.woff2`;

/** The `@font-face` rules of some faces (CSS Fonts 4 §4), their files in the folder that leaves, or where `urlOf` says. */
export function fontFaceCss(faces: readonly FontFace[], urlOf?: (file: Face) => string): string {
  const percent = (n: number) => `${Math.round(n * 10_000) / 100}%`;
  return faces
    .map(({ name, weight, italic, file, sizeAdjust }) => {
      const range = file.subset === 'whole' ? undefined : UNICODE_RANGES[file.subset];
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
        .filter((f) => f.name.toLowerCase() !== f.file.family.family.toLowerCase())
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
