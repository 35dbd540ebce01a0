import { MAX_ID, MAX_NAME, MAX_TEXT, type TextRun } from '../model/index.js';
import { rawId } from './cleanUp.js';
import type { Note } from './items.js';
import type { RawDrawing, RawItem, RawText } from './raw.js';
import type { Chunk } from './svgText.js';

const cutNote = (text: string, items: readonly string[]): Note => ({ kind: 'fell back', text, items });

/** Short ids for those that a document does not take, each unlike all others. */
function shortIds(items: readonly RawItem[]): ReadonlyMap<string, string> {
  const taken = new Set(items.map(rawId));
  const short = new Map<string, string>();
  for (const id of taken) {
    if (id.length > 0 && id.length <= MAX_ID) continue;
    let n = 1;
    let own: string;
    do own = `${id.slice(0, MAX_ID - 8) || 'item'}-${n++}`;
    while (taken.has(own));
    taken.add(own);
    short.set(id, own);
  }
  return short;
}

const lengthOf = (text: RawText): number =>
  text.chunks.reduce((sum, c) => sum + c.runs.reduce((s, r) => s + r.text.length, 0), 0);

/** The text with its first {@link MAX_TEXT} characters alone. */
function cutText(text: RawText): RawText {
  let left = MAX_TEXT;
  const cut = (run: TextRun): TextRun => {
    const kept = run.text.slice(0, left);
    left -= kept.length;
    return { ...run, text: kept };
  };
  const chunks = text.chunks
    .map((c): Chunk => ({ ...c, runs: c.runs.map(cut).filter((r) => r.text !== '') }))
    .filter((c) => c.runs.length > 0);
  return { ...text, chunks };
}

const withFamilies = (run: TextRun): TextRun =>
  run.style.family.length <= MAX_NAME
    ? run
    : { ...run, style: { ...run.style, family: run.style.family.slice(0, MAX_NAME) } };

/**
 * The drawing within the limits of a document, so that what is read can be kept: names, ids and texts that are longer
 * are cut, and the drawing's notes say so.
 */
export function bounded(raw: RawDrawing): RawDrawing {
  const short = shortIds(raw.items);
  const long: string[] = [];
  const idOf = (id: string): string => short.get(id) ?? id;
  const items = raw.items.map((item): RawItem => {
    if (item.kind !== 'text')
      return short.has(item.item.id)
        ? ({ ...item, item: { ...item.item, id: idOf(item.item.id) } } as RawItem)
        : item;
    const named = short.has(item.id) ? { ...item, id: idOf(item.id) } : item;
    const families = {
      ...named,
      chunks: named.chunks.map((c) => ({ ...c, runs: c.runs.map(withFamilies) })),
    };
    if (lengthOf(families) <= MAX_TEXT) return families;
    long.push(families.id);
    return cutText(families);
  });
  return {
    ...raw,
    name: raw.name.slice(0, MAX_NAME),
    items,
    notes: [
      ...raw.notes,
      ...(long.length > 0 ? [cutNote(`Texts of more than ${MAX_TEXT} characters were cut.`, long)] : []),
      ...(short.size > 0
        ? [
            cutNote(`Ids that are empty or longer than ${MAX_ID} characters were replaced.`, [
              ...short.values(),
            ]),
          ]
        : []),
    ],
  };
}
