import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { installPackages, must, root } from './prepare.mjs';

/**
 * The server as it runs for real, but in development mode: pages and use-cases are read anew when their files change.
 * What the server does by the clock (`src/main.ts`) comes with the next start. Serves the demo; `--fresh` begins it anew,
 * WUZZEN_DATA names another folder.
 */
const folder = process.env.WUZZEN_DATA ?? join(root, 'data/demo');
const env = { WUZZEN_DATA: folder, WUZZEN_KIND: 'demo', NODE_ENV: 'development' };

installPackages();
if (process.argv.includes('--fresh')) rmSync(folder, { recursive: true, force: true });
must('node', ['--import', 'tsx', 'demo/main.ts'], env);
must('node', ['scripts/bundle.mjs']);
must('node', ['--enable-source-maps', 'dist/main.js'], env);
