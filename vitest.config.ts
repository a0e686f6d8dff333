import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const wherever = {
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
};
/** A busy machine takes several times as long as an idle one. */
const patience = { testTimeout: 180_000, hookTimeout: 60_000 };

/**
 * Unit tests. Core, server and the rest keep nothing between files, so that they share one set of loaded modules per
 * worker; screens share a document and a module-wide clean-up, so that each of their files has modules of its own.
 */
export default defineConfig({
  test: {
    maxWorkers: availableParallelism(),
    projects: [
      {
        ...wherever,
        test: { ...patience, name: 'rooms', include: ['src/**/*.test.ts', 'demo/**/*.test.ts'], isolate: false },
      },
      { ...wherever, test: { ...patience, name: 'screens', include: ['src/**/*.test.tsx'] } },
    ],
  },
});
