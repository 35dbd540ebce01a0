import {
  overridesAt,
  partsById,
  plainText,
  rangeWords,
  walk,
  type Part,
  type Range,
  type RuleName,
  type Rules,
  type Structure,
} from '../model/index.js';
import { RULE_LABELS, sayRule } from './words.js';

/** What is otherwise at a part than it was, in words. */
export interface PartChange {
  /** The id of the part, as it is now or, where it is gone, as it was. */
  readonly part: string;
  readonly name: string;
  readonly says: readonly string[];
}

type Said = { readonly [K in RuleName]?: Rules[K] | null };

function rulesChanged(before: Said, after: Said, where: string): string[] {
  const names = new Set([...Object.keys(before), ...Object.keys(after)] as RuleName[]);
  return [...names].flatMap((name) => {
    const [was, is] = [before[name], after[name]];
    if (JSON.stringify(was) === JSON.stringify(is)) return [];
    const say = (value: typeof was) =>
      value === undefined || value === null ? 'nothing' : sayRule(name, value as never);
    return [`${where}${RULE_LABELS[name]}: ${say(was)} → ${say(is)}`];
  });
}

function partChanged(before: Part, after: Part): string[] {
  const says: string[] = [];
  if (before.name !== after.name) says.push(`called “${before.name}” before`);
  says.push(...rulesChanged(before.rules, after.rules, ''));
  const ranges = new Set<Range>([...(before.below ?? []), ...(after.below ?? [])].map((o) => o.width));
  for (const range of [...ranges, 'wide' as const])
    says.push(
      ...rulesChanged(overridesAt(before, range), overridesAt(after, range), `${rangeWords(range)}: `),
    );
  const words = ({ content }: Part) => (content?.kind === 'text' ? plainText(content) : undefined);
  if (words(before) !== words(after)) says.push(`words: “${words(before) ?? ''}” → “${words(after) ?? ''}”`);
  else if (JSON.stringify(before.content) !== JSON.stringify(after.content))
    says.push('what it shows is otherwise');
  if (JSON.stringify(before.paint) !== JSON.stringify(after.paint)) says.push('its paint is otherwise');
  if (JSON.stringify(before.bound ?? {}) !== JSON.stringify(after.bound ?? {}))
    says.push('its tokens are others');
  if (before.pattern !== after.pattern)
    says.push(after.pattern === undefined ? 'no copy of a pattern any more' : `a copy of ${after.pattern}`);
  return says;
}

/**
 * What has changed between two states of a structure, part by part in the order in which they are read, tokens last. Parts are the
 * same where their ids are.
 */
export function changesSince(before: Structure, after: Structure): readonly PartChange[] {
  const found: PartChange[] = [];
  const parents = (root: Part) =>
    new Map([...walk(root)].flatMap((p) => p.children.map((c) => [c.id, p] as const)));
  const [was, is] = [parents(before.root), parents(after.root)];
  const olds = partsById(before.root);
  const news = new Set([...walk(after.root)].map((p) => p.id));
  for (const part of walk(after.root)) {
    const old = olds.get(part.id);
    const [from, to] = [was.get(part.id), is.get(part.id)];
    const says = old
      ? [
          ...(from && to && from.id !== to.id ? [`in “${to.name}”, in “${from.name}” before`] : []),
          ...partChanged(old, part),
        ]
      : [`new, in “${to?.name ?? ''}”`];
    if (says.length > 0) found.push({ part: part.id, name: part.name, says });
  }
  for (const part of olds.values())
    if (!news.has(part.id)) found.push({ part: part.id, name: part.name, says: ['gone'] });
  const tokens = new Map((before.tokens ?? []).map((t) => [t.name, t]));
  for (const token of after.tokens ?? []) {
    const old = tokens.get(token.name);
    if (JSON.stringify(old) === JSON.stringify(token)) continue;
    const says = old ? `token: ${old.value} → ${token.value}` : `new token: ${token.value}`;
    found.push({
      part: '',
      name: token.name,
      says: [old && old.value === token.value ? 'token: other values in ranges or modes' : says],
    });
  }
  const kept = new Set((after.tokens ?? []).map((t) => t.name));
  for (const name of tokens.keys()) if (!kept.has(name)) found.push({ part: '', name, says: ['token gone'] });
  return found;
}
