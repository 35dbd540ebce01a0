import type { Structure } from '../../model/index.js';
import { headingOf } from './titles.js';

/** The longest name of a screen. */
const MAX = 80;
/** Words that every drawing program calls a page or a file by. */
const EMPTY =
  /^(?:w|h|screen|frame|page|image|drawing|export|untitled|artboard|layer|copy|final|new|svg|pdf|html)$/i;

const tidy = (words: string): string => words.replace(/\s+/g, ' ').trim().slice(0, MAX);

/** What a file's own head says that it is called: the title of an SVG or HTML document, where it has one. */
export function titleIn(source: string): string | undefined {
  const head = source.slice(0, 64 * 1024);
  const found =
    /<svg\b[^>]*>\s*<title[^>]*>([^<]{1,200})<\/title>/i.exec(head) ??
    /<head\b[^]*?<title[^>]*>([^<]{1,200})<\/title>/i.exec(head);
  const title = tidy(found?.[1] ?? '');
  return title === '' ? undefined : title;
}

/** What the name of a file says besides the width that it is drawn at; undefined where that is nothing. */
export function wordsOfFile(file: string): string | undefined {
  const base = file.replace(/\.(?:svg|pdf|html?|json)$/i, '');
  const words = base.split(/[\s_.-]+/).filter((w) => !/^w?\d+(?:x\d+)?(?:px)?$/i.test(w));
  return words.some((w) => w.length > 1 && !EMPTY.test(w)) ? tidy(words.join(' ')) : undefined;
}

/**
 * What a screen is called when its drawing comes: by the title in its file, or what the file is called, or what stands out most on
 * it; the file's whole name where all of these say nothing.
 */
export const screenName = (file: string, source: string, heading: string | undefined): string =>
  titleIn(source) ??
  wordsOfFile(file) ??
  (heading === undefined || heading === '' ? tidy(file) || 'Screen' : heading);

/** A structure whose frame is called as its screen. */
export const calledAs = (structure: Structure, name: string): Structure => ({
  ...structure,
  name,
  root: { ...structure.root, name },
});

/** A structure called by its own name or, without one, as {@link screenName} says. */
export const namedAsScreen = (structure: Structure, file: string, source: string, own?: string): Structure =>
  calledAs(structure, own ?? screenName(file, source, headingOf(structure)));
