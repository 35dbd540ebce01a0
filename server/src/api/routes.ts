import { Router } from 'express';
import type { Sequelize } from 'sequelize';
import * as v from 'valibot';
import {
  isDeeperThan,
  MAX_DEPTH,
  StepSchema,
  StructureSchema,
  unsound,
  type Structure,
} from '@tinfold/core/model';
import { MAX_BYTES } from '@tinfold/core/drawing';
import { DrawingRow, IN_ORDER, Project, Screen } from '../db/models.js';
import { own, shownTo } from '../access/ownership.js';
import { whoOf } from '../access/who.js';
import { notFound, parseId, parseInput, Problem, Text } from '../problem.js';
import { DecisionsSchema } from './decisions.js';
import { drawingView } from './drawingView.js';
import { Name } from './name.js';
import { fontsOf } from './ownFonts.js';
import { binRoutes } from './bin.js';
import { openScreen, readSince, writeSteps, writeStructure } from '../structures.js';

const Revision = v.pipe(v.number(), v.integer(), v.minValue(0));
const After = v.strictObject({
  after: v.pipe(v.string(), v.regex(/^\d{1,9}$/, 'after is a revision'), v.transform(Number)),
});
const NewProject = v.strictObject({ name: Name });
const NewOrder = v.strictObject({
  screens: v.pipe(v.array(v.pipe(v.string(), v.uuid())), v.maxLength(5000)),
});
const NewDrawing = v.strictObject({
  name: Name,
  width: v.pipe(v.number(), v.minValue(0.01), v.maxValue(1e6)),
  height: v.pipe(v.number(), v.minValue(0.01), v.maxValue(1e6)),
  source: v.pipe(Text, v.minLength(1), v.maxLength(MAX_BYTES)),
  decisions: v.exactOptional(DecisionsSchema),
});
const NewScreen = v.strictObject({ name: Name, drawing: NewDrawing, structure: StructureSchema });
const NewSteps = v.strictObject({
  revision: Revision,
  write: v.exactOptional(v.pipe(v.string(), v.uuid())),
  label: v.pipe(Text, v.maxLength(200)),
  steps: v.pipe(v.array(StepSchema), v.minLength(1), v.maxLength(500)),
});
const NewStructure = v.strictObject({
  revision: Revision,
  structure: StructureSchema,
  asRead: v.exactOptional(StructureSchema),
  decisions: v.exactOptional(
    v.strictObject({ drawing: v.pipe(v.string(), v.uuid()), value: DecisionsSchema }),
  ),
  added: v.exactOptional(NewDrawing),
  removed: v.exactOptional(v.pipe(v.string(), v.uuid())),
});

/** Structures from outside have to be such as can stand. */
function sound<T extends { structure: Structure; asRead?: Structure }>(input: T): T {
  const problem = unsound(input.structure) ?? (input.asRead && unsound(input.asRead));
  if (problem) throw new Problem(422, 'Refused', problem.reason);
  return input;
}

function shallow(body: unknown): unknown {
  if (isDeeperThan(body, MAX_DEPTH * 2 + 10))
    throw new Problem(400, 'Wrong input', `The structure nests deeper than ${MAX_DEPTH} parts: flatten it.`);
  return body;
}

/** How many screens of a project are shown small on the shelf. */
const PREVIEWS = 2;
const BY_AGE: [string, string][] = [
  ['createdAt', 'ASC'],
  ['id', 'ASC'],
];

const projectView = (p: Project, screens: number) => ({
  id: p.id,
  name: p.name,
  createdAt: p.createdAt,
  screens,
});

