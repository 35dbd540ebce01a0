import {
  FILL,
  FIT,
  NO_PADDING,
  walk,
  changedRules,
  withOverride,
  type Content,
  type LengthToken,
  type Part,
  type RuleChange,
  type Rules,
} from '../model/index.js';
import { CLOSER } from './repair.js';
import { LengthTokens, typeSize } from './typeSteps.js';

/** A structure's tree with what another width changes about it. */
export interface Merged {
  readonly root: Part;
  readonly tokens: readonly LengthToken[];
}

/** The rules of the second that differ from those of the first, as a change of the first. */
const changeTo = (first: Rules, second: Rules): RuleChange =>
  Object.fromEntries(changedRules(first, second).map((n) => [n, second[n] ?? null]));

/** A wrapper that changes nothing: it sits where the part sat, and the part fills it or fits in it. */
function wrapped(part: Part, wrapper: Part): Part {
  const { alignSelf, gapBefore, pin, order, cell, width, height, minWidth, maxWidth, ...own } = part.rules;
  const seat: Rules = {
    ...(alignSelf && { alignSelf }),
    ...(gapBefore !== undefined && { gapBefore }),
    ...(pin && { pin }),
    ...(order !== undefined && { order }),
    ...(cell && { cell }),
  };
  const fills = width?.kind === 'fill' || width?.kind === 'share';
  const outer: Rules = {
    ...seat,
    flow: 'column',
    padding: NO_PADDING,
    ...(fills && { width }),
    ...(fills && minWidth !== undefined && { minWidth }),
    ...(fills && maxWidth !== undefined && { maxWidth }),
    ...(height?.kind === 'fill' && { height }),
  };
  const inner: Rules = {
    ...own,
    width: fills ? FILL : (width ?? FIT),
    ...(height && { height }),
    ...(!fills && minWidth !== undefined && { minWidth }),
    ...(!fills && maxWidth !== undefined && { maxWidth }),
  };
  return { ...wrapper, rules: outer, children: [{ ...part, rules: inner }] };
}

/** A forced break holds at all widths or at none. */
function withoutBreak(rules: Rules): Rules {
  const { newLine: _newLine, ...rest } = rules;
  return rest;
}

/** A picture that has a height of its own in the first has one in the second, whatever its ratio is there. */
function keptKind(first: Rules, second: Rules): Rules {
  const { height } = second;
  return first.height?.kind === 'fixed' && height?.kind === 'ratio'
    ? { ...second, height: { kind: 'fixed', px: height.height } }
    : second;
}

/** Words with their letters as close as in either drawing: where one of them leaves a hair less room than they take. */
function withClosest(content: Content, other: Content | undefined): Content {
  if (content.kind !== 'text' || other?.kind !== 'text' || content.runs.length !== other.runs.length)
    return content;
  const closer = content.runs.map(({ style }, i) => {
    const spacing = other.runs[i]?.style.letterSpacing ?? Infinity;
    return spacing < style.letterSpacing && spacing >= style.letterSpacing - CLOSER ? spacing : undefined;
  });
  if (closer.every((c) => c === undefined)) return content;
  const runs = content.runs.map((run, i) => ({
    ...run,
    style: { ...run.style, letterSpacing: closer[i] ?? run.style.letterSpacing },
  }));
  return { ...content, runs };
}

/** Puts two readings of one grouping together: the second's rules hold in frames narrower than `below`. */
export class Merger {
  readonly #below: number;
  readonly #stands = new Map<string, Part>();
  readonly #tokens: LengthTokens;

  /** `stands` is the first as it stands at the second's width already, where it has overrides. */
  constructor(below: number, stands: Part, tokens: readonly LengthToken[]) {
    this.#below = below;
    for (const part of walk(stands)) this.#stands.set(part.id, part);
    this.#tokens = new LengthTokens(tokens);
  }

