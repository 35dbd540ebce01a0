import type { Drawing } from '../drawing/index.js';
import { reflow, type Engine } from '../layout/index.js';
import {
  contains,
  findPart,
  standing,
  union,
  updatePart,
  walk,
  type Override,
  type Part,
  type Rect,
  type RuleChange,
  type RuleName,
  type Step,
  type Structure,
} from '../model/index.js';
import type { TextMeasurer } from '../text/index.js';
import { named } from './names/named.js';
import { readDrawing } from './read.js';

/** What a container says of what is in it; the other rules are about its own place. */
const INSIDE: readonly RuleName[] = [
  'flow',
  'gap',
  'crossGap',
  'padding',
  'align',
  'justify',
  'alignLines',
  'columns',
  'rows',
  'autoRows',
  'autoFlow',
  'areas',
  'justifyTracks',
  'justifyItems',
  'reverse',
];

/** A part read again, or the sentence that says why it cannot be. */
export type PartReading = { readonly step: Step; readonly label: string } | { readonly reason: string };

/**
 * Reads what is in one part again from the widest drawing, as if the part were a screen of its own; everything else stays as it
 * is. The part keeps its place, its size and its name; what was set for what is in it goes.
 */
export function readPart(
  structure: Structure,
  id: string,
  drawings: readonly Drawing[],
  measurer: TextMeasurer,
  engine: Engine,
): PartReading {
  const part = findPart(structure.root, id);
  const wide = drawings.toSorted((a, b) => b.width - a.width)[0];
  if (!part || !wide) return { reason: 'Choose a part of a screen that has a drawing.' };
  if (part.kind !== 'container' || part.children.length === 0)
    return { reason: `There is nothing in “${part.name}” to read again: choose a container.` };
  const own = new Set([...walk(part)].filter((p) => p !== part).flatMap((p) => p.source));
  const inside = wide.items.filter((i) => own.has(i.id));
  if (inside.length === 0)
    return { reason: `Nothing in “${part.name}” comes from the drawing at ${wide.width}.` };
  const hull = union(inside.map((i) => i.box));
  const ground = wide.items.find((i) => part.source.includes(i.id))?.box;
  const stands = reflow(
    standing(structure, { width: wide.width }),
    wide.width,
    engine,
    structure.drawn.height,
  );
  const now = stands.parts.get(id);
  // How high it stands is what the rules made of it that are given up; how wide, what holds it.
  const across = now && { ...hull, x: now.x, width: now.width };
  const box = ground ?? (across && contains(across, hull, 0.5) ? across : hull);
  const items = inside.map((item) => moved(item, box));
  const drawing: Drawing = { ...wide, name: part.name, width: box.width, height: box.height, items };
  const { structure: alone } = readDrawing(drawing, measurer, { without: new Set(['narrow frames']) });
  const children = withIdsOfTheirOwn(alone.root.children, structure.root, part);
  const fresh: Part = {
    ...part,
    rules: { ...without(part.rules, INSIDE), ...pick(alone.root.rules, INSIDE) },
    children,
  };
  const { below: _below, wide: _wide, ...bare } = fresh;
  const below = (part.below ?? []).flatMap((o): Override[] => {
    const rules = without(o.rules, INSIDE);
    return Object.keys(rules).length > 0 ? [{ width: o.width, rules }] : [];
  });
  const turned = without(part.wide ?? {}, INSIDE);
  const read = {
    ...bare,
    ...(below.length > 0 && { below }),
    ...(Object.keys(turned).length > 0 && { wide: turned }),
  };
  const root = updatePart(structure.root, id, () => read);
  return {
    label: `Read “${part.name}” again`,
    step: { kind: 'replace', id, part: findPart(named({ ...structure, root }, engine, id).root, id) ?? read },
  };
}

/** An item in a drawing whose origin is a box's corner. */
function moved<T extends Drawing['items'][number]>(item: T, { x, y }: Rect): T {
  const place = (r: Rect): Rect => ({ ...r, x: r.x - x, y: r.y - y });
  return {
    ...item,
    box: place(item.box),
    ...('lines' in item && {
      lines: item.lines.map((line) => ({ ...line, x: line.x - x, baseline: line.baseline - y })),
    }),
  };
}

const pick = <T extends RuleChange>(rules: T, names: readonly RuleName[]): T =>
  Object.fromEntries(Object.entries(rules).filter(([name]) => names.includes(name as RuleName))) as T;
const without = <T extends RuleChange>(rules: T, names: readonly RuleName[]): T =>
  Object.fromEntries(Object.entries(rules).filter(([name]) => !names.includes(name as RuleName))) as T;

/** Parts under ids that the rest of the tree does not have; patterns, which are called by an id, go with it. */
function withIdsOfTheirOwn(parts: readonly Part[], root: Part, replaced: Part): readonly Part[] {
  const inside = new Set([...walk(replaced)].filter((p) => p !== replaced).map((p) => p.id));
  const taken = new Set([...walk(root)].map((p) => p.id).filter((id) => !inside.has(id)));
  const ids = new Map<string, string>();
  let n = 0;
  for (const part of parts.flatMap((p) => [...walk(p)])) {
    let { id } = part;
    while (taken.has(id)) id = `r${++n}`;
    taken.add(id);
    ids.set(part.id, id);
  }
  const own = (id: string) => ids.get(id) ?? id;
  const called = (part: Part): Part => ({
    ...part,
    id: own(part.id),
    ...(part.pattern !== undefined && { pattern: own(part.pattern) }),
    children: part.children.map(called),
  });
  return parts.map(called);
}