/** The routes below /api. */
export function apiRoutes(sequelize: Sequelize): Router {
  const router = Router();

  router.get('/projects', async (_request, response) => {
    const projects = await Project.findAll({ ...(await shownTo(whoOf(response))), order: BY_AGE });
    const screens = await Screen.findAll({ attributes: ['id', 'projectId'], order: IN_ORDER });
    response.json(
      projects.map((p) => {
        const own = screens.filter((s) => s.projectId === p.id);
        return { ...projectView(p, own.length), preview: own.slice(0, PREVIEWS).map((s) => s.id) };
      }),
    );
  });

  router.post('/projects', async (request, response) => {
    const input = parseInput(NewProject, request.body);
    const project = await sequelize.transaction(async (transaction) => {
      const made = await Project.create(input, { transaction });
      await own(whoOf(response), made.id, transaction);
      return made;
    });
    response.status(201).json({ ...projectView(project, 0), preview: [] });
  });

  router.get('/projects/:id', async (request, response) => {
    const project = await Project.findByPk(parseId(request.params['id'], 'project'));
    if (!project) throw notFound('project');
    const screens = await Screen.findAll({
      where: { projectId: project.id },
      order: IN_ORDER,
      attributes: ['id', 'name', 'revision', 'createdAt'],
    });
    const drawings = await DrawingRow.findAll({
      where: { screenId: screens.map((s) => s.id) },
      attributes: ['id', 'screenId', 'name', 'width', 'height'],
      order: [['width', 'DESC']],
    });
    response.json({
      ...projectView(project, screens.length),
      screens: screens.map((s) => ({
        id: s.id,
        name: s.name,
        revision: s.revision,
        drawings: drawings
          .filter((d) => d.screenId === s.id)
          .map(({ id, name, width, height }) => ({ id, name, width, height })),
      })),
    });
  });

  router.patch('/projects/:id', async (request, response) => {
    const [changed] = await Project.update(parseInput(NewProject, request.body), {
      where: { id: parseId(request.params['id'], 'project') },
    });
    if (changed === 0) throw notFound('project');
    response.status(204).end();
  });

  router.put('/projects/:id/order', async (request, response) => {
    const projectId = parseId(request.params['id'], 'project');
    const { screens } = parseInput(NewOrder, request.body);
    await sequelize.transaction(async (transaction) => {
      const project = await Project.findByPk(projectId, { transaction, lock: true });
      if (!project) throw notFound('project');
      const own = await Screen.findAll({ where: { projectId }, attributes: ['id'], transaction });
      const known = new Set(own.map((s) => s.id));
      // One that came or went meanwhile is no reason to refuse the order of the others.
      const order = screens.filter((id) => known.has(id));
      for (const [place, id] of order.entries())
        await Screen.update({ place }, { where: { id }, transaction });
    });
    response.status(204).end();
  });

  router.delete('/projects/:id', async (request, response) => {
    const removed = await Project.destroy({ where: { id: parseId(request.params['id'], 'project') } });
    if (removed === 0) throw notFound('project');
    response.status(204).end();
  });

  router.post('/projects/:id/screens', async (request, response) => {
    const projectId = parseId(request.params['id'], 'project');
    const input = sound(parseInput(NewScreen, shallow(request.body)));
    const screen = await sequelize.transaction(async (transaction) => {
      const project = await Project.findByPk(projectId, { transaction });
      if (!project) throw notFound('project');
      const created = await Screen.create(
        { projectId, name: input.name, snapshot: input.structure, asRead: input.structure },
        { transaction },
      );
      await DrawingRow.create({ screenId: created.id, ...input.drawing }, { transaction });
      return created;
    });
    response.status(201).json({ id: screen.id, name: screen.name, revision: screen.revision });
  });

  router.get('/screens/:id', async (request, response) => {
    const { screen, structure } = await openScreen(sequelize, parseId(request.params['id'], 'screen'));
    const project = await Project.findByPk(screen.projectId);
    // The screens of a project in the bin are in it, too.
    if (!project) throw notFound('screen');
    const drawings = await DrawingRow.findAll({ where: { screenId: screen.id }, order: [['width', 'DESC']] });
    const fonts = await fontsOf(screen.projectId);
    response.json({
      id: screen.id,
      name: screen.name,
      project: { id: screen.projectId, name: project.name },
      revision: screen.revision,
      structure,
      asRead: screen.asRead,
      expectations: screen.expectations,
      left: screen.leftSo,
      fonts,
      drawings: drawings.map(drawingView),
    });
  });

  router.patch('/screens/:id', async (request, response) => {
    const [changed] = await Screen.update(parseInput(NewProject, request.body), {
      where: { id: parseId(request.params['id'], 'screen') },
    });
    if (changed === 0) throw notFound('screen');
    response.status(204).end();
  });

  router.delete('/screens/:id', async (request, response) => {
    const removed = await Screen.destroy({ where: { id: parseId(request.params['id'], 'screen') } });
    if (removed === 0) throw notFound('screen');
    response.status(204).end();
  });

  router.get('/screens/:id/steps', async (request, response) => {
    const id = parseId(request.params['id'], 'screen');
    const { after } = parseInput(After, request.query);
    response.json(await readSince(sequelize, id, after));
  });

  router.post('/screens/:id/steps', async (request, response) => {
    const id = parseId(request.params['id'], 'screen');
    const revision = await writeSteps(sequelize, id, parseInput(NewSteps, shallow(request.body)));
    response.json({ revision });
  });

  router.put('/screens/:id/structure', async (request, response) => {
    const id = parseId(request.params['id'], 'screen');
    const revision = await writeStructure(
      sequelize,
      id,
      sound(parseInput(NewStructure, shallow(request.body))),
    );
    response.json({ revision });
  });

  router.use(binRoutes(sequelize));
  return router;
}
