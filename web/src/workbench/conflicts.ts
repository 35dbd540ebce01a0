import {
  FILL,
  FIT,
  isHorizontal,
  parentOf,
  ruleOf,
  type Part,
  type Size,
  type Step,
} from '@tinfold/core/model';
import { copiesOf } from './rows';

/** Rules of a part and of its container of which one cannot hold, with the two ways out. */
export interface Conflict {
  readonly says: string;
  readonly waysOut: readonly { readonly label: string; readonly step: Step }[];
}

const takesRest = (size: Size | undefined): boolean => size?.kind === 'fill' || size?.kind === 'share';
const AXES = ['width', 'height'] as const;

/**
 * What a part asks of a container that has nothing to give: along the flow there is no room left in what is only as large as its
 * content. Across it, a part that fills is as large as the largest beside it, and nothing is wrong.
 */
export function conflictOf(root: Part, part: Part): Conflict | undefined {
  const asks = AXES.some((a) => takesRest(part.rules[a]));
  // Every row of the list asks this at every reflow: most parts take nothing, and need not be looked for in the tree.
  const parent = asks && !part.rules.pin && !part.rules.hidden ? parentOf(root, part.id) : undefined;
  if (!parent) return undefined;
  const flow = ruleOf(parent.rules, 'flow');
  const along = isHorizontal(flow) ? 'width' : flow === 'column' ? 'height' : undefined;
  const axis = AXES.find(
    (a) =>
      a === along &&
      ruleOf(parent.rules, a).kind === 'fit' &&
      parent.rules[a === 'width' ? 'minWidth' : 'minHeight'] === undefined &&
      takesRest(part.rules[a]),
  );
  // The frame is as wide as it is, whatever it says.
  if (!axis || (parent === root && axis === 'width')) return undefined;
  const setting = (of: Part, size: typeof FILL): Step => ({
    kind: 'setRules',
    parts: copiesOf(root, of.id).map((id) => ({ id, set: { [axis]: size } })),
  });
  return {
    says: `“${part.name}” takes what ${axis} is left in “${parent.name}”, which is only as ${axis === 'width' ? 'wide' : 'high'} as its content: nothing is left.`,
    waysOut: [
      { label: `“${parent.name}” fills`, step: setting(parent, FILL) },
      { label: `“${part.name}” fits`, step: setting(part, FIT) },
    ],
  };
}
