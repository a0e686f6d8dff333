import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
  interface ProvidedContext {
    seedFolder: string;
  }
}

/** Loads the demo once into a test folder; every test file serves a copy of it. */
export default function setup(project: TestProject) {
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-seed-'));
  const loaded = spawnSync('npx', ['tsx', 'demo/main.ts'], {
    stdio: 'inherit',
    env: { ...process.env, WUZZEN_DATA: folder, WUZZEN_KIND: 'test', NODE_ENV: 'production' },
  });
  if (loaded.status !== 0) throw new Error('The demo could not be loaded.');
  project.provide('seedFolder', folder);
  return () => rmSync(folder, { recursive: true, force: true });
}
