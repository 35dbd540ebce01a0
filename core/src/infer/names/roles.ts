import { isHorizontal, plainText, ruleOf, wordSize, type Part, type Rect } from '../../model/index.js';

/** What is no larger is an icon, px. */
const ICON = 48;
/** Fields and buttons are no higher than this, tags no higher than that, px. */
const CONTROL = 72;
const TAG = 30;
/** A field has room for so many times its words. */
const ROOMY = 2;
/** Words that one follows are no longer than this. */
const LINK = 24;
/** An avatar shows this many letters at most. */
const INITIALS = 3;

export type Boxes = ReadonlyMap<string, Rect>;

const textOf = (part: Part): string => (part.content?.kind === 'text' ? plainText(part.content) : '');
const styleOf = (part: Part): string => {
  const style = part.content?.kind === 'text' ? part.content.runs[0]?.style : undefined;
  return style ? `${style.family} ${style.size}` : '';
};
const isPainted = ({ paint }: Part): boolean => paint?.fill !== undefined || paint?.stroke !== undefined;
const isRule = (part: Part, boxes: Boxes): boolean => {
  const box = boxes.get(part.id);
  return part.kind === 'shape' && box !== undefined && Math.min(box.width, box.height) <= 2.5;
};
const isIcon = (part: Part, boxes: Boxes): boolean => {
  const box = boxes.get(part.id);
  return part.kind === 'picture' && box !== undefined && Math.max(box.width, box.height) <= ICON;
};

/** Several of a role. */
const SEVERAL: Readonly<Record<string, string>> = {
  entry: 'entries',
  link: 'links',
  text: 'texts',
  figure: 'figures',
};
const isSeveral = (role: string): boolean => role.endsWith('s') && !role.endsWith('ss');
const several = (role: string): string => SEVERAL[role] ?? (isSeveral(role) ? 'columns' : `${role}s`);

/**
 * What a part is by what is in it, as a noun; undefined for the words of a text, which say it themselves. `alike` are the
 * siblings that are made like it, `roles` those of the parts in it.
 */
export function roleOf(
  part: Part,
  alike: readonly Part[],
  boxes: Boxes,
  roles: ReadonlyMap<Part, string>,
): string {
  const box = boxes.get(part.id);
  const kids = part.children.filter((c) => !isRule(c, boxes));
  const [only] = kids;
  if (part.kind === 'text') return 'text';
  if (part.kind === 'picture') return isIcon(part, boxes) ? 'icon' : 'picture';
  if (part.kind === 'shape')
    return isRule(part, boxes) ? 'line' : part.paint?.radius === 'round' ? 'disc' : 'shape';
  if (!box || !only) return part.content?.kind === 'picture' ? 'picture' : 'room';
  const painted = isPainted(part);
  const isSmall = box.height <= CONTROL;
  const texts = kids.filter((c) => c.kind === 'text');
  if (painted && isSmall) {
    const control = controlOf(part, kids, texts, box, boxes);
    if (control) return control;
  }
  if (kids.length === 1) {
    const inner = roles.get(only) ?? '';
    if (painted) return alike.length > 1 ? 'tile' : 'panel';
    if (only.kind === 'picture' && inner === 'icon') return 'icon';
    if (alike.length > 1) return 'entry';
    return inner === 'text' ? 'label' : 'wrapper';
  }
  const row = isHorizontal(ruleOf(part.rules, 'flow'));
  const kinds = new Set(kids.map((c) => roles.get(c) ?? ''));
  const [kind = ''] = kinds;
  if (!painted && kinds.size === 1 && kind !== 'text' && kind !== 'section') return several(kind);
  if (texts.length === kids.length) return wordsRole(texts, row);
  if (alike.length > 1) return painted ? 'tile' : 'entry';
  if (painted) return 'panel';
  if (row) return rowRole(part, kids, boxes, roles);
  const entries = [...kinds].find((k) => k === 'entry' || k === 'tile');
  return entries && kids.filter((c) => roles.get(c) === entries).length >= kids.length - 1
    ? several(entries)
    : 'section';
}