  merge(wide: Part, narrow: Part): Merged {
    const root = this.#part(wide, narrow);
    return { root, tokens: this.#tokens.all };
  }

  #part(wide: Part, narrow: Part): Part {
    const children = this.#children(wide, narrow);
    const content = wide.content && withClosest(wide.content, narrow.content);
    const part: Part = { ...wide, children, ...(content && { content }) };
    const before = this.#standing(wide).rules;
    const change = changeTo(withoutBreak(before), keptKind(before, withoutBreak(narrow.rules)));
    return this.#stepped(withOverride(part, this.#below, change), narrow.content);
  }

  #standing(part: Part): Part {
    return (part.below && this.#stands.get(part.id)) ?? part;
  }

  #children(wide: Part, narrow: Part): readonly Part[] {
    const own = new Map(wide.children.map((c) => [c.id, c]));
    /** The second's children by the id of the first's that they are, or wrap. */
    const seats = new Map<string, Part>();
    for (const child of narrow.children) {
      const [inner] = child.children;
      const wraps =
        !own.has(child.id) && child.children.length === 1 && inner !== undefined && own.has(inner.id);
      if (own.has(child.id) || wraps) seats.set(wraps ? inner.id : child.id, child);
    }
    const merged = wide.children.map((child): Part => {
      const seat = seats.get(child.id);
      if (!seat) return withOverride(child, this.#below, { hidden: true });
      if (seat.id === child.id) return this.#part(child, seat);
      // What differs between widths already is not wrapped as well.
      if (child.below) return this.#part(child, seat.children[0] as Part);
      const neutral = wrapped(child, seat);
      const inner = neutral.children[0] as Part;
      const wrapper = withOverride(neutral, this.#below, changeTo(neutral.rules, seat.rules));
      return { ...wrapper, children: [this.#part(inner, seat.children[0] as Part)] };
    });
    const shown = new Set([...seats.values()].map((s) => s.id));
    for (const [i, child] of narrow.children.entries()) {
      if (shown.has(child.id)) continue;
      const before = narrow.children[i - 1];
      const at = merged.findIndex((c) => c.id === before?.id) + 1;
      merged.splice(at, 0, this.#added(child));
    }
    return this.#ordered(merged, narrow);
  }

  /** Something that only the narrower drawing has. */
  #added(part: Part): Part {
    return withOverride({ ...part, rules: { ...part.rules, hidden: true } }, this.#below, { hidden: null });
  }

  /** Gives children the order that they have in the second, where it is another. */
  #ordered(children: readonly Part[], narrow: Part): readonly Part[] {
    const rank = new Map(narrow.children.filter((c) => !c.rules.pin).map((c, i) => [c.id, i]));
    const ranks = children.flatMap((c) => rank.get(c.id) ?? []);
    if (ranks.every((r, i) => i === 0 || r > (ranks[i - 1] ?? -1))) return children;
    return children.map((c) => {
      const order = rank.get(c.id);
      return order === undefined ? c : withOverride(c, this.#below, { order });
    });
  }

  /** Type that is set smaller or larger at the other width steps with a token. */
  #stepped(part: Part, other: Content | undefined): Part {
    const { content } = this.#stands.get(part.id) ?? part;
    if (content?.kind !== 'text' || other?.kind !== 'text') return part;
    const [size, otherSize] = [typeSize(content), typeSize(other)];
    const steps =
      size !== undefined && otherSize !== undefined && Math.abs(size - otherSize) > 0.05
        ? { 'text.size': this.#token('type', part.bound?.['text.size'], size, otherSize) }
        : {};
    const lines =
      Math.abs(content.lineHeight - other.lineHeight) > 0.05
        ? {
            'text.lineHeight': this.#token(
              'line',
              part.bound?.['text.lineHeight'],
              content.lineHeight,
              other.lineHeight,
            ),
          }
        : {};
    const bound = { ...part.bound, ...steps, ...lines };
    return Object.keys(bound).length > 0 ? { ...part, bound } : part;
  }

  #token(what: 'type' | 'line', bound: string | undefined, value: number, then: number): string {
    return this.#tokens.stepped(what, { value, then, below: this.#below }, bound);
  }
}
