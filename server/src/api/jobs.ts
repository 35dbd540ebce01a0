import { Router } from 'express';
import * as v from 'valibot';
import { Op, type Sequelize } from 'sequelize';
import { MAX_BYTES } from '@tinfold/core/drawing';
import { IN_ORDER, Job, Project, ProofRow, Screen } from '../db/models.js';
import type { Queue } from '../jobs/queue.js';
import { notFound, parseId, parseInput, Problem, Text } from '../problem.js';
import { Name } from './name.js';
import { proofView } from './proofs.js';

const NewReading = v.strictObject({
  name: Name,
  source: v.pipe(Text, v.minLength(1), v.maxLength(MAX_BYTES)),
});

/** So much may wait in one project: more is no hand's work. */
const MOST_WAITING = 500;

/** What ended so long ago is no longer told, ms. */
const TOLD_MS = 24 * 60 * 60 * 1000;

const view = ({ id, kind, name, screenId, state, progress, said, made }: Job) => ({
  id,
  kind,
  name,
  screen: screenId,
  state,
  progress,
  said,
  screens: made?.screens ?? [],
});

/** The routes for long work: it is put in line here, and done by worker processes. */
export function jobRoutes(sequelize: Sequelize, queue: Queue): Router {
  const router = Router();

  const projectOf = async (id: unknown): Promise<Project> => {
    const project = await Project.findByPk(parseId(id, 'project'));
    if (!project) throw notFound('project');
    const waiting = await Job.count({ where: { projectId: project.id, state: ['waiting', 'running'] } });
    if (waiting >= MOST_WAITING)
      throw new Problem(
        429,
        'Too many',
        `${MOST_WAITING} jobs of this project wait already: let some of them end first.`,
      );
    return project;
  };
  const enqueue = (jobs: readonly Pick<Job, 'projectId' | 'kind' | 'name' | 'screenId' | 'source'>[]) =>
    sequelize.transaction(async (transaction) => {
      const long = { [Op.lt]: new Date(Date.now() - TOLD_MS) };
      await Job.destroy({ where: { state: 'done', endedAt: long }, transaction });
      const made: Job[] = [];
      for (const job of jobs) {
        const row = await Job.create(job, { transaction });
        await queue.send(row, transaction);
        made.push(row);
      }
      return made;
    });

  router.get('/projects/:id/jobs', async (request, response) => {
    const projectId = parseId(request.params['id'], 'project');
    const rows = await Job.findAll({
      where: { projectId },
      attributes: { exclude: ['source'] },
      order: [
        ['createdAt', 'ASC'],
        ['id', 'ASC'],
      ],
    });
    const proofs = await ProofRow.findAll({ where: { id: rows.flatMap((r) => r.made?.proof ?? []) } });
    response.json(
      rows.map((row) => {
        const proof = proofs.find((p) => p.id === row.made?.proof);
        return { ...view(row), proof: proof ? proofView(proof) : null };
      }),
    );
  });

  router.post('/projects/:id/readings', async (request, response) => {
    const { id: projectId } = await projectOf(request.params['id']);
    const { name, source } = parseInput(NewReading, request.body);
    const [job] = await enqueue([{ projectId, kind: 'reading', name, source, screenId: null }]);
    response.status(202).json({ id: job?.id });
  });

  router.post('/projects/:id/proofs', async (request, response) => {
    const { id: projectId } = await projectOf(request.params['id']);
    const screens = await Screen.findAll({
      where: { projectId },
      attributes: ['id', 'name'],
      order: IN_ORDER,
    });
    const busy = await Job.findAll({
      where: { projectId, kind: 'proof', state: ['waiting', 'running'] },
      attributes: ['screenId'],
    });
    // What is proved already or waits for it is not put in line once more; what the last proof told is old now.
    const rest = screens.filter((s) => !busy.some((j) => j.screenId === s.id));
    await Job.destroy({ where: { projectId, kind: 'proof', state: ['done', 'failed'] } });
    const jobs = await enqueue(
      rest.map(({ id, name }) => ({ projectId, kind: 'proof', name, screenId: id, source: null })),
    );
    response.status(202).json({ jobs: jobs.map((j) => j.id) });
  });

  router.post('/jobs/:id/retry', async (request, response) => {
    const id = parseId(request.params['id'], 'job');
    await sequelize.transaction(async (transaction) => {
      const job = await Job.findByPk(id, { lock: true, transaction });
      if (!job) throw notFound('job');
      if (job.state !== 'failed')
        throw new Problem(422, 'Refused', 'Only what failed can be tried again: this has not.');
      await job.update(
        { state: 'waiting', tries: 0, progress: 0, said: null, endedAt: null },
        { transaction },
      );
      await queue.send(job, transaction);
    });
    response.status(202).json({ id });
  });

  router.delete('/jobs/:id', async (request, response) => {
    // A worker that is at it sees that it is gone, and stops.
    const removed = await Job.destroy({ where: { id: parseId(request.params['id'], 'job') } });
    if (removed === 0) throw notFound('job');
    response.status(204).end();
  });

  return router;
}
