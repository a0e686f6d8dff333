import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

/** Browser and server-process tests: one production build, one seeded data folder, copied for each file. */
export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['e2e/**/*.test.ts'],
    globalSetup: 'e2e/seed.ts',
    maxWorkers: Math.min(availableParallelism(), 6),
    testTimeout: 300_000,
    hookTimeout: 120_000,
    expect: { poll: { timeout: 15_000 } },
  },
});
