import { converter, formatCss, formatHex, toGamut, type Oklch } from 'culori';
import type { ColourToken, Step, Structure } from '../model/index.js';

/** The name of the mode for dark paper, as `prefers-color-scheme` calls it (Media Queries 5 §12.5). */
export const DARK = 'dark';

/** The lightness, 0 to 1 in OKLCH, that white becomes: paper that is lit by the screen alone is never black. */
const DARK_PAPER = 0.2;
const toOklch = converter('oklch');
const inSrgb = toGamut('rgb', 'oklch');

/**
 * A colour for dark paper: as far from dark paper as it was from white, with its hue and strength, in sRGB (CSS Color 4 §9.3 and §14).
 * Undefined for what is no colour.
 */
export function darkOf(colour: string): string | undefined {
  const light: Oklch | undefined = toOklch(colour);
  if (!light) return undefined;
  const dark = inSrgb({ ...light, l: 1 - light.l * (1 - DARK_PAPER) });
  return (light.alpha ?? 1) < 1 ? formatCss(converter('rgb')(dark)) : formatHex(dark);
}

/** The steps that give every colour without a dark value a proposed one. */
export function withDark(structure: Structure): Step[] {
  return (structure.tokens ?? []).flatMap((token): Step[] => {
    const dark =
      token.kind === 'colour' && token.modes?.[DARK] === undefined ? darkOf(token.value) : undefined;
    if (token.kind !== 'colour' || dark === undefined) return [];
    const to: ColourToken = { ...token, modes: { ...token.modes, [DARK]: dark } };
    return [{ kind: 'token', name: token.name, to }];
  });
}
