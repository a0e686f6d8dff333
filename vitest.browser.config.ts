import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** What takes longest begins first, so that it does not run alone in the end. */
class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files);
    const isLong = (file: TestSpecification) => file.moduleId.endsWith('stories.test.ts');
    return [...sorted.filter(isLong), ...sorted.filter((file) => !isLong(file))];
  }
}

/** Browser and server-process tests: one production build, one seeded data folder, copied for each file. */
export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['e2e/**/*.test.ts'],
    globalSetup: 'e2e/seed.ts',
    sequence: { sequencer: LongestFirst },
    // A test waits for a third of its time, for pages and servers: one more than there are processors keeps them busy.
    maxWorkers: Math.min(availableParallelism() + 1, 6),
    testTimeout: 300_000,
    hookTimeout: 120_000,
    expect: { poll: { timeout: 15_000 } },
  },
});
