import { applyToPoint, rotateDEG } from 'transformation-matrix';
import { union, type Rect } from '../model/index.js';
import type { ArtItem, TextItem } from './items.js';

/** The box around `box` after it is turned by `angle` degrees clockwise about the frame's origin. */
function turnedBox(box: Rect, angle: number): Rect {
  const matrix = rotateDEG(angle);
  const corner = (x: number, y: number): Rect => ({ ...applyToPoint(matrix, { x, y }), width: 0, height: 0 });
  const [right, bottom] = [box.x + box.width, box.y + box.height];
  return union([corner(box.x, box.y), corner(right, box.y), corner(box.x, bottom), corner(right, bottom)]);
}

/** A paragraph that was measured upright, turned to where it is drawn: it no longer flows. */
export const turnText = (text: TextItem, angle: number): ArtItem => ({
  kind: 'art',
  id: text.id,
  groups: text.groups,
  paint: text.paint,
  box: turnedBox(text.box, angle),
  angle,
  content: {
    kind: 'turned',
    angle,
    width: text.box.width,
    height: text.box.height,
    text: text.content,
  },
});
