import { Router } from 'express';
import { Op, type Sequelize } from 'sequelize';
import * as v from 'valibot';
import { HandoffRow, ProofRow, RevisionName, Screen, SnapshotRow, StepRow } from '../db/models.js';
import { notFound, parseId, parseInput, Text } from '../problem.js';
import { structureAt, writeStructure } from '../structures.js';

const number = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(1_000_000_000));
const Restore = v.strictObject({ revision: number });
const Naming = v.strictObject({ name: v.pipe(Text, v.trim(), v.maxLength(200)) });
const Before = v.object({
  before: v.optional(v.pipe(v.string(), v.regex(/^\d{1,9}$/), v.transform(Number))),
});
const Place = v.pipe(
  v.string(),
  v.regex(/^\d{1,9}$/, 'this is no number of a revision'),
  v.transform(Number),
);

/** So many revisions are told at once. */
const MOST = 200;

/** The routes for what a screen was before: its revisions, each as it was, named, or put in place again. */
export function revisionRoutes(sequelize: Sequelize): Router {
  const router = Router();

  router.get('/screens/:id/revisions', async (request, response) => {
    const screenId = parseId(request.params['id'], 'screen');
    const { before = Infinity } = parseInput(Before, request.query);
    const screen = await Screen.findByPk(screenId, { attributes: ['revision', 'createdAt'] });
    if (!screen) throw notFound('screen');
    const to = Math.min(screen.revision, before - 1);
    const from = Math.max(0, to - MOST + 1);
    const where = { screenId, revision: { [Op.between]: [from, to] as [number, number] } };
    const attributes = ['revision', 'label', 'createdAt'];
    const [steps, snapshots, names, proofs, handoffs] = await Promise.all([
      StepRow.findAll({ where, attributes }),
      SnapshotRow.findAll({ where, attributes }),
      RevisionName.findAll({ where }),
      ProofRow.findAll({ where, attributes: ['revision'] }),
      HandoffRow.findAll({ where, attributes: ['revision'] }),
    ]);
    const edits = new Map(steps.map((s) => [s.revision, s]));
    const readings = new Map(snapshots.map((s) => [s.revision, s]));
    const called = new Map(names.map((n) => [n.revision, n.name]));
    const [proved, handed] = [proofs, handoffs].map((rows) => new Set(rows.map((r) => r.revision)));
    const revisions = Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => {
      const revision = to - i;
      const made = edits.get(revision) ?? readings.get(revision);
      return {
        revision,
        label: made?.label ?? 'Read from its drawing',
        createdAt: made?.createdAt ?? screen.createdAt,
        name: called.get(revision) ?? null,
        proved: proved?.has(revision) === true,
        handedOver: handed?.has(revision) === true,
      };
    });
    response.json({ revision: screen.revision, revisions, more: from > 0 });
  });

  router.get('/screens/:id/revisions/:revision', async (request, response) => {
    const id = parseId(request.params['id'], 'screen');
    const revision = parseInput(Place, request.params['revision']);
    response.json({ revision, structure: await structureAt(sequelize, id, revision) });
  });

  router.put('/screens/:id/revisions/:revision/name', async (request, response) => {
    const screenId = parseId(request.params['id'], 'screen');
    const revision = parseInput(Place, request.params['revision']);
    const { name } = parseInput(Naming, request.body);
    const screen = await Screen.findByPk(screenId, { attributes: ['revision'] });
    if (!screen || revision > screen.revision) throw notFound('revision');
    if (name === '') await RevisionName.destroy({ where: { screenId, revision } });
    else await RevisionName.upsert({ screenId, revision, name });
    response.status(204).end();
  });

  router.post('/screens/:id/revisions/:revision/restore', async (request, response) => {
    const id = parseId(request.params['id'], 'screen');
    const restored = parseInput(Place, request.params['revision']);
    const { revision } = parseInput(Restore, request.body);
    const structure = await structureAt(sequelize, id, restored);
    const screen = await Screen.findByPk(id, { attributes: ['asRead'] });
    response.json({
      revision: await writeStructure(sequelize, id, {
        revision,
        structure,
        label: `As it was at rev ${restored}`,
        ...(screen?.asRead && { asRead: screen.asRead }),
      }),
    });
  });

  return router;
}
