import { Router } from 'express';
import * as v from 'valibot';
import type { Sequelize } from 'sequelize';
import { FORMAT_NAMES, zipOf } from '@tinfold/core/handoff';
import { handoffFiles, measurerFor } from '@tinfold/host/handoff';
import { ownFileOf } from '@tinfold/host/ownFonts';
import { HandoffRow, Screen } from '../db/models.js';
import { fileName } from '../fileName.js';
import { notFound, parseId, parseInput, Problem } from '../problem.js';
import { openScreen } from '../structures.js';
import { fontFile, fontsOf } from './ownFonts.js';

const NewHandoff = v.strictObject({
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
  formats: v.pipe(v.array(v.picklist(FORMAT_NAMES)), v.minLength(1), v.maxLength(FORMAT_NAMES.length)),
  widths: v.pipe(
    v.array(v.pipe(v.number(), v.minValue(1), v.maxValue(20_000))),
    v.minLength(1),
    v.maxLength(20),
  ),
});

/** So many of the last handoffs are told. */
const MOST = 50;

const view = ({ id, revision, formats, widths, createdAt }: HandoffRow) => ({
  id,
  revision,
  formats,
  widths,
  createdAt,
});

/** The routes for what leaves: what was handed over is kept as it was, and its files are made of that. */
export function handoffRoutes(sequelize: Sequelize): Router {
  const router = Router();

  router.get('/screens/:id/handoffs', async (request, response) => {
    const screenId = parseId(request.params['id'], 'screen');
    if (!(await Screen.findByPk(screenId, { attributes: ['id'] }))) throw notFound('screen');
    const order: [string, string][] = [['createdAt', 'DESC']];
    const rows = await HandoffRow.findAll({
      where: { screenId },
      attributes: { exclude: ['structure'] },
      order,
      limit: MOST,
    });
    const last = await HandoffRow.findOne({ where: { screenId }, attributes: ['structure'], order });
    response.json({ handoffs: rows.map(view), last: last?.structure ?? null });
  });

  router.post('/screens/:id/handoffs', async (request, response) => {
    const { revision, ...wanted } = parseInput(NewHandoff, request.body);
    const { screen, structure } = await openScreen(sequelize, parseId(request.params['id'], 'screen'));
    if (!structure)
      throw new Problem(422, 'No structure', 'This screen has no structure yet: read its drawing first.');
    // What leaves is what was looked at.
    if (screen.revision !== revision)
      throw new Problem(
        409,
        'Out of date',
        'Someone changed this screen meanwhile: look at it again, then hand it over.',
      );
    const row = await HandoffRow.create({ screenId: screen.id, revision, structure, ...wanted });
    response.status(201).json(view(row));
  });

  router.get('/handoffs/:id/files.zip', async (request, response) => {
    const row = await HandoffRow.findByPk(parseId(request.params['id'], 'handoff'));
    const screen = row && (await Screen.findByPk(row.screenId, { attributes: ['name', 'projectId'] }));
    if (!row || !screen) throw notFound('handoff');
    const fonts = await fontsOf(screen.projectId);
    const ownFile = ownFileOf({ fonts, file: fontFile });
    const measurer = await measurerFor(row.structure, fonts, ownFile);
    const files = await handoffFiles(row.structure, measurer, row.formats, row.widths, ownFile);
    response
      .type('application/zip')
      .attachment(`${fileName(screen.name)} rev ${row.revision}.zip`)
      .send(Buffer.from(zipOf(files)));
  });

  return router;
}
