import { Router } from 'express';
import * as v from 'valibot';
import { LeftSchema, parseExpectation } from '@tinfold/core/proof';
import { ProofRow, Screen } from '../db/models.js';
import { notFound, parseId, parseInput } from '../problem.js';

const width = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(20_000));
const count = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(1_000_000));

const Sentence = v.pipe(
  v.string(),
  v.trim(),
  v.maxLength(300),
  v.check(
    (sentence) => parseExpectation(sentence).ok,
    'this is no expectation: write one like “no side scroll 320–1920”',
  ),
);
const Expectations = v.strictObject({ expectations: v.pipe(v.array(Sentence), v.maxLength(100)) });
const LeftSo = v.strictObject({ left: v.pipe(v.array(LeftSchema), v.maxLength(500)) });
const NewProof = v.strictObject({
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
  from: width,
  to: width,
  trials: v.pipe(v.array(v.pipe(v.string(), v.maxLength(60))), v.maxLength(40)),
  errors: count,
  warnings: count,
  notes: count,
});

/** So many of the last runs are told. */
const MOST_RUNS = 200;

/** A run of the proof as it is told. */
interface ProofView extends Pick<
  ProofRow,
  'id' | 'revision' | 'trials' | 'errors' | 'warnings' | 'notes' | 'createdAt'
> {
  readonly from: number;
  readonly to: number;
}

export const proofView = (p: ProofRow): ProofView => ({
  id: p.id,
  revision: p.revision,
  from: p.rangeFrom,
  to: p.rangeTo,
  trials: p.trials,
  errors: p.errors,
  warnings: p.warnings,
  notes: p.notes,
  createdAt: p.createdAt,
});

async function screenOf(id: unknown): Promise<Screen> {
  const screen = await Screen.findByPk(parseId(id, 'screen'), { attributes: ['id', 'revision'] });
  if (!screen) throw notFound('screen');
  return screen;
}

/** The routes for what a screen is held to and what proofs of it have found. */
export function proofRoutes(): Router {
  const router = Router();

  router.put('/screens/:id/expectations', async (request, response) => {
    const screen = await screenOf(request.params['id']);
    const { expectations } = parseInput(Expectations, request.body);
    await screen.update({ expectations });
    response.json({ expectations });
  });

  router.put('/screens/:id/left', async (request, response) => {
    const screen = await screenOf(request.params['id']);
    const { left } = parseInput(LeftSo, request.body);
    await screen.update({ leftSo: left });
    response.json({ left });
  });

  router.get('/screens/:id/proofs', async (request, response) => {
    const screen = await screenOf(request.params['id']);
    const rows = await ProofRow.findAll({
      where: { screenId: screen.id },
      order: [['createdAt', 'DESC']],
      limit: MOST_RUNS,
    });
    response.json(rows.reverse().map(proofView));
  });

  router.post('/screens/:id/proofs', async (request, response) => {
    const screen = await screenOf(request.params['id']);
    const { from, to, ...run } = parseInput(NewProof, request.body);
    const row = await ProofRow.create({ screenId: screen.id, rangeFrom: from, rangeTo: to, ...run });
    response.status(201).json(proofView(row));
  });

  return router;
}
