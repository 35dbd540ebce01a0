import { reflow, type Engine } from '../../layout/index.js';
import { findPart, standing, walk, type Part, type Structure } from '../../model/index.js';
import { isScrim, placeNameOf, type Frame } from './places.js';
import { isField, labelled, roleOf } from './roles.js';
import { titlesOf, wordsOf } from './titles.js';

/** Gives every name once: a second one of the same gets a number. */
class Names {
  readonly #taken = new Map<string, number>();

  take(name: string): string {
    const n = (this.#taken.get(name) ?? 0) + 1;
    this.#taken.set(name, n);
    return n === 1 ? name : this.take(`${name} ${n}`);
  }
}

/** What words are called that nobody has read yet. */
const UNREAD_WORDS = 'Drawn words';

/** What a part says of itself, whatever its role. */
const own = (part: Part, title: string): string =>
  part.kind === 'text' ? wordsOf(part) || UNREAD_WORDS : title;

const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/**
 * The structure with every part named as a colleague would call it: by its place in the screen, or by its words and what it is.
 * What has no words is called after what it stands in. Where `within` is given, only what is in that part is named, and place says
 * nothing. Patterns are called as the first of their copies.
 */
export function named(structure: Structure, engine: Engine, within?: string): Structure {
  const { root, drawn } = structure;
  const { parts: boxes } = reflow(
    standing(structure, { width: drawn.width }),
    drawn.width,
    engine,
    drawn.height,
  );
  const frame: Frame = { ...drawn, boxes };
  const titles = new Map(titlesOf(root));
  const roles = rolesOf(root, frame);
  for (const part of walk(root)) {
    for (const { label, control } of labelled(part, roles)) {
      for (const one of isField(part) ? [part, control] : [control]) titles.set(one, wordsOf(label));
      if (isField(part)) roles.set(part, 'field');
      roles.set(control, 'input');
    }
  }
  const names = new Names();
  const given = new Map<string, string>();
  const inside = within === undefined ? root : (findPart(root, within) ?? root);
  const fresh = new Set(walk(inside));
  fresh.delete(inside);
  for (const part of walk(root)) if (!fresh.has(part)) names.take(part.name);
  /** A header with links that begins the screen is its bar, also where it keeps away from the frame's edges. */
  const leads = (part: Part): string | undefined =>
    part === root.children[0] &&
    roles.get(part) === 'header' &&
    part.children.some((c) => roles.get(c) === 'links')
      ? 'Top bar'
      : undefined;
  const visit = (part: Part, around: string): Part => {
    const called = (child: Part): Part => {
      if (standsIn(child)) return keptNames(child, names);
      const place =
        within === undefined ? (placeNameOf(child, part.children, frame) ?? leads(child)) : undefined;
      const role = isScrim(child, frame) ? 'scrim' : (roles.get(child) ?? 'part');
      const words = own(child, titles.get(child) ?? '');
      const name = names.take(
        place ?? (child.kind === 'text' && words ? words : capital(`${words || around} ${role}`.trim())),
      );
      given.set(child.id, name);
      return visit({ ...child, name }, place ?? (words || around));
    };
    return { ...part, children: part.children.map(called) };
  };
  const renamed = (part: Part): Part => {
    if (part.id === inside.id) return visit(part, within === undefined ? '' : (titles.get(part) ?? ''));
    const children = part.children.map(renamed);
    return children.every((c, i) => c === part.children[i]) ? part : { ...part, children };
  };
  return { ...structure, root: withPatterns(renamed(root), given) };
}

/** Whether a part was added to stand in for others in other frames: it is not shown in the drawing, and nothing in it was drawn. */
const standsIn = (part: Part): boolean =>
  part.rules.hidden === true && [...walk(part)].every((p) => p.source.length === 0);

/** A part that has its name already, as all in it have. */
const keptNames = (part: Part, names: Names): Part => ({
  ...part,
  name: names.take(part.name),
  children: part.children.map((c) => keptNames(c, names)),
});

/** The role of every part, of those inside first. */
function rolesOf(root: Part, { boxes }: Frame): Map<Part, string> {
  const roles = new Map<Part, string>();
  const visit = (part: Part, siblings: readonly Part[]): void => {
    for (const child of part.children) visit(child, part.children);
    const alike = part.pattern === undefined ? [part] : siblings.filter((s) => s.pattern === part.pattern);
    const role = roleOf(part, alike, boxes, roles);
    roles.set(part, role);
    const [ink] = part.children;
    if (role === 'icon' && ink && part.children.length === 1) roles.set(ink, 'ink');
  };
  visit(root, [root]);
  return roles;
}

/** Patterns are marked by the id of their first copy until it has its name. */
function withPatterns(part: Part, given: ReadonlyMap<string, string>): Part {
  const pattern = part.pattern === undefined ? undefined : (given.get(part.pattern) ?? part.pattern);
  const children = part.children.map((c) => withPatterns(c, given));
  return { ...part, children, ...(pattern !== undefined && { pattern }) };
}
