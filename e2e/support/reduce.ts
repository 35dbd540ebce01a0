import { check, walk, updatePart, type Part } from '@tinfold/core/model';

/** Trees with one thing less than this one: a part, a level, or a rule. */
function* smaller(root: Part): Generator<Part> {
  for (const child of root.children)
    if (child.kind === 'container')
      yield {
        ...withoutBelow(child),
        rules: { ...rest(child.rules), ...(root.rules.width && { width: root.rules.width }) },
      };
  for (const part of walk(root)) {
    for (const child of part.children)
      yield updatePart(root, part.id, (p) => ({ ...p, children: p.children.filter((c) => c !== child) }));
    for (const child of part.children)
      if (child.kind === 'container')
        yield updatePart(root, part.id, (p) => ({
          ...p,
          children: p.children.map((c) =>
            c === child ? { ...c, kind: 'shape', rules: leafRules(c), children: [] } : c,
          ),
        }));
    for (const name of Object.keys(part.rules))
      yield updatePart(root, part.id, (p) => {
        const { [name as 'flow']: _gone, ...rules } = p.rules;
        return { ...p, rules };
      });
    if (part.below) yield updatePart(root, part.id, ({ below: _below, ...p }) => p);
    if (part.bound) yield updatePart(root, part.id, ({ bound: _bound, ...p }) => p);
  }
}

const withoutBelow = ({ below: _below, ...part }: Part): Part => part;

/** What a frame may say: it is always shown, where it stands. */
const rest = ({ hidden: _hidden, pin: _pin, ...rules }: Part['rules']): Part['rules'] => rules;

function leafRules({ rules }: Part): Part['rules'] {
  const { width, height, minWidth, maxWidth, pin, alignSelf } = rules;
  const kept = { width, height, minWidth, maxWidth, pin, alignSelf };
  return Object.fromEntries(Object.entries(kept).filter(([, v]) => v !== undefined));
}

/** A small tree for which `fails` still holds, found by taking away one thing after another. */
export async function reduce(
  root: Part,
  fails: (root: Part) => Promise<boolean>,
  tries = 400,
): Promise<Part> {
  let best = root;
  for (let left = tries; left > 0;) {
    let found = false;
    for (const next of smaller(best)) {
      if (left-- <= 0) break;
      if (!check(next).every((p) => p.circular) || !(await fails(next))) continue;
      best = next;
      found = true;
      break;
    }
    if (!found) break;
  }
  return best;
}
