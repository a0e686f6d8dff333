import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build, installPackages, root, run } from './prepare.mjs';

/** Installs what is needed, then: lint, types, arrows, unit tests, browser tests against a production build. */
installPackages();

const chromium = [
  process.env.CHROMIUM,
  '/usr/bin/chromium-headless-shell',
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
];
if (!chromium.some((path) => path && existsSync(path))) {
  const isRoot = process.getuid?.() === 0;
  const apt = (args) =>
    spawnSync('apt-get', args, { stdio: 'inherit', env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
      .status === 0;
  if (
    !isRoot ||
    !apt(['update', '-q']) ||
    !apt(['install', '-y', '-q', '--no-install-recommends', 'chromium-headless-shell'])
  ) {
    console.error(
      'The browser tests need Chromium: install Debian’s package "chromium-headless-shell", or name a Chromium in CHROMIUM.',
    );
    process.exit(1);
  }
}

let failedChecks = 0;
for (const check of ['lint', 'types', 'arrows']) {
  console.log(`\n== ${check}`);
  if (run('npm', ['run', '--silent', check]) !== 0) failedChecks += 1;
}

const folder = mkdtempSync(join(tmpdir(), 'wuzzen-test-'));
const totals = { passed: 0, failed: failedChecks };
function suite(name, args) {
  console.log(`\n== ${name}`);
  const file = join(folder, `${name.replace(/ /g, '-')}.json`);
  const status = run('npx', [
    'vitest',
    'run',
    ...args,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ]);
  try {
    const { numPassedTests, numFailedTests, testResults } = JSON.parse(readFileSync(file, 'utf8'));
    const brokenFiles = testResults.filter(
      (one) => one.status === 'failed' && one.assertionResults.length === 0,
    ).length;
    totals.passed += numPassedTests;
    totals.failed += numFailedTests + brokenFiles;
    if (status !== 0 && numFailedTests + brokenFiles === 0) totals.failed += 1;
  } catch {
    totals.failed += 1;
  }
}
suite('unit tests', []);
build();
suite('browser tests', ['--config', join(root, 'vitest.browser.config.ts')]);
rmSync(folder, { recursive: true, force: true });

console.log(`\n${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed === 0 ? 0 : 1);
