#!/usr/bin/env node
import { existsSync } from 'node:fs';

const main = new URL('../dist/main.js', import.meta.url);
if (!existsSync(main)) {
  process.stderr.write('The command is not built yet: run `npm run prepare` in the project folder.\n');
  process.exit(1);
}
const { run } = await import(main);
process.exitCode = await run(process.argv);
