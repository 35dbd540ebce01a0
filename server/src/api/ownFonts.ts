import express, { Router } from 'express';
import * as hb from 'harfbuzzjs';
import decompress from 'woff2-encoder/decompress';
import { describeFont, toSfnt, type OwnFont } from '@tinfold/core/text';
import { FontRow, Project } from '../db/models.js';
import { notFound, parseId, Problem } from '../problem.js';

/** Larger font files are refused; those of whole scripts are smaller. */
const MAX_FONT = 30 * 1024 * 1024;
/** "wOF2" (W3C WOFF2 §4). */
const WOFF2 = 0x774f4632;

/** The fonts that were added to a project, oldest first, without their files. */
export async function fontsOf(projectId: string): Promise<OwnFont[]> {
  const rows = await FontRow.findAll({
    where: { projectId },
    attributes: ['id', 'family', 'weight', 'italic'],
    order: [
      ['createdAt', 'ASC'],
      ['id', 'ASC'],
    ],
  });
  return rows.map(({ id, family, weight, italic }) => ({ id, family, weight, italic }));
}

/** The file of a font that was added to a project, by its id. */
export const fontFile = async (id: string): Promise<Uint8Array | undefined> =>
  (await FontRow.findByPk(id))?.file;

/** The raw font in a file of any of the four kinds, and what it says of itself. */
export async function openFont(file: Buffer): Promise<{ sfnt: Buffer; about: Omit<OwnFont, 'id'> }> {
  try {
    const packed = file.length >= 4 && file.readUInt32BE(0) === WOFF2;
    const sfnt = packed ? await decompress(file) : toSfnt(file);
    return { sfnt: Buffer.from(sfnt), about: describeFont(hb, sfnt) };
  } catch (error) {
    const said = error instanceof RangeError ? error.message : undefined;
    throw new Problem(
      422,
      'Refused',
      said ?? 'The file is not a font that can be read: choose a woff2, woff, ttf or otf file.',
    );
  }
}

/** The routes for the fonts of a project. */
export function ownFontRoutes(): Router {
  const router = Router();
  const body = express.raw({ type: 'application/octet-stream', limit: MAX_FONT });

  router.get('/projects/:id/fonts', async (request, response) => {
    response.json(await fontsOf(parseId(request.params['id'], 'project')));
  });

  router.post('/projects/:id/fonts', body, async (request, response) => {
    const projectId = parseId(request.params['id'], 'project');
    if (!(await Project.findByPk(projectId))) throw notFound('project');
    const file: unknown = request.body;
    if (!Buffer.isBuffer(file) || file.length === 0)
      throw new Problem(
        400,
        'Wrong input',
        'The request holds no font file: send its bytes as octet-stream.',
      );
    const { sfnt, about } = await openFont(file);
    const row = await FontRow.create({ projectId, ...about, file: sfnt });
    response.status(201).json({ id: row.id, ...about });
  });

  router.get('/fonts/:id/file', async (request, response) => {
    const row = await FontRow.findByPk(parseId(request.params['id'], 'font'));
    if (!row) throw notFound('font');
    response.type('font/sfnt').set('cache-control', 'private, max-age=86400, immutable').send(row.file);
  });

  router.delete('/fonts/:id', async (request, response) => {
    const removed = await FontRow.destroy({ where: { id: parseId(request.params['id'], 'font') } });
    if (removed === 0) throw notFound('font');
    response.status(204).end();
  });

  return router;
}
