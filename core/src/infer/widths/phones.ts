import type { Drawing } from '../../drawing/index.js';
import { reflow, type Engine } from '../../layout/index.js';
import { standing, type Structure } from '../../model/index.js';
import { withMenu } from './bar.js';
import { withPhoneGutters } from './gutters.js';
import { withoutPicturePane } from './panes.js';

/** A drawing that is no wider is one of a phone itself, px: phones lying on their side included. */
const PHONE = 560;

/** What bars and panes of most screens do on phones, where the narrowest drawing is of a wider screen. */
export function withBarsOfPhones(structure: Structure, narrowest: Drawing, engine: Engine): Structure {
  if (narrowest.width < PHONE) return structure;
  const shown = standing(structure, { width: narrowest.width });
  const boxes = reflow(shown, narrowest.width, engine).parts;
  const barred = withMenu(structure.root, shown, boxes, narrowest);
  return { ...structure, root: withoutPicturePane(barred, shown, boxes, narrowest) };
}

/** How far content keeps from the sides of most phones' screens, where the narrowest drawing is of a wider screen. */
export function withGuttersOfPhones(structure: Structure, narrowest: Drawing, engine: Engine): Structure {
  return narrowest.width < PHONE ? structure : withPhoneGutters(structure, narrowest.width, engine);
}
