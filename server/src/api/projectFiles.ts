import express, { Router } from 'express';
import type { Sequelize } from 'sequelize';
import { DrawingRow, FontRow, IN_ORDER, Project, Screen } from '../db/models.js';
import { own } from '../access/ownership.js';
import { whoOf } from '../access/who.js';
import { fileName } from '../fileName.js';
import { notFound, parseId, Problem } from '../problem.js';
import { packProject, unpackProject } from '../projectFile.js';
import { openScreen } from '../structures.js';
import { openFont } from './ownFonts.js';

/** Larger project files are refused. */
const MAX_FILE = 128 * 1024 * 1024;

/** The routes by which a project leaves as one file, and comes back from it. */
export function projectFileRoutes(sequelize: Sequelize): Router {
  const router = Router();
  const body = express.raw({ type: 'application/octet-stream', limit: MAX_FILE });

  router.get('/projects/:id/file', async (request, response) => {
    const project = await Project.findByPk(parseId(request.params['id'], 'project'));
    if (!project) throw notFound('project');
    const rows = await Screen.findAll({
      where: { projectId: project.id },
      attributes: ['id'],
      order: IN_ORDER,
    });
    const screens = [];
    for (const { id } of rows) {
      const { screen, structure } = await openScreen(sequelize, id);
      const drawings = await DrawingRow.findAll({ where: { screenId: id }, order: [['width', 'DESC']] });
      screens.push({
        name: screen.name,
        structure,
        asRead: screen.asRead,
        expectations: screen.expectations,
        left: screen.leftSo,
        drawings: drawings.map(({ name, width, height, decisions, source }) => ({
          name,
          width,
          height,
          decisions,
          source,
        })),
      });
    }
    const fonts = await FontRow.findAll({
      where: { projectId: project.id },
      order: [
        ['createdAt', 'ASC'],
        ['id', 'ASC'],
      ],
    });
    const bytes = packProject({
      name: project.name,
      screens,
      fonts: fonts.map(({ family, weight, italic, file }) => ({ family, weight, italic, file })),
    });
    response
      .type('application/zip')
      .attachment(`${fileName(project.name)}.tinfold.zip`)
      .send(Buffer.from(bytes));
  });

  router.post('/projects/file', body, async (request, response) => {
    const file: unknown = request.body;
    if (!Buffer.isBuffer(file) || file.length === 0)
      throw new Problem(
        400,
        'Wrong input',
        'The request holds no project file: send its bytes as octet-stream.',
      );
    const contents = unpackProject(file);
    // A font is taken for what its file says, as one that is added by hand.
    const fonts = await Promise.all(contents.fonts.map((f) => openFont(Buffer.from(f.file))));
    const project = await sequelize.transaction(async (transaction) => {
      const made = await Project.create({ name: contents.name }, { transaction });
      await own(whoOf(response), made.id, transaction);
      await FontRow.bulkCreate(
        fonts.map(({ sfnt, about }) => ({ projectId: made.id, ...about, file: sfnt })),
        { transaction },
      );
      for (const [place, s] of contents.screens.entries()) {
        const screen = await Screen.create(
          {
            projectId: made.id,
            name: s.name,
            place,
            snapshot: s.structure,
            asRead: s.asRead,
            expectations: s.expectations,
            leftSo: s.left,
          },
          { transaction },
        );
        await DrawingRow.bulkCreate(
          s.drawings.map((d) => ({ screenId: screen.id, ...d })),
          { transaction },
        );
      }
      return made;
    });
    response.status(201).json({ id: project.id, name: project.name, screens: contents.screens.length });
  });

  return router;
}
