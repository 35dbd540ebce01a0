export const px = (n: number): string => `${Math.round(n * 1000) / 1000}px`;

/** Whether a colour, as the browser computed it, shows nothing. */
export const isClear = (colour: string): boolean => /^rgba\(.*, 0\)$|^transparent$/.test(colour);

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

/** The box that an element's padding and border leave, px. */
export function contentOf(element: Element, style: CSSStyleDeclaration): DOMRect {
  const box = element.getBoundingClientRect();
  const edge = (name: string): number =>
    parseFloat(style.getPropertyValue(`padding-${name}`)) +
    parseFloat(style.getPropertyValue(`border-${name}-width`));
  return new DOMRect(
    box.x + edge('left'),
    box.y + edge('top'),
    Math.max(0, box.width - edge('left') - edge('right')),
    Math.max(0, box.height - edge('top') - edge('bottom')),
  );
}
