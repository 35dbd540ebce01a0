import { walk, type Part, type Structure } from './part.js';
import { TOKEN_NAME, type Bound, type Token, type TokenPlace } from './tokens.js';

/** What the step of a token says; see `Step`. */
export interface TokenStep {
  readonly kind: 'token';
  readonly name: string;
  readonly to: Token | null;
  readonly at?: number;
}

/** The places at which a token stands. */
export function placesOf(root: Part, name: string): { part: Part; place: TokenPlace }[] {
  return [...walk(root)].flatMap((part) =>
    Object.entries(part.bound ?? {})
      .filter(([, token]) => token === name)
      .map(([place]) => ({ part, place: place as TokenPlace })),
  );
}

const withNames = (part: Part, was: string, now: string): Part => {
  const children = part.children.map((c) => withNames(c, was, now));
  const same = children.every((c, i) => c === part.children[i]);
  if (!part.bound || !Object.values(part.bound).includes(was)) return same ? part : { ...part, children };
  const bound = Object.fromEntries(
    Object.entries(part.bound).map(([place, token]) => [place, token === was ? now : token]),
  ) as Bound;
  return { ...part, bound, children: same ? part.children : children };
};

const withTokens = ({ tokens: _before, ...doc }: Structure, tokens: readonly Token[]): Structure =>
  tokens.length > 0 ? { ...doc, tokens } : doc;

/** The document after a token was made, changed, named anew or taken away; or the sentence that says why it cannot be. */
export function withToken(
  doc: Structure,
  { name, to, at }: TokenStep,
): { readonly doc: Structure } | { readonly reason: string } {
  const tokens = doc.tokens ?? [];
  const index = tokens.findIndex((t) => t.name === name);
  const before = tokens[index];
  if (to === null) {
    if (!before) return { reason: `There is no token “${name}” any more.` };
    return { doc: withTokens(doc, tokens.toSpliced(index, 1)) };
  }
  if (!TOKEN_NAME.test(to.name))
    return {
      reason: `A token cannot be called “${to.name.slice(0, 60)}”: begin with a letter from a to z and go on with such letters, digits and hyphens.`,
    };
  // A place can name a token that is gone: it must not be taken for one of another name.
  if (to.name !== name && (tokens.some((t) => t.name === to.name) || placesOf(doc.root, to.name).length > 0))
    return { reason: `There is a token “${to.name}” already: choose another name.` };
  if (!before) {
    if (to.name !== name) return { reason: `There is no token “${name}” any more.` };
    return { doc: withTokens(doc, tokens.toSpliced(at ?? tokens.length, 0, to)) };
  }
  if (before.kind !== to.kind && placesOf(doc.root, name).length > 0)
    return { reason: `The token “${name}” is a ${before.kind}: it cannot become a ${to.kind}.` };
  const root = to.name === name ? doc.root : withNames(doc.root, name, to.name);
  return { doc: { ...withTokens(doc, tokens.with(index, to)), root } };
}

/** The step that takes a token's step back, given the document before it. */
export function invertToken(before: Structure, { name, to }: TokenStep): TokenStep {
  const tokens = before.tokens ?? [];
  const index = tokens.findIndex((t) => t.name === name);
  const was = tokens[index];
  if (!was) return { kind: 'token', name: to?.name ?? name, to: null };
  return to === null
    ? { kind: 'token', name, to: was, at: index }
    : { kind: 'token', name: to.name, to: was };
}
