import { spawn, spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
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
 */
export function beside(what, [command, args, env = {}], cwd = root) {
  const begun = Date.now();
  const child = spawn(command, args, { cwd, stdio: ['ignore', 'pipe', 'pipe'], env: environment(env) });
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
const compiled = 'better-sqlite3';
const native = join(packages, compiled, 'build/Release/better_sqlite3.node');

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
/** Measured: half the time of compiling as SQLite itself is (-O2), and queries that take 3 to 4 % longer. */
const asCompiled = { CFLAGS: '-O1', CXXFLAGS: '-O1', JOBS: 'max' };
/** What compiles the database, the one package that needs it. */
export const compiling = ['npm', ['rebuild', compiled], asCompiled];

/**
 * Compiles the database while the other packages are only being installed: in a folder of its own, with the few packages
 * of the lock file that this needs.
 *
 * @returns puts it where it belongs, once everything is installed
 */
export async function compileApart(what) {
  const { lockfileVersion, packages: locked } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
  const own = { name: 'apart', dependencies: { [compiled]: locked[`node_modules/${compiled}`].version } };
  const needed = { '': own };
  const take = (name) => {
    const path = `node_modules/${name}`;
    if (path in needed || !(path in locked)) return;
    for (const one of Object.keys(locked)) if (one === path || one.startsWith(`${path}/`)) needed[one] = locked[one];
    for (const other of Object.keys(locked[path].dependencies ?? {})) take(other);
  };
  take(compiled);
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-compile-'));
  writeFileSync(join(folder, 'package.json'), JSON.stringify({ ...own, allowScripts: { [compiled]: true } }));
  writeFileSync(
    join(folder, 'package-lock.json'),
    JSON.stringify({ name: 'apart', lockfileVersion, packages: needed }),
  );
  await beside(what, ['npm', ['ci', '--no-audit', '--no-fund'], asCompiled], folder);
  return () => {
    cpSync(join(folder, `node_modules/${compiled}/build`), join(packages, `${compiled}/build`), { recursive: true });
    rmSync(folder, { recursive: true, force: true });
  };
}

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
