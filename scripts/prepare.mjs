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

/** Installs the packages unless those of the lock file are there already. */
export function installPackages() {
  const marker = join(root, 'node_modules/.package-lock.json');
  const lock = join(root, 'package-lock.json');
  if (existsSync(marker) && statSync(marker).mtimeMs >= statSync(lock).mtimeMs) return;
  must('npm', ['ci', '--no-audit', '--no-fund']);
}

function newestChange(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(0, ...readdirSync(path).map((name) => newestChange(join(path, name))));
}

/** Builds the app unless the build is newer than everything it is made from. */
export function build() {
  const built = join(root, 'dist/main.js');
  const sources = ['src', 'package-lock.json', 'next.config.ts', 'postcss.config.mjs', 'tsconfig.json'].map((name) =>
    newestChange(join(root, name)),
  );
  if (existsSync(built) && statSync(built).mtimeMs > Math.max(...sources)) return;
  must('npm', ['run', 'build']);
}
