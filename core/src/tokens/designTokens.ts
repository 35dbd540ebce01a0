import { converter, formatHex, parse, type Rgb } from 'culori';
import * as v from 'valibot';
import { TOKEN_NAME, tokenNameOf, type ColourToken, type LengthToken, type Token } from '../model/index.js';

/** Under which name a file keeps what the format has no place for: values in narrower frames and in colour modes. */
const OWN = 'tinfold';
const toRgb = converter('rgb');
/** How many decimals a colour's components are written with: more than eight bits can tell. */
const DECIMALS = 4;

function colourValue(colour: string): unknown {
  const rgb = toRgb(parse(colour));
  if (!rgb) return colour;
  const { r, g, b, alpha = 1 } = rgb;
  return {
    colorSpace: 'srgb',
    components: [r, g, b].map((n) => Number(n.toFixed(DECIMALS))),
    alpha: Number(alpha.toFixed(DECIMALS)),
    hex: formatHex(rgb),
  };
}

const px = (value: number) => ({ value, unit: 'px' });

function written(token: Token): unknown {
  if (token.kind === 'length')
    return {
      $type: 'dimension',
      $value: px(token.value),
      ...(token.below &&
        token.below.length > 0 && {
          $extensions: { [OWN]: { below: token.below.map((s) => ({ width: s.width, value: px(s.value) })) } },
        }),
    };
  return {
    $type: 'color',
    $value: colourValue(token.value),
    ...(token.modes && {
      $extensions: {
        [OWN]: {
          modes: Object.fromEntries(Object.entries(token.modes).map(([m, c]) => [m, colourValue(c)])),
        },
      },
    }),
  };
}

/** Tokens as a file in the Design Tokens Format Module of the W3C community group (2025.10): JSON text. */
export const toDesignTokens = (tokens: readonly Token[]): string =>
  `${JSON.stringify(Object.fromEntries(tokens.map((t) => [t.name, written(t)])), null, 2)}\n`;

/** What a file of tokens gave. */
export interface ReadTokens {
  readonly tokens: readonly Token[];
  /** A sentence for each token that was left, and why. */
  readonly left: readonly string[];
}

const dimension = v.object({ value: v.pipe(v.number(), v.finite()), unit: v.picklist(['px', 'rem']) });
const colourObject = v.object({
  colorSpace: v.string(),
  components: v.pipe(v.array(v.union([v.number(), v.literal('none')])), v.length(3)),
  alpha: v.optional(v.number()),
});
/** How many px a rem has where nobody says another root size (CSS Values 4 §6.1.1). */
const REM = 16;
/** Groups deeper than this, and aliases of aliases of more, are refused. */
const DEEPEST = 50;
const MOST_TOKENS = 1000;

function lengthFrom(value: unknown): number | undefined {
  const text = typeof value === 'string' ? /^(-?[\d.]+)(px|rem)$/.exec(value.trim()) : null;
  const read = v.safeParse(dimension, text ? { value: Number(text[1]), unit: text[2] } : value);
  if (!read.success) return undefined;
  return read.output.value * (read.output.unit === 'rem' ? REM : 1);
}

/** Colour spaces that CSS Color 4 has functions of their own for; it writes the others with `color()`. */
const FUNCTIONS = new Set(['hsl', 'hwb', 'lab', 'lch', 'oklab', 'oklch']);

function colourFrom(value: unknown): string | undefined {
  let css: unknown = value;
  const object = v.safeParse(colourObject, value);
  if (object.success) {
    const { colorSpace, components, alpha = 1 } = object.output;
    const numbers = components.map((n, i) =>
      (colorSpace === 'hsl' || colorSpace === 'hwb') && i > 0 && n !== 'none' ? `${n}%` : String(n),
    );
    css = FUNCTIONS.has(colorSpace)
      ? `${colorSpace}(${numbers.join(' ')} / ${alpha})`
      : `color(${colorSpace} ${numbers.join(' ')} / ${alpha})`;
  }
  const rgb: Rgb | undefined = typeof css === 'string' ? toRgb(parse(css)) : undefined;
  if (!rgb) return undefined;
  const byte = (n: number) => Math.round(Math.min(1, Math.max(0, n)) * 255);
  const { alpha = 1 } = rgb;
  return alpha < 1
    ? `rgba(${byte(rgb.r)}, ${byte(rgb.g)}, ${byte(rgb.b)}, ${Number(alpha.toFixed(3))})`
    : formatHex(rgb);
}

