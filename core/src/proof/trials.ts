import {
  LENGTH_PLACES,
  round,
  walk,
  type Content,
  type Edges,
  type Part,
  type Structure,
  type TextContent,
} from '../model/index.js';
import { seeded } from './random.js';
import type { View } from './scene.js';

/** Scripts that words can be written in instead. */
export const SCRIPTS = ['arabic', 'hebrew'] as const;
export type Script = (typeof SCRIPTS)[number];

/** Content or conditions that a screen has to bear, other than it was drawn with. */
export type Trial =
  | { readonly kind: 'longer-text'; readonly percent: number }
  | { readonly kind: 'long-word'; readonly letters: number }
  | { readonly kind: 'empty-text'; readonly percent: number; readonly seed: number }
  | { readonly kind: 'other-script'; readonly script: Script }
  | { readonly kind: 'right-to-left' }
  | { readonly kind: 'more-instances'; readonly more: number }
  | { readonly kind: 'fewer-instances'; readonly left: number }
  | { readonly kind: 'hidden-part'; readonly percent: number; readonly seed: number }
  | { readonly kind: 'no-pictures' }
  | { readonly kind: 'larger-type'; readonly percent: number }
  | { readonly kind: 'flat-frame'; readonly height: number }
  | { readonly kind: 'insets'; readonly insets: Edges };

export type TrialKind = Trial['kind'];

/** The trials by name, with the settings that they have where nothing else is said. */
export const TRIALS = {
  'longer-text': { kind: 'longer-text', percent: 30 },
  'twice-the-text': { kind: 'longer-text', percent: 100 },
  'long-word': { kind: 'long-word', letters: 24 },
  'empty-text': { kind: 'empty-text', percent: 30, seed: 1 },
  'other-script': { kind: 'other-script', script: 'arabic' },
  'right-to-left': { kind: 'right-to-left' },
  'more-instances': { kind: 'more-instances', more: 3 },
  'fewer-instances': { kind: 'fewer-instances', left: 1 },
  'hidden-part': { kind: 'hidden-part', percent: 15, seed: 1 },
  'no-pictures': { kind: 'no-pictures' },
  // WCAG 2.2 §1.4.4 asks for twice the size without loss.
  'larger-type': { kind: 'larger-type', percent: 200 },
  'flat-frame': { kind: 'flat-frame', height: 360 },
  insets: { kind: 'insets', insets: { top: 47, right: 44, bottom: 34, left: 44 } },
} as const satisfies Record<string, Trial>;

export type TrialName = keyof typeof TRIALS;
export const TRIAL_NAMES = Object.keys(TRIALS) as readonly TrialName[];

/** Ids in a screen by those in a copy of it. */
export type Originals = ReadonlyMap<string, string | null>;

/** A copy of a screen as a trial has it. */
export interface Tried {
  readonly structure: Structure;
  readonly view: View;
  /** The ids that parts of the copy have in the screen, where they are others; null for what the trial takes away. */
  readonly original: Originals;
}

const mapped = (part: Part, change: (part: Part) => Part): Part => {
  const own = change(part);
  const children = own.children.map((c) => mapped(c, change));
  return children.every((c, i) => c === own.children[i]) ? own : { ...own, children };
};

const withTexts = (structure: Structure, change: (content: TextContent) => TextContent): Structure => ({
  ...structure,
  root: mapped(structure.root, (part) =>
    part.content?.kind === 'text' ? { ...part, content: change(part.content) } : part,
  ),
});

/** Words that go on with themselves until they are longer by a share; numbers and single letters stay. */
function longer(content: TextContent, percent: number): TextContent {
  const text = content.runs.map((r) => r.text).join('');
  const words = text.match(/\p{L}{2,}/gu) ?? [];
  const last = content.runs.at(-1);
  if (!last || words.length === 0) return content;
  let more = '';
  const wanted = Math.ceil((text.length * percent) / 100);
  for (let i = 0; more.length < wanted; i++) more += ` ${words[i % words.length] ?? ''}`;
  const space = more.lastIndexOf(' ', wanted);
  // A whole word at least, so that short labels grow, too.
  const added = space > 0 ? more.slice(0, space) : more.slice(0, Math.max(wanted, 2));
  return { ...content, runs: [...content.runs.slice(0, -1), { ...last, text: last.text.trimEnd() + added }] };
}

/** The longest word made as long as words of languages that join them. */
function longWord(content: TextContent, letters: number): TextContent {
  const words = content.runs.flatMap((r) => r.text.match(/\p{L}{3,}/gu) ?? []);
  const longest = words.reduce((a, b) => (b.length > a.length ? b : a), '');
  if (longest === '' || longest.length >= letters) return content;
  const grown =
    longest +
    longest
      .toLowerCase()
      .repeat(Math.ceil(letters / longest.length))
      .slice(0, letters - longest.length);
  let done = false;
  const runs = content.runs.map((r) => {
    if (done || !r.text.includes(longest)) return r;
    done = true;
    return { ...r, text: r.text.replace(longest, grown) };
  });
  return { ...content, runs };
}

const LETTERS: Readonly<Record<Script, string>> = {
  arabic: 'ابتثجحخدذرزسشصضطظعغفقكلمنهوي',
  hebrew: 'אבגדהוזחטיכלמנסעפצקרשת',
};