/** The controls of a column that a line of words right above them says the purpose of. */
export function labelled(part: Part, roles: ReadonlyMap<Part, string>): { label: Part; control: Part }[] {
  if (part.kind !== 'container' || ruleOf(part.rules, 'flow') !== 'column') return [];
  return part.children.slice(1).flatMap((control, i) => {
    const label = part.children[i] as Part;
    const role = roles.get(control);
    const isControl =
      role === 'field' || (role === 'button' && ruleOf(control.rules, 'width').kind === 'fill');
    const words = control.children.find((c) => c.kind === 'text');
    const isHeading = words !== undefined && sizeOf(label) > sizeOf(words);
    return isControl && label.kind === 'text' && !isHeading ? [{ label, control }] : [];
  });
}

/** Whether a part is no more than one control with its label and a note. */
export const isField = (part: Part): boolean =>
  !isPainted(part) && part.children.length <= 3 && part.children.slice(2).every((c) => c.kind === 'text');

/** What a small painted box is: a tag, a button, a field or an avatar. */
function controlOf(
  part: Part,
  kids: readonly Part[],
  texts: readonly Part[],
  box: Rect,
  boxes: Boxes,
): string | undefined {
  const [text] = texts;
  const rest = kids.filter((c) => c !== text);
  if (
    !rest.every((c) => isIcon(c, boxes) || c.kind === 'container' || c.kind === 'shape') ||
    texts.length > 1
  )
    return undefined;
  if (!text) return rest.length === 1 && box.width <= CONTROL ? 'icon button' : undefined;
  if (rest.some((c) => c.kind === 'container' && c.children.length > 1)) return undefined;
  const words = textOf(text);
  if (part.paint?.radius === 'round' || (box.width === box.height && words.length <= INITIALS))
    return 'avatar';
  const inner = boxes.get(text.id);
  const letters = inner && ruleOf(text.rules, 'width').kind === 'fit' ? inner.width : words.length * 8;
  if (part.paint?.stroke && box.width > letters * ROOMY + 2 * (box.height - (inner?.height ?? 0)))
    return 'field';
  if (words.length > LINK) return 'notice';
  return box.height <= TAG && rest.length === 0 ? 'tag' : 'button';
}

/** What several texts are: links of one style, a figure under or over its words, lines of a text. */
function wordsRole(texts: readonly Part[], row: boolean): string {
  const styles = new Set(texts.map(styleOf));
  if (styles.size === 1 && texts.every((t) => textOf(t).length <= LINK))
    return row || texts.length > 2 ? 'links' : 'text';
  const largest = texts.toSorted((a, b) => sizeOf(b) - sizeOf(a))[0];
  const isNumber = largest !== undefined && /^\W*[\d.,\s]+\W*\p{L}?$/u.test(textOf(largest));
  if (isNumber && !row) return 'figure';
  return row ? 'pair' : 'text';
}
const sizeOf = (part: Part): number => wordSize(part.content) ?? 0;

/** What a row of different things is. */
function rowRole(part: Part, kids: readonly Part[], boxes: Boxes, roles: ReadonlyMap<Part, string>): string {
  const role = (c: Part) => roles.get(c) ?? '';
  const controls = ['button', 'icon button', 'tag', 'field', 'avatar', 'icon', 'buttons', 'icons'];
  const isControl = (c: Part) => controls.includes(role(c));
  if (kids.every(isControl)) return 'actions';
  const words = kids.filter((c) => role(c) === 'text' || role(c) === 'label');
  if (
    words.length > 0 &&
    kids.every((c) => words.includes(c) || isIcon(c, boxes) || role(c) === 'icon' || c.kind === 'shape')
  )
    return 'label';
  const box = boxes.get(part.id);
  if (kids.some(isControl) && ruleOf(part.rules, 'gap') === 'between') return 'header';
  return box && kids.every((c) => (boxes.get(c.id)?.height ?? 0) > CONTROL) ? 'columns' : 'entry';
}
