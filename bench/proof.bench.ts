import { bench, describe } from 'vitest';
import { Engine } from '@tinfold/core/layout';
import { FILL, textRunsIn, updatePart, walk, withChange, type Structure } from '@tinfold/core/model';
import { faultsIn, prove, structuresIn, TRIALS, TRIAL_NAMES } from '@tinfold/core/proof';
import { facesOfRuns } from '@tinfold/core/text';
import { loadMeasurer } from '../host/src/fonts.js';
import { benchMeasurer, cardsStructure } from './support.js';

const measurer = await benchMeasurer();
const once = { iterations: 3, time: 500, warmupIterations: 1, warmupTime: 0 };

const everyWidth = Array.from({ length: 1601 }, (_, i) => 320 + i);

for (const wanted of [300, 2_000]) {
  const structure = cardsStructure(wanted);
  describe(`proof of ${[...walk(structure.root)].length} parts from 320 to 1920, no trials`, () => {
    bench('swept', () => void prove(structure, new Engine(measurer)), once);
    if (wanted < 1_000)
      bench(
        'every width by itself',
        () => void prove(structure, new Engine(measurer), { only: everyWidth }),
        once,
      );
  });
}

describe('proof of 300 parts with all trials', () => {
  const structure = cardsStructure(300);
  const runs = structuresIn(structure, TRIALS).flatMap((s) => textRunsIn(s.root));
  let all: Awaited<ReturnType<typeof loadMeasurer>> | undefined;
  bench(
    `${TRIAL_NAMES.length} trials`,
    async () => {
      all ??= await loadMeasurer(facesOfRuns(runs));
      faultsIn(structure, new Engine(all), { trials: TRIALS });
    },
    once,
  );
});

describe('proof of one container over the range, the rest being known', () => {
  const whole = cardsStructure(300);
  const [section] = whole.root.children;
  const [card] = section?.children ?? [];
  if (!section || !card) throw new Error('The bench has no card.');
  const engine = new Engine(measurer);
  const alone: Structure = { ...whole, root: card, drawn: { width: 400, height: 300 } };
  prove(alone, engine, { range: { from: 220, to: 900 } });
  let n = 0;
  bench(
    `a card of ${[...walk(card)].length} parts with another gap`,
    () => {
      n = (n + 1) % 40;
      const root = updatePart(card, card.id, (p) => ({
        ...p,
        rules: withChange(p.rules, { gap: n, width: FILL }),
      }));
      prove({ ...alone, root }, engine, { range: { from: 220, to: 900 } });
    },
    { time: 500 },
  );
});
