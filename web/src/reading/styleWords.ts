/** A style attribute of what is set; each value as the browser computed it. */
export const styleOf = (rules: Readonly<Record<string, string | undefined>>): string =>
  Object.entries(rules)
    .flatMap(([name, value]) => (value === undefined || value === '' ? [] : [`${name}:${value}`]))
    .join(';');

/** How letters look, as rules. */
export const fontOf = (style: CSSStyleDeclaration): Record<string, string | undefined> => ({
  'font-family': style.fontFamily.replaceAll('"', "'"),
  'font-size': style.fontSize,
  'font-weight': style.fontWeight,
  'font-style': style.fontStyle === 'normal' ? undefined : style.fontStyle,
  'letter-spacing': style.letterSpacing === 'normal' ? undefined : style.letterSpacing,
  color: style.color,
});
