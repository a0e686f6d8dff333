import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { building, compiling, installing, isBuilt, isCompiled, isInstalled, root } from './prepare.mjs';

/**
 * Installs what is needed, then: lint, types, arrows, unit tests, browser tests against a production build. What does not
 * wait for one another runs side by side; each prints what it had to say when it ends.
 */
const begun = Date.now();
const folder = mkdtempSync(join(tmpdir(), 'wuzzen-test-'));
const totals = { passed: 0, failed: 0 };
/** What failed, told again at the very end, where whoever sees only the last lines finds it. */
const failures = [];

/** Runs a command. @returns whether it succeeded */
function does(name, command, args, env = {}) {
  const started = Date.now();
  const child = spawn(command, args, {
    cwd: root,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', DEBIAN_FRONTEND: 'noninteractive', ...env },
  });
  let printed = '';
  const read = (chunk) => {
    printed += chunk;
  };
  child.stdout.on('data', read);
  child.stderr.on('data', read);
  return new Promise((resolve) => {
    child.once('error', (why) => read(String(why)));
    child.once('close', (code) => {
      const took = `${Math.round((Date.now() - started) / 1000)} s`;
      console.log(`\n== ${name}: ${code === 0 ? 'done' : 'FAILED'} in ${took}\n${printed.trimEnd()}`);
      resolve(code === 0);
    });
  });
}

function giveUp(why) {
  rmSync(folder, { recursive: true, force: true });
  console.error(why);
  console.log(`\n${totals.passed} passed, ${totals.failed + 1} failed`);
  process.exit(1);
}

async function browser() {
  const known = [
    process.env.CHROMIUM,
    '/usr/bin/chromium-headless-shell',
    '/usr/bin/chromium',
    '/usr/bin/chromium-browser',
  ];
  if (known.some((path) => path && existsSync(path))) return true;
  const apt = (...args) => does(`apt-get ${args[0]}`, 'apt-get', [...args, '-q']);
  return (
    process.getuid?.() === 0 &&
    (await apt('update')) &&
    (await apt('install', '-y', '--no-install-recommends', 'chromium-headless-shell'))
  );
}

/** Counts the tests of a suite; a file that could not even be read counts as one that failed. */
async function suite(name, args) {
  const file = join(folder, `${name.replace(/ /g, '-')}.json`);
  const went = await does(name, 'npx', [
    'vitest',
    'run',
    ...args,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ]);
  try {
    const { numPassedTests, numFailedTests, testResults } = JSON.parse(readFileSync(file, 'utf8'));
    const broken = testResults.filter((one) => one.status === 'failed' && one.assertionResults.length === 0);
    totals.passed += numPassedTests;
    totals.failed += numFailedTests + broken.length || (went ? 0 : 1);
    for (const one of broken) failures.push(`${relative(root, one.name)}: ${one.message}`);
    for (const { name: path, assertionResults } of testResults)
      for (const { status, fullName, failureMessages } of assertionResults)
        if (status === 'failed') failures.push(`${relative(root, path)}: ${fullName}\n${failureMessages.join('\n')}`);
    if (!went && failures.length === 0) failures.push(`${name} ended badly; see above.`);
  } catch {
    totals.failed += 1;
    failures.push(`${name} told no result.`);
  }
}

async function check(name) {
  if (await does(name, 'npm', ['run', '--silent', name])) return;
  totals.failed += 1;
  failures.push(`${name}: see above.`);
}

const [installed, hasBrowser] = await Promise.all([
  isInstalled({ developing: true }) || does('packages', ...installing({ developing: true })),
  browser(),
]);
if (!installed) giveUp('The packages could not be installed.');
if (!hasBrowser)
  giveUp(
    'The browser tests need Chromium: install Debian’s package "chromium-headless-shell", or name a Chromium in CHROMIUM.',
  );

const compiled = isCompiled() ? Promise.resolve(true) : does('compiled packages', ...compiling);
const checked = (async () => {
  for (const name of ['lint', 'types', 'arrows']) await check(name);
})();
const built = isBuilt() ? Promise.resolve(true) : checked.then(() => does('build', ...building));
if (!(await compiled)) giveUp('A package could not be compiled on this machine.');
await checked;
await suite('unit tests', []);
if (!(await built)) giveUp('The app could not be built.');
await suite('browser tests', ['--config', join(root, 'vitest.browser.config.ts')]);
rmSync(folder, { recursive: true, force: true });

for (const failure of failures) console.log(`\nFAILED: ${failure.slice(0, 3000)}`);
console.log(`\nAll in ${Math.round((Date.now() - begun) / 1000)} s.`);
console.log(`\n${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed === 0 ? 0 : 1);
