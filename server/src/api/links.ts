import { Router } from 'express';
import { Op, type Sequelize } from 'sequelize';
import * as v from 'valibot';
import { makeToken, tokenHash } from '../access/secrets.js';
import { inDays } from '../days.js';
import { DrawingRow, FontRow, LinkRow, Screen } from '../db/models.js';
import { notFound, parseId, parseInput, Problem } from '../problem.js';
import { openScreen } from '../structures.js';
import { drawingView } from './drawingView.js';
import { fontsOf } from './ownFonts.js';
import { parseToken } from './token.js';

/** A link ends: one that is found years later opens nothing. */
const MOST_DAYS = 365;
const NewLink = v.strictObject({
  days: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(MOST_DAYS)),
});

const view = ({ id, endsAt, createdAt }: LinkRow) => ({ id, endsAt, createdAt });

/** The screen that a link opens; a link that has ended or was taken back opens none. */
async function screenOfLink(token: unknown): Promise<string> {
  const hash = parseToken(token, 'link');
  const link = await LinkRow.findOne({ where: { hash, endsAt: { [Op.gt]: new Date() } } });
  if (!link)
    throw new Problem(
      404,
      'Not found',
      'This link has ended, was taken back or never was: ask for another one.',
    );
  return link.screenId;
}

/** The routes for links by which a screen is looked at and nothing is changed. */
export function linkRoutes(sequelize: Sequelize): Router {
  const router = Router();

  router.get('/screens/:id/links', async (request, response) => {
    const screenId = parseId(request.params['id'], 'screen');
    const links = await LinkRow.findAll({
      where: { screenId, endsAt: { [Op.gt]: new Date() } },
      order: [['createdAt', 'ASC']],
    });
    response.json(links.map(view));
  });

  router.post('/screens/:id/links', async (request, response) => {
    const screenId = parseId(request.params['id'], 'screen');
    const { days } = parseInput(NewLink, request.body);
    if (!(await Screen.findByPk(screenId, { attributes: ['id'] }))) throw notFound('screen');
    const token = makeToken();
    const link = await LinkRow.create({
      hash: tokenHash(token),
      screenId,
      endsAt: inDays(days),
    });
    // The token is told once: what is kept of it opens nothing.
    response.status(201).json({ ...view(link), token });
  });

  router.delete('/links/:id', async (request, response) => {
    const removed = await LinkRow.destroy({ where: { id: parseId(request.params['id'], 'link') } });
    if (removed === 0) throw notFound('link');
    response.status(204).end();
  });

  router.get('/shared/:token', async (request, response) => {
    const { screen, structure } = await openScreen(sequelize, await screenOfLink(request.params['token']));
    if (!structure) throw notFound('screen');
    const drawings = await DrawingRow.findAll({ where: { screenId: screen.id }, order: [['width', 'DESC']] });
    response.json({
      name: screen.name,
      revision: screen.revision,
      structure,
      expectations: screen.expectations,
      left: screen.leftSo,
      fonts: await fontsOf(screen.projectId),
      // What was drawn so is no fault of the structure: the proof looks at the drawings, too.
      drawings: drawings.map(drawingView),
    });
  });

  router.get('/shared/:token/fonts/:id/file', async (request, response) => {
    const screen = await Screen.findByPk(await screenOfLink(request.params['token']), {
      attributes: ['projectId'],
    });
    const id = parseId(request.params['id'], 'font');
    const row = screen && (await FontRow.findOne({ where: { id, projectId: screen.projectId } }));
    if (!row) throw notFound('font');
    response.type('font/sfnt').set('cache-control', 'private, no-store').send(row.file);
  });

  return router;
}
