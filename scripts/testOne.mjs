import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { build, installPackages, root, run } from './prepare.mjs';

/**
 * Runs the tests of a file, or those with words in their names, whether they need a browser or not; the app is built
 * first where a browser test needs it and it is not as the sources are. Without words, all browser tests.
 */
const words = process.argv.slice(2).join(' ');

/** Paths of all test files, from the project's folder. */
const files = ['src', 'demo', 'e2e'].flatMap((room) =>
  readdirSync(join(root, room), { recursive: true })
    .filter((name) => /\.test\.tsx?$/.test(name))
    .map((name) => join(room, name)),
);
const named = files.filter((file) => file.includes(words.replace(/^\.\//, '')));
/** Names may be put together from parts: as soon as the words stand in a file, its tests are looked through. */
const holding = files.filter((file) => readFileSync(join(root, file), 'utf8').includes(words));
const [chosen, only] =
  words === '' ? [files.filter(inBrowser), []] : named.length ? [named, []] : [holding, ['-t', words]];
if (chosen.length === 0) {
  console.error(`No test file is called like “${words}”, and none holds these words.`);
  process.exit(2);
}

function inBrowser(file) {
  return file.startsWith('e2e');
}

installPackages();
const suites = [
  [chosen.filter((file) => !inBrowser(file)), []],
  [chosen.filter(inBrowser), ['--config', 'vitest.browser.config.ts']],
];
let status = 0;
for (const [some, config] of suites) {
  if (some.length === 0) continue;
  if (config.length) build();
  // Signs in a name mean themselves.
  const pattern = only.map((word) => word.replace(/[()[\].*+?^$|{}\\]/g, '\\$&'));
  status ||= run('npx', ['vitest', 'run', ...config, ...pattern, ...some]);
}
process.exit(status);