const isGroup = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** A path in groups as a token's name: lower case, with hyphens between. */
const nameOf = (path: readonly string[]): string =>
  tokenNameOf(path.join('-').replace(/([a-z\d])([A-Z])/g, '$1-$2')).replace(/-+$/, '');

interface Found {
  readonly path: readonly string[];
  readonly type: string | undefined;
  readonly own: Record<string, unknown>;
}

function tokensIn(
  group: Record<string, unknown>,
  path: readonly string[],
  type: string | undefined,
): Found[] {
  if (path.length > DEEPEST)
    throw new SyntaxError(`These tokens are nested deeper than ${DEEPEST} groups: flatten them.`);
  const given = group['$type'];
  const here = typeof given === 'string' ? given : type;
  if ('$value' in group) return [{ path, type: here, own: group }];
  return Object.entries(group).flatMap(([name, value]) =>
    name.startsWith('$') || !isGroup(value) ? [] : tokensIn(value, [...path, name], here),
  );
}

/** A value, or what its alias `{group.name}` leads to in the end. */
function resolved(token: Found, byPath: ReadonlyMap<string, Found>): Found | undefined {
  let at: Found | undefined = token;
  for (let i = 0; at && i < DEEPEST; i++) {
    const value: unknown = at.own['$value'];
    const alias: string | undefined =
      typeof value === 'string' ? /^\{(.+)\}$/.exec(value.trim())?.[1] : undefined;
    if (alias === undefined) return at;
    at = byPath.get(alias);
  }
  return undefined;
}

function lengthToken(name: string, value: number, own: unknown): LengthToken {
  const steps = isGroup(own) && Array.isArray(own['below']) ? (own['below'] as unknown[]) : [];
  const below = steps
    .flatMap((s) => {
      const [width, px] = isGroup(s) ? [s['width'], lengthFrom(s['value'])] : [];
      return typeof width === 'number' && width > 0 && px !== undefined ? [{ width, value: px }] : [];
    })
    .sort((a, b) => b.width - a.width);
  return { kind: 'length', name, value, ...(below.length > 0 && { below }) };
}

function colourToken(name: string, value: string, own: unknown): ColourToken {
  const given = isGroup(own) && isGroup(own['modes']) ? Object.entries(own['modes']) : [];
  const modes = given.flatMap(([mode, v]) => {
    const colour = colourFrom(v);
    return TOKEN_NAME.test(mode) && colour !== undefined ? [[mode, colour] as const] : [];
  });
  return { kind: 'colour', name, value, ...(modes.length > 0 && { modes: Object.fromEntries(modes) }) };
}

/**
 * Reads a file in the Design Tokens Format: dimensions and colours, in groups, with inherited types and aliases; also values as plain
 * text (`"16px"`, `"#0b6b6b"`), as older files have them. A file that is none throws a SyntaxError.
 */
export function fromDesignTokens(json: string): ReadTokens {
  let root: unknown;
  try {
    root = JSON.parse(json);
  } catch {
    throw new SyntaxError(
      'This is no file of design tokens: it is not JSON. Export it as design tokens again.',
    );
  }
  const all = isGroup(root) ? tokensIn(root, [], undefined) : [];
  if (all.length === 0)
    throw new SyntaxError(
      'This file has no design tokens: nothing in it has a “$value”. Choose another file.',
    );
  if (all.length > MOST_TOKENS)
    throw new SyntaxError(`This file has ${all.length} tokens: a screen has at most ${MOST_TOKENS}.`);
  const byPath = new Map(all.map((t) => [t.path.join('.'), t]));
  const tokens = new Map<string, Token>();
  const left: string[] = [];
  for (const token of all) {
    const path = token.path.join('.');
    const name = nameOf(token.path);
    const at = resolved(token, byPath);
    const extensions = at?.own['$extensions'];
    const own = isGroup(extensions) ? extensions[OWN] : undefined;
    const type = token.type ?? at?.type;
    const value = at?.own['$value'];
    const [px, colour] = [lengthFrom(value), colourFrom(value)];
    if (!TOKEN_NAME.test(name)) left.push(`“${path}” has no letter to begin its name with.`);
    else if (tokens.has(name)) left.push(`“${path}” would be called “${name}”, as another is.`);
    else if (!at) left.push(`“${path}” stands for a token that is not there.`);
    else if (type === 'dimension' && px !== undefined) tokens.set(name, lengthToken(name, px, own));
    else if (type === 'color' && colour !== undefined) tokens.set(name, colourToken(name, colour, own));
    else left.push(`“${path}” is no length in px or rem and no colour.`);
  }
  return { tokens: [...tokens.values()], left };
}
