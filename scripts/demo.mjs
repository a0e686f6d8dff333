import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { beside, building, compiling, installing, isBuilt, isCompiled, isInstalled, must, root } from './prepare.mjs';

/** Installs, builds, loads the demo and serves it, each only if needed. `--fresh` begins the demo anew. */
const folder = process.env.WUZZEN_DATA ?? join(root, 'data/demo');
const env = { WUZZEN_DATA: folder, WUZZEN_KIND: 'demo', NODE_ENV: 'production' };
const step = (n, what) => console.log(`Step ${n} of 4: ${what}`);

if (!isInstalled({ developing: false })) {
  step(1, 'installing the packages that running needs (about a minute) …');
  await beside('packages', ...installing({ developing: false }));
}
// The app and the database are made ready beside one another: each takes a minute or two and leaves a core free.
const parts = [
  ...(isBuilt() ? [] : [beside.bind(null, 'the app', ...building)]),
  ...(isCompiled() ? [] : [beside.bind(null, 'the database', ...compiling)]),
];
if (parts.length) {
  step(2, 'building the app and compiling the database for this machine (a minute or two) …');
  await Promise.all(parts.map((begin) => begin()));
}
step(3, 'loading the demo data, unless they are there …');
if (process.argv.includes('--fresh')) rmSync(folder, { recursive: true, force: true });
must('npx', ['tsx', 'demo/main.ts'], env);
step(4, 'starting the server …');
must('node', ['--max-old-space-size=768', 'dist/main.js'], env);
