import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, installPackages, must, root } from './prepare.mjs';

/** Installs, builds, loads the demo and serves it, each only if needed. `--fresh` begins the demo anew. */
const folder = process.env.WUZZEN_DATA ?? join(root, 'data/demo');
const env = { WUZZEN_DATA: folder, WUZZEN_KIND: 'demo', NODE_ENV: 'production' };

installPackages();
build();
if (process.argv.includes('--fresh')) rmSync(folder, { recursive: true, force: true });
must('npx', ['tsx', 'demo/main.ts'], env);
must('node', ['--max-old-space-size=768', 'dist/main.js'], env);
