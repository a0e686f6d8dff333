import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Runs a command in the project's folder, showing what it prints. */
export function run(command, args, env = {}) {
  const done = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
  });
  return done.status ?? 1;
}

/** The same, ending this process when the command fails. */
export function must(command, args, env = {}) {
  const status = run(command, args, env);
  if (status !== 0) process.exit(status);
}

const native = join(root, 'node_modules/better-sqlite3/build/Release/better_sqlite3.node');

/** Whether the packages of the lock file are there, and whether those that are compiled on this machine are. */
export const isInstalled = () => {
  const marker = join(root, 'node_modules/.package-lock.json');
  return existsSync(marker) && statSync(marker).mtimeMs >= statSync(join(root, 'package-lock.json')).mtimeMs;
};
export const isCompiled = () => existsSync(native);

/** Installs the packages unless they are there already. */
export function installPackages() {
  if (!isInstalled() || !isCompiled()) must('npm', ['ci', '--no-audit', '--no-fund']);
}

function newestChange(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(0, ...readdirSync(path).map((name) => newestChange(join(path, name))));
}

/** Whether the app is built from everything as it is now. */
export function isBuilt() {
  const built = join(root, 'dist/main.js');
  const sources = [
    'src',
    'scripts/bundle.mjs',
    'package-lock.json',
    'next.config.ts',
    'postcss.config.mjs',
    'tsconfig.json',
  ].map((name) => newestChange(join(root, name)));
  return existsSync(built) && statSync(built).mtimeMs > Math.max(...sources);
}

/** Builds the app unless it is built. */
export function build() {
  if (!isBuilt()) must('npm', ['run', 'build']);
}
