import path from 'node:path';
import { Router } from 'express';
import { SHIPPED } from '@tinfold/core/text';
import { fontFile } from 'tinfold-cli/fonts';
import { notFound } from './problem.js';

const NAME = /^([a-z0-9-]+?)-(latin|latin-ext)-(\d{3})-(normal|italic)\.woff$/;

/** The shipped font files, by the names that `faceKey` gives them. */
export function fontRoutes(): Router {
  const router = Router();
  router.get('/:file', (request, response) => {
    const [, slug, subset, weight, style] = NAME.exec(request.params['file']) ?? [];
    const family = SHIPPED.find((f) => f.slug === slug);
    if (!family || !family.weights.includes(Number(weight)) || (subset !== 'latin' && subset !== 'latin-ext'))
      throw notFound('font');
    const file = fontFile({ family, subset, weight: Number(weight), italic: style === 'italic' });
    response.sendFile(path.basename(file), { root: path.dirname(file), maxAge: '30d' });
  });
  return router;
}
