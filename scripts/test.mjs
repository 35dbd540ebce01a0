/** Everything that CI checks, from a fresh clone: installs, type check, lint, all suites. One line sums up. */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { ensureDebian } from './lib/apt.mjs';
import { bin, checkNode, ensurePackages, Failure, run } from './lib/run.mjs';

const PROJECTS = ['core', 'cli', 'web', 'demo', 'server', 'e2e'];

/** Runs a check that counts as one test. */
async function check(name, steps) {
  console.log(`\n— ${name}`);
  try {
    for (const [command, args] of steps) await run(command, args);
    return { passed: 1, failed: 0 };
  } catch (error) {
    console.error(error.message);
    return { passed: 0, failed: 1 };
  }
}

async function suites() {
  const folder = mkdtempSync(path.join(tmpdir(), 'tinfold-test-'));
  const report = path.join(folder, 'report.json');
  console.log('\n— suites');
  try {
    await run(bin('vitest'), [
      'run',
      ...PROJECTS.flatMap((p) => ['--project', p]),
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${report}`,
    ]).catch((error) => console.error(error.message));
    const { numPassedTests, numFailedTests, testResults } = JSON.parse(readFileSync(report, 'utf8'));
    // A file that does not even load fails without a failed test.
    const broken = testResults.filter(
      (r) => r.status === 'failed' && r.assertionResults.every((a) => a.status !== 'failed'),
    );
    return { passed: numPassedTests, failed: numFailedTests + broken.length };
  } catch (error) {
    console.error(error.message);
    return { passed: 0, failed: 1 };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function main() {
  checkNode();
  await ensureDebian(['postgresql', 'chromium', 'chromium-driver']);
  await ensurePackages();
  const results = [
    await check('type check', [[bin('tsc'), ['-b']]]),
    await check('lint', [
      [bin('eslint'), ['.']],
      [bin('prettier'), ['--check', '--log-level', 'warn', '.']],
    ]),
    await check('build', [[bin('vite'), ['build', 'web', '--logLevel', 'warn']]]),
    await suites(),
  ];
  const passed = results.reduce((sum, r) => sum + r.passed, 0);
  const failed = results.reduce((sum, r) => sum + r.failed, 0);
  console.log(`\n${passed} passed, ${failed} failed`);
  process.exit(failed === 0 && passed > 0 ? 0 : 1);
}

main().catch((error) => {
  console.error(error instanceof Failure ? error.message : error);
  console.log('\n0 passed, 1 failed');
  process.exit(1);
});
