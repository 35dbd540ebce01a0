import { round, type LengthToken, type TextContent } from '../model/index.js';

/** The one size of a text's type, px; undefined where it has several. */
export function typeSize(content: TextContent): number | undefined {
  const sizes = new Set(content.runs.map((r) => r.style.size));
  return sizes.size === 1 ? [...sizes][0] : undefined;
}

/** A length as a part of a token's name, which has no point: `24.7` is `24p7`. */
const inName = (px: number): string => String(round(px, 2)).replace('.', 'p').replace('-', 'm');

/** The tokens of a screen whose type steps down with the frame's width, each under a name of its own. */
export class LengthTokens {
  readonly #byName = new Map<string, LengthToken>();

  constructor(tokens: readonly LengthToken[] = []) {
    for (const token of tokens) this.#byName.set(token.name, token);
  }

  get all(): readonly LengthToken[] {
    return [...this.#byName.values()];
  }

  /**
   * The name of the length that is `value` and, below a frame width, `then`; or, where a token is bound already, the
   * same with one more step. Lengths that step alike are one token.
   */
  stepped(
    what: 'type' | 'line',
    { value, then, below }: { readonly value: number; readonly then: number; readonly below: number },
    bound?: string,
  ): string {
    const before = bound === undefined ? undefined : this.#byName.get(bound);
    const first = before?.value ?? round(value, 2);
    const steps = [...(before?.below ?? []), { width: below, value: round(then, 2) }];
    const name = [what, first, ...steps.map((s) => s.value)]
      .map((n) => (typeof n === 'number' ? inName(n) : n))
      .join('-');
    return this.#take({ kind: 'length', name, value: first, below: steps });
  }

  /** Steps at other widths can have the same lengths: the later token gets a number. */
  #take(token: LengthToken): string {
    for (let n = 1; ; n++) {
      const name = n === 1 ? token.name : `${token.name}-${n}`;
      const own = { ...token, name };
      const taken = this.#byName.get(name);
      if (!taken) this.#byName.set(name, own);
      else if (JSON.stringify(taken) !== JSON.stringify(own)) continue;
      return name;
    }
  }
}
