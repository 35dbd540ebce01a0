import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';

/** A program of the tests as a process of its own, once it has written its first line. */
export interface Started {
  readonly child: ChildProcess;
  /** The line that it wrote: a server's address. */
  readonly line: string;
}

/** Starts `serving.ts` or `working.ts` on a database. */
export async function startProcess(program: 'serving' | 'working', databaseUrl: string): Promise<Started> {
  const file = fileURLToPath(new URL(`${program}.ts`, import.meta.url));
  const child = spawn(process.execPath, ['--conditions=development', '--import', 'tsx', file], {
    env: { ...process.env, DATABASE_URL: databaseUrl },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ended = once(child, 'exit').then(([code]) => {
    throw new Error(`${program}.ts ended with ${String(code)} before it was ready.`);
  });
  const [line] = (await Promise.race([once(child.stdout, 'data'), ended])) as [Buffer];
  ended.catch(() => undefined);
  return { child, line: line.toString().trim() };
}
