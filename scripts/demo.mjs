import { rmSync } from 'node:fs';
import { join } from 'node:path';
import {
  beside,
  building,
  compileApart,
  compiling,
  installing,
  isBuilt,
  isCompiled,
  isInstalled,
  must,
  root,
} from './prepare.mjs';

/** Installs, builds, loads the demo and serves it, each only if needed. `--fresh` begins the demo anew. */
const folder = process.env.WUZZEN_DATA ?? join(root, 'data/demo');
const env = { WUZZEN_DATA: folder, WUZZEN_KIND: 'demo', NODE_ENV: 'production' };
const step = (n, what) => console.log(`Step ${n} of 3: ${what} …`);
const compiled = 'the database is compiled for this machine';

let placing = null;
if (!isInstalled({ developing: false })) {
  step(1, 'installing the packages that running needs, and compiling the database (a minute or two)');
  placing = compileApart(compiled);
  await beside('packages are installed', installing({ developing: false }));
}

async function app() {
  if (!isBuilt()) await beside('the app is built', building);
}

async function data() {
  if (placing) (await placing)();
  else if (!isCompiled()) await beside(compiled, compiling);
  if (process.argv.includes('--fresh')) rmSync(folder, { recursive: true, force: true });
  await beside('the demo data are there', ['node', ['--import', 'tsx', 'demo/main.ts'], env]);
}

step(2, isBuilt() ? 'looking for the demo data' : 'building the app, and loading the demo data');
await Promise.all([app(), data()]);
step(3, 'starting the server');
must('node', ['--max-old-space-size=768', 'dist/main.js'], env);
