import path from 'node:path';
import { Router } from 'express';
import { faceKey, SCRIPT_FALLBACKS, SHIPPED, type Face } from '@tinfold/core/text';
import { fontFile } from '@tinfold/host/fonts';
import { glyphFile } from '@tinfold/host/glyphs';
import { notFound } from './problem.js';

const FAMILIES = [...SHIPPED, ...SCRIPT_FALLBACKS];

/** The shipped face with this file name, if there is one. */
function faceOf(file: string): Face | undefined {
  const weight = Number(/-(\d{3})-(?:normal|italic)\.woff$/.exec(file)?.[1]);
  const italic = file.endsWith('-italic.woff');
  for (const family of FAMILIES)
    for (const subset of family.subsets === 'whole' ? [] : family.subsets) {
      const face: Face = { family, subset, weight, italic };
      const exists = (italic ? family.italics : family.weights).includes(weight);
      if (exists && `${faceKey(face)}.woff` === file) return face;
    }
  return undefined;
}

/** The shipped font files, by the names that `faceKey` gives them, and their glyphs in one file. */
export function fontRoutes(): Router {
  const router = Router();
  router.get('/glyphs.bin', (_, response) => {
    const file = glyphFile();
    response.sendFile(path.basename(file), { root: path.dirname(file), maxAge: '1h' });
  });
  router.get('/:file', (request, response) => {
    const face = faceOf(request.params['file']);
    if (!face) throw notFound('font');
    const file = fontFile(face);
    response.sendFile(path.basename(file), { root: path.dirname(file), maxAge: '30d' });
  });
  return router;
}
