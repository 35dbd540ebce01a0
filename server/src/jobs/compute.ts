import { fork } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { LONGEST_MS } from './queue.js';
import type { Outcome, Task, Told } from './task.js';

/** It is run from its source or as it was built, as this file is. */
const CHILD = fileURLToPath(new URL(`./child${path.extname(import.meta.url)}`, import.meta.url));

/** The most memory that a job takes, MB; a drawing of 20 MB takes less. */
const MOST_MB = 2048;

const TOO_LONG: Readonly<Record<Task['kind'], string>> = {
  reading:
    'Reading it takes over three minutes: split it into one file for each screen, or leave out what is not seen.',
  proof: 'Proving it takes over ten minutes: prove it with fewer trials on its own page.',
};
const TOO_LARGE = 'It takes more memory than a worker has: split it into smaller screens.';

/**
 * Computes a task in a process of its own. `tell` hears how far it is, from 0 to 1; `stop` ends it, and it gives undefined then. Where
 * the task itself is at fault the outcome is a reason; it rejects where the process broke off, so that trying again may help.
 */
export async function compute(
  task: Task,
  tell: (done: number) => void,
  stop: AbortSignal,
): Promise<Outcome | undefined> {
  const child = fork(CHILD, {
    serialization: 'advanced',
    execArgv: [...process.execArgv, `--max-old-space-size=${MOST_MB}`],
    // What it writes when it breaks off belongs to the worker's log.
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  const told = new Promise<Outcome>((resolve, reject) => {
    child.on('message', (message: Told) => {
      if (message.kind === 'outcome') resolve(message.outcome);
      else tell(message.done);
    });
    child.on('error', reject);
    child.on('exit', (code, signal) => {
      // Node.js aborts where there is no memory left.
      if (signal === 'SIGABRT') resolve({ kind: 'refused', reason: TOO_LARGE });
      else reject(new Error(`The process ended with ${signal ?? code} and without a word.`));
    });
  });
  child.send(task);
  const slow = AbortSignal.timeout(LONGEST_MS[task.kind]);
  const ended = AbortSignal.any([stop, slow]);
  const broken = ended.aborted ? Promise.resolve() : once(ended, 'abort');
  try {
    return await Promise.race([
      told,
      broken.then((): Outcome | undefined =>
        stop.aborted ? undefined : { kind: 'refused', reason: TOO_LONG[task.kind] },
      ),
    ]);
  } finally {
    child.kill('SIGKILL');
  }
}
