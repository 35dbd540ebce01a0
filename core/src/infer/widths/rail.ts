import { gapPx, inFlow } from '../../layout/index.js';
import { FIT, NO_PADDING, ruleOf, walk, withOverride, wordSize, type Part } from '../../model/index.js';
import { usual } from '../seat.js';
import type { Boxes } from '../standingPart.js';
import priors from './phones.json' with { type: 'json' };

/** A link in a rail is no higher, px: as much as a finger needs and some room. */
const LINK = 56;
/** So many alike lines one above another are a list of links. */
const LINKS = 3;

/** The list of links in a rail: a column of lines, each of one text at the most and what stands beside it. */
function isLinks(part: Part, boxes: Boxes): boolean {
  const lines = inFlow(part);
  return (
    part.kind === 'container' &&
    ruleOf(part.rules, 'flow') === 'column' &&
    lines.length >= LINKS &&
    lines.every(
      (l) => (boxes.get(l.id)?.height ?? Infinity) <= LINK && (l.kind === 'text' || l.children.length > 0),
    ) &&
    lines.filter((l) => [...walk(l)].filter((p) => p.kind === 'text').length === 1).length * 2 > lines.length
  );
}

/** The room that is left above what stands at the foot of a rail: more than all the gaps in it and in what stands above. */
function isFoot(child: Part, rail: Part): boolean {
  const line = inFlow(rail);
  const above = line.slice(0, line.indexOf(child));
  if (child.rules.pin || above.length === 0) return false;
  const { gapBefore } = child.rules;
  const gaps = [...(gapBefore === undefined ? [] : [gapPx(rail)]), ...above.map(gapPx)];
  return (gapBefore ?? gapPx(rail)) > Math.max(LINK, 2 * Math.max(0, ...gaps));
}

/** A line along an edge of a rail. */
const isEdge = (child: Part): boolean =>
  child.kind === 'shape' && child.rules.pin !== undefined && child.rules.width?.kind === 'fixed';

/** A link as wide as its words, with the containers that are there for it alone. */
function asWideAsWords(link: Part, below: number): Part {
  if (link.rules.pin || link.kind === 'text') return link;
  const [only, ...more] = link.children;
  const inner = only && more.length === 0 && only.children.length > 0;
  const fits = link.rules.width !== undefined && link.rules.width.kind !== 'fit';
  const told = fits ? withOverride(link, below, { width: FIT, minWidth: null, maxWidth: null }) : link;
  return inner ? { ...told, children: [asWideAsWords(only, below)] } : told;
}

/** A list of links whose lines stand side by side below a frame width, after a name, where it has one, in a line of its own. */
function inLines(list: Part, below: number): Part {
  const size = usual([...walk(list)].flatMap((p) => wordSize(p.content) ?? []));
  const [name, second] = inFlow(list);
  const isHeaded = (second?.rules.gapBefore ?? 0) > gapPx(list);
  const children = list.children.map((c) => {
    if (c === name && isHeaded)
      return withOverride(c, below, { width: { kind: 'share', percent: 100 }, maxWidth: null });
    // What heads some of the links is no link.
    if (
      c !== name &&
      [...walk(c)].every((p) => (wordSize(p.content) ?? size) !== size || p.children.length > 0)
    )
      return withOverride(c, below, { hidden: true });
    const told = asWideAsWords(c, below);
    return c.rules.gapBefore === undefined || c.rules.pin
      ? told
      : withOverride(told, below, { gapBefore: null });
  });
  return withOverride({ ...list, children }, below, { flow: 'wrap' });
}

/**
 * What a rail does where it has become a strip across the screen below a frame width: its links stand side by side, and what
 * stood at its foot makes room, as with most that were counted.
 */
export function asStrip(rail: Part, below: number, boxes: Boxes): Part {
  const visit = (part: Part): Part => {
    const children = part.children.map((c) =>
      isFoot(c, part) || (part === rail && isEdge(c)) ? withOverride(c, below, { hidden: true }) : visit(c),
    );
    const next = { ...part, children };
    return isLinks(part, boxes) ? inLines(next, below) : next;
  };
  const strip = visit(rail);
  const { padding, height, minHeight } = rail.rules;
  return withOverride(strip, below, {
    ...(padding && { padding: { ...padding, bottom: Math.min(padding.bottom, padding.top) } }),
    ...(height && height.kind !== 'fit' && { height: FIT }),
    ...(minHeight !== undefined && { minHeight: null }),
  });
}

/** What stands beside a rail keeps from the sides of the screen, where the rail has become a strip, what it kept from the rail. */
export function besideStrip(content: Part, gap: number, below: number): Part {
  if (content.kind !== 'container' || content.rules.pin) return content;
  const side = Math.min(Math.max(0, gap), priors.gutters.most);
  const padding = content.rules.padding ?? NO_PADDING;
  return withOverride(content, below, {
    padding: { ...padding, left: Math.max(padding.left, side), right: Math.max(padding.right, side) },
  });
}
