import { plainText, type LengthToken, type Part } from '../model/index.js';
import { LengthTokens, typeSize } from './typeSteps.js';

/** Type from this size on is set smaller in narrow frames, px. */
const LARGE_TYPE = 30;
/** What is over the size of running text shrinks to this share. */
const RUNNING = 17;
const SHRINKS = 0.6;
/** Below this frame width large type steps down, px. */
const STEPS_BELOW = 720;

/** Words, not a number that is set large in a card. */
const isHeading = (text: string): boolean => /\p{L}\S*\s+\S/u.test(text.trim());

/** Steps large type down for narrow frames, as tokens that its texts share. */
export function stepDown(root: Part): { readonly root: Part; readonly tokens: readonly LengthToken[] } {
  const tokens = new LengthTokens();
  const token = (what: 'type' | 'line', value: number, then: number): string =>
    tokens.stepped(what, { value, then, below: STEPS_BELOW });
  const type = (part: Part): Part => {
    if (part.content?.kind !== 'text' || !isHeading(plainText(part.content))) return part;
    const size = typeSize(part.content);
    if (size === undefined || size < LARGE_TYPE) return part;
    const smaller = Math.round(RUNNING + (size - RUNNING) * SHRINKS);
    const { lineHeight } = part.content;
    const bound = {
      'text.size': token('type', size, smaller),
      'text.lineHeight': token('line', lineHeight, Math.round((lineHeight * smaller) / size)),
    };
    return { ...part, bound: { ...part.bound, ...bound } };
  };
  const visit = (part: Part): Part => {
    const own = type(part);
    const children = part.children.map(visit);
    return children.every((c, i) => c === part.children[i]) ? own : { ...own, children };
  };
  return { root: visit(root), tokens: tokens.all };
}
