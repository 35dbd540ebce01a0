import { Router } from 'express';
import { Op, type Sequelize, type Transaction } from 'sequelize';
import { DrawingRow, FontRow, IN_ORDER, Project, Screen } from '../db/models.js';
import { own, shownTo } from '../access/ownership.js';
import { whoOf } from '../access/who.js';
import { inDays } from '../days.js';
import { notFound, parseId } from '../problem.js';
import { openScreen } from '../structures.js';

/** What is in the bin stays there for so many days. */
const KEPT_DAYS = 30;

/** Takes away for good what has been in the bin for longer than it is kept. */
async function emptyOld(): Promise<void> {
  const where = { deletedAt: { [Op.lt]: inDays(-KEPT_DAYS) } };
  await Screen.destroy({ where, force: true });
  await Project.destroy({ where, force: true });
}

/** A screen as it stands now, under another name or in another project; its steps before do not come along. */
async function copyScreen(
  sequelize: Sequelize,
  id: string,
  to: { readonly name: string; readonly projectId: string; readonly place?: number },
  transaction: Transaction,
): Promise<string> {
  const { screen, structure } = await openScreen(sequelize, id);
  const { asRead, expectations, leftSo } = screen;
  const copy = await Screen.create(
    { ...to, snapshot: structure, asRead, expectations, leftSo },
    { transaction },
  );
  const drawings = await DrawingRow.findAll({ where: { screenId: id }, transaction });
  await DrawingRow.bulkCreate(
    drawings.map(({ name, width, height, source, decisions }) => ({
      screenId: copy.id,
      name,
      width,
      height,
      source,
      decisions,
    })),
    { transaction },
  );
  return copy.id;
}

const copied = (name: string): string => `${name.slice(0, 190)}, copy`;

/** Copies of projects and screens, and the bin that deleted ones are put back from. */
export function binRoutes(sequelize: Sequelize): Router {
  const router = Router();

  router.post('/screens/:id/copy', async (request, response) => {
    const screen = await Screen.findByPk(parseId(request.params['id'], 'screen'));
    if (!screen) throw notFound('screen');
    const to = { name: copied(screen.name), projectId: screen.projectId };
    const id = await sequelize.transaction((transaction) =>
      copyScreen(sequelize, screen.id, to, transaction),
    );
    response.status(201).json({ id });
  });

  router.post('/projects/:id/copy', async (request, response) => {
    const project = await Project.findByPk(parseId(request.params['id'], 'project'));
    if (!project) throw notFound('project');
    const id = await sequelize.transaction(async (transaction) => {
      const copy = await Project.create({ name: copied(project.name) }, { transaction });
      await own(whoOf(response), copy.id, transaction);
      const fonts = await FontRow.findAll({ where: { projectId: project.id }, transaction });
      await FontRow.bulkCreate(
        fonts.map(({ family, weight, italic, file }) => ({
          projectId: copy.id,
          family,
          weight,
          italic,
          file,
        })),
        { transaction },
      );
      const screens = await Screen.findAll({
        where: { projectId: project.id },
        order: IN_ORDER,
        transaction,
      });
      for (const [place, { id: own, name }] of screens.entries())
        await copyScreen(sequelize, own, { name, projectId: copy.id, place }, transaction);
      return copy.id;
    });
    response.status(201).json({ id });
  });

  router.get('/bin', async (_request, response) => {
    await emptyOld();
    const inBin = { where: { deletedAt: { [Op.ne]: null } }, paranoid: false } as const;
    const shown = await shownTo(whoOf(response));
    const projects = await Project.findAll({
      where: { [Op.and]: [inBin.where, shown.where] },
      paranoid: false,
      order: [['deletedAt', 'DESC']],
    });
    const screens = await Screen.findAll({
      ...inBin,
      attributes: ['id', 'name', 'projectId', 'deletedAt'],
      order: [['deletedAt', 'DESC']],
    });
    const shelved = new Map((await Project.findAll(shown)).map((p) => [p.id, p.name]));
    response.json({
      days: KEPT_DAYS,
      projects: projects.map(({ id, name, deletedAt }) => ({ id, name, deletedAt })),
      // Those of a project in the bin come back with it.
      screens: screens
        .filter((s) => shelved.has(s.projectId))
        .map(({ id, name, projectId, deletedAt }) => ({
          id,
          name,
          project: shelved.get(projectId),
          deletedAt,
        })),
    });
  });

  router.post('/projects/:id/restore', async (request, response) => {
    const project = await Project.findByPk(parseId(request.params['id'], 'project'), { paranoid: false });
    if (!project?.deletedAt) throw notFound('project in the bin');
    await project.restore();
    response.status(204).end();
  });

  router.post('/screens/:id/restore', async (request, response) => {
    const screen = await Screen.findByPk(parseId(request.params['id'], 'screen'), { paranoid: false });
    if (!screen?.deletedAt) throw notFound('screen in the bin');
    await screen.restore();
    response.status(204).end();
  });

  return router;
}
