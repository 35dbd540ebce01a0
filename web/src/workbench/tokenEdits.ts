import {
  TOKEN_NAME,
  tokenNameOf,
  type ColourToken,
  type LengthToken,
  type Parsed,
  type Step,
  type Structure,
  type Token,
} from '@tinfold/core/model';
import { contrastOf, freed, type ReadTokens } from '@tinfold/core/tokens';

/** A number of px as it is typed; zero and more. */
export function parseLength(text: string): Parsed<number> {
  const found = /^(\d+(?:\.\d+)?)(?:\s*px)?$/.exec(text.trim());
  return found
    ? { ok: true, value: Number(found[1]) }
    : { ok: false, reason: `“${text.slice(0, 40)}” is no length: type a number of px, such as 16.` };
}

/** A CSS colour as it is typed. */
export function parseColour(text: string): Parsed<string> {
  const value = text.trim().toLowerCase();
  // What can be told from white is a colour.
  return value.length <= 80 && contrastOf(value, '#ffffff') !== undefined
    ? { ok: true, value }
    : { ok: false, reason: `“${text.slice(0, 40)}” is no colour: type one as CSS does, such as #0b6b6b.` };
}

const change = (name: string, to: Token): Step => ({ kind: 'token', name, to });

/** A token with a value in all frames or, with `below`, in those narrower; nothing typed takes the narrower one's away. */
export function withLength(token: LengthToken, below: number | undefined, typed: string): Parsed<Step> {
  const { below: steps = [], ...rest } = token;
  if (below !== undefined && typed.trim() === '') {
    const left = steps.filter((s) => s.width !== below);
    return { ok: true, value: change(token.name, { ...rest, ...(left.length > 0 && { below: left }) }) };
  }
  const parsed = parseLength(typed);
  if (!parsed.ok) return parsed;
  const { value } = parsed;
  if (below === undefined) return { ok: true, value: change(token.name, { ...token, value }) };
  const next = [...steps.filter((s) => s.width !== below), { width: below, value }];
  return {
    ok: true,
    value: change(token.name, { ...rest, below: next.sort((a, b) => b.width - a.width) }),
  };
}

/** A token with its own colour or, with `mode`, the one that it has in a colour mode; nothing typed takes that away. */
export function withColour(token: ColourToken, mode: string | undefined, typed: string): Parsed<Step> {
  const { modes = {}, ...rest } = token;
  const said = (all: Readonly<Record<string, string>>): Step =>
    change(token.name, { ...rest, ...(Object.keys(all).length > 0 && { modes: all }) });
  if (mode !== undefined && typed.trim() === '')
    return { ok: true, value: said(Object.fromEntries(Object.entries(modes).filter(([m]) => m !== mode))) };
  const parsed = parseColour(typed);
  if (!parsed.ok) return parsed;
  const { value } = parsed;
  return {
    ok: true,
    value: mode === undefined ? change(token.name, { ...token, value }) : said({ ...modes, [mode]: value }),
  };
}

/** A token under another name. */
export function renamed(token: Token, typed: string): Parsed<Step> {
  const name = tokenNameOf(typed);
  return TOKEN_NAME.test(name)
    ? { ok: true, value: change(token.name, { ...token, name }) }
    : { ok: false, reason: `“${typed.slice(0, 40)}” is no name: begin with a letter from a to z.` };
}

/** The tokens of a file taken into a structure: those of the same name and sort change, the others are new. */
export function imported(doc: Structure, { tokens }: ReadTokens): { step: Step; left: readonly string[] } {
  const known = new Map((doc.tokens ?? []).map((t) => [t.name, t]));
  const fits = (t: Token): boolean => (known.get(t.name)?.kind ?? t.kind) === t.kind;
  return {
    step: { kind: 'several', steps: tokens.filter(fits).map((t) => change(t.name, t)) },
    left: tokens
      .filter((t) => !fits(t))
      .map((t) => `“${t.name}” is a ${known.get(t.name)?.kind ?? ''} here and a ${t.kind} in the file.`),
  };
}

/** A token taken away, its places keeping its value. */
export function takenAway(doc: Structure, token: Token): Parsed<Step> {
  const step = freed(doc, token);
  return 'reason' in step ? { ok: false, reason: step.reason } : { ok: true, value: step };
}