/** Every letter as one of another script: words as long and as many, with other shapes and widths. */
function inScript(content: TextContent, script: Script): TextContent {
  const letters = Array.from(LETTERS[script]);
  const other = (letter: string) => letters[(letter.codePointAt(0) ?? 0) % letters.length] ?? letter;
  return { ...content, runs: content.runs.map((r) => ({ ...r, text: r.text.replaceAll(/\p{L}/gu, other) })) };
}

const scaledText = (content: TextContent, times: number): TextContent => ({
  ...content,
  lineHeight: round(content.lineHeight * times, 2),
  runs: content.runs.map((r) => ({ ...r, style: { ...r.style, size: round(r.style.size * times, 2) } })),
});

/** Type and its lines larger, wherever their sizes are said: in the words, or by tokens. */
function largerType(structure: Structure, percent: number): Structure {
  const times = percent / 100;
  const places = LENGTH_PLACES.filter((p) => p.startsWith('text.'));
  const typeTokens = new Set(
    [...walk(structure.root)].flatMap((p) => places.map((place) => p.bound?.[place] ?? '')),
  );
  const scaled = withTexts(structure, (content) => scaledText(content, times));
  return {
    ...scaled,
    ...(structure.tokens && {
      tokens: structure.tokens.map((t) =>
        t.kind === 'length' && typeTokens.has(t.name)
          ? {
              ...t,
              value: t.value * times,
              ...(t.below && { below: t.below.map((b) => ({ ...b, value: b.value * times })) }),
            }
          : t,
      ),
    }),
  };
}

/** A copy of a part under ids of its own. */
function copied(part: Part, n: number, original: Map<string, string | null>): Part {
  const id = `${part.id}~${n}`;
  original.set(id, part.id);
  return { ...part, id, children: part.children.map((c) => copied(c, n, original)) };
}

/** Runs of a pattern's instances with more or fewer of them; those that have cells of their own stay. */
function withInstances(
  structure: Structure,
  change: (instances: readonly Part[]) => readonly Part[],
): Structure {
  const root = mapped(structure.root, (part) => {
    const patterns = new Set(part.children.flatMap((c) => c.pattern ?? []));
    if (patterns.size === 0) return part;
    const children = [...patterns].reduce<readonly Part[]>((all, pattern) => {
      const instances = all.filter((c) => c.pattern === pattern);
      const fixed = instances.some((c) => c.rules.pin ?? c.rules.cell?.column ?? c.rules.cell?.row);
      if (fixed || instances.length < 2) return all;
      const after = change(instances);
      const last = all.lastIndexOf(instances.at(-1) as Part);
      return [
        ...all.slice(0, last + 1).filter((c) => c.pattern !== pattern || after.includes(c)),
        ...after.filter((c) => !instances.includes(c)),
        ...all.slice(last + 1),
      ];
    }, part.children);
    return { ...part, children };
  });
  return { ...structure, root };
}

/** Some parts hidden, as if the screen had never had them. */
function without(tried: Tried, isHidden: (part: Part) => boolean): Tried {
  const original = new Map(tried.original);
  const root = mapped(tried.structure.root, (part) => {
    if (!isHidden(part)) return part;
    original.set(part.id, null);
    return { ...part, rules: { ...part.rules, hidden: true } };
  });
  return { ...tried, structure: { ...tried.structure, root }, original };
}

const emptied = (content: Content): Content =>
  content.kind === 'text' ? { ...content, runs: content.runs.map((r) => ({ ...r, text: '' })) } : content;

function withTrial(tried: Tried, trial: Trial): Tried {
  const { structure } = tried;
  const other = (next: Structure): Tried => ({ ...tried, structure: next });
  switch (trial.kind) {
    case 'longer-text':
      return other(withTexts(structure, (content) => longer(content, trial.percent)));
    case 'long-word':
      return other(withTexts(structure, (content) => longWord(content, trial.letters)));
    case 'empty-text': {
      const random = seeded(trial.seed);
      const root = mapped(structure.root, (part) =>
        part.content?.kind === 'text' && random() * 100 < trial.percent
          ? { ...part, content: emptied(part.content) }
          : part,
      );
      return other({ ...structure, root });
    }
    case 'other-script':
      return {
        ...tried,
        structure: withTexts(structure, (content) => inScript(content, trial.script)),
        view: { ...tried.view, direction: 'rtl' },
      };
    case 'right-to-left':
      return { ...tried, view: { ...tried.view, direction: 'rtl' } };
    case 'more-instances': {
      const original = new Map(tried.original);
      const more = withInstances(structure, (all) => [
        ...all,
        ...Array.from({ length: trial.more }, (_, n) => copied(all[n % all.length] as Part, n + 1, original)),
      ]);
      return { ...tried, structure: more, original };
    }
    case 'fewer-instances':
      return other(withInstances(structure, (all) => all.slice(0, Math.max(1, trial.left))));
    case 'hidden-part': {
      const random = seeded(trial.seed);
      return without(tried, (part) => part.kind !== 'container' && random() * 100 < trial.percent);
    }
    case 'no-pictures':
      return without(tried, (part) => part.kind === 'picture' && part.content?.kind === 'picture');
    case 'larger-type':
      return other(largerType(structure, trial.percent));
    case 'flat-frame':
      return { ...tried, view: { ...tried.view, height: trial.height } };
    case 'insets':
      return { ...tried, view: { ...tried.view, insets: trial.insets } };
  }
}

/** The screen as one trial, or several at once, have it. The structure itself is never changed. */
export const tryWith = (structure: Structure, ...trials: readonly Trial[]): Tried =>
  trials.reduce(withTrial, { structure, view: {}, original: new Map() });
