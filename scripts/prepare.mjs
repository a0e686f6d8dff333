import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

const environment = (env) => ({ ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env });

/** Runs a command in the project's folder, showing what it prints. */
export function run(command, args, env = {}) {
  return spawnSync(command, args, { cwd: root, stdio: 'inherit', env: environment(env) }).status ?? 1;
}

/** The same, ending this process when the command fails. */
export function must(command, args, env = {}) {
  const status = run(command, args, env);
  if (status !== 0) process.exit(status);
}

/**
 * Runs a command beside others: one line says that it is done and what it took, and what it printed is shown only where
 * it fails, which ends this process.
 *
 * @param givesWay whether what runs beside it goes first
 */
export function beside(what, [command, args, env = {}], { givesWay = false } = {}) {
  const begun = Date.now();
  const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'], env: environment(env) });
  if (givesWay && child.pid) setPriority(child.pid, constants.priority.PRIORITY_BELOW_NORMAL);
  let printed = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (chunk) => {
      printed += chunk;
    });
  return new Promise((resolve) => {
    child.once('error', (why) => {
      printed += why;
    });
    child.once('close', (status) => {
      if (status !== 0) {
        console.error(`${printed}\nFailed before this could be said: ${what}.`);
        process.exit(status ?? 1);
      }
      console.log(`  ${what} (${Math.round((Date.now() - begun) / 1000)} s)`);
      resolve();
    });
  });
}

const packages = join(root, 'node_modules');
const native = join(packages, 'better-sqlite3/build/Release/better_sqlite3.node');

/** Whether the packages of the lock file are there: what running needs, and what developing needs besides. */
export const isInstalled = ({ developing }) => {
  const marker = join(packages, '.package-lock.json');
  return (
    existsSync(marker) &&
    statSync(marker).mtimeMs >= statSync(join(root, 'package-lock.json')).mtimeMs &&
    (!developing || existsSync(join(packages, 'vitest')))
  );
};
export const isCompiled = () => existsSync(native);

/** What installs the packages; what has to be compiled for this machine is compiled by {@link compiling}. */
export const installing = ({ developing }) => [
  'npm',
  ['ci', '--ignore-scripts', '--no-audit', '--no-fund', ...(developing ? [] : ['--omit=dev'])],
];
/** What compiles the database, the one package that needs it: as SQLite itself is compiled, in two thirds of the time. */
export const compiling = ['npm', ['rebuild', 'better-sqlite3'], { CFLAGS: '-O2', CXXFLAGS: '-O2', JOBS: 'max' }];

/** Installs all packages unless they are there already. */
export function installPackages() {
  if (!isInstalled({ developing: true })) must(...installing({ developing: true }));
  if (!isCompiled()) must(...compiling);
}

function newestChange(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(0, ...readdirSync(path).map((name) => newestChange(join(path, name))));
}

/** Whether the app is built from everything as it is now. */
export function isBuilt() {
  // Developing bundles the server too, but not the pages: both have to be newer.
  const built = ['.next/BUILD_ID', 'dist/main.js'].map((name) => join(root, name));
  const sources = [
    'src',
    'scripts/bundle.mjs',
    'package-lock.json',
    'next.config.ts',
    'postcss.config.mjs',
    'tsconfig.json',
  ].map((name) => newestChange(join(root, name)));
  return built.every((file) => existsSync(file) && statSync(file).mtimeMs > Math.max(...sources));
}

export const building = ['npm', ['run', 'build']];

/** Builds the app unless it is built. */
export function build() {
  if (!isBuilt()) must(...building);
}
