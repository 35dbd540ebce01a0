import { exportSvg } from '@tinfold/core/handoff';
import type { Engine } from '@tinfold/core/layout';
import type { Structure } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';

/** Between two pictures and around them, px of the sheet. */
const BETWEEN = 32;
const CAPTION = 36;
/** A picture shows no more of a long screen, frame px. */
const MOST_HEIGHT = 4000;

const loaded = (svg: string): Promise<HTMLImageElement> =>
  new Promise((resolve, reject) => {
    const image = new Image();
    image.onload = () => {
      resolve(image);
    };
    image.onerror = () => {
      reject(new Error('The browser could not draw the screen: choose fewer widths.'));
    };
    image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  });

/** The screen at some widths side by side, as one PNG; words are drawn as outlines, so that it looks alike everywhere. */
export async function contactSheetPng(
  structure: Structure,
  widths: readonly number[],
  engine: Engine,
  measurer: TextMeasurer,
): Promise<Blob> {
  const images = await Promise.all(
    widths.map((width) => loaded(exportSvg(structure, width, engine, measurer, true).text)),
  );
  const height = Math.min(MOST_HEIGHT, Math.max(...images.map((i) => i.height)));
  const canvas = document.createElement('canvas');
  canvas.width = images.reduce((sum, i) => sum + i.width + BETWEEN, BETWEEN);
  canvas.height = height + CAPTION + BETWEEN;
  const paper = canvas.getContext('2d');
  if (!paper) throw new Error('The browser has no canvas: use another to make the picture.');
  paper.fillStyle = '#d9d6cb';
  paper.fillRect(0, 0, canvas.width, canvas.height);
  paper.font = "500 18px 'Spline Sans Mono', monospace";
  let x = BETWEEN;
  for (const [i, image] of images.entries()) {
    paper.fillStyle = '#1d2b34';
    paper.fillText(String(widths[i]), x, CAPTION - 12);
    paper.fillStyle = '#fff';
    const shown = Math.min(image.height, height);
    paper.fillRect(x, CAPTION, image.width, shown);
    paper.drawImage(image, 0, 0, image.width, shown, x, CAPTION, image.width, shown);
    x += image.width + BETWEEN;
  }
  return new Promise((resolve, reject) => {
    canvas.toBlob((blob) => {
      if (blob) resolve(blob);
      else reject(new Error('The picture is too large for this browser: choose fewer widths.'));
    }, 'image/png');
  });
}
