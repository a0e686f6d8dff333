import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import { strToU8, zipSync } from 'fflate';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { Result } from '@/core/base/result';
import { hostileFiles } from '../testing/hostileFiles';
import { readingLimits, readOutside } from './readOutside';

const folder = mkdtempSync(join(tmpdir(), 'wuzzen-reading-'));
const limits = { ...readingLimits };
const sheetLimit = { most: 1_000, of: 'at most 1000 rows are read' };

beforeAll(async () => {
  await build({
    entryPoints: ['src/workers/reading.ts'],
    outdir: folder,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    // Compiled for the machine, and of no use to what is tried here.
    external: ['sharp', '@napi-rs/canvas'],
    logLevel: 'error',
    tsconfig: 'tsconfig.json',
    banner: {
      js: "import { createRequire as requireFor } from 'node:module';\nconst require = requireFor(import.meta.url);",
    },
  });
  process.env.WUZZEN_READER = join(folder, 'reading.mjs');
});
afterEach(() => {
  Object.assign(readingLimits, limits);
});
afterAll(() => {
  delete process.env.WUZZEN_READER;
  rmSync(folder, { recursive: true, force: true });
});

/** What was read, and the longest that others waited meanwhile, in milliseconds. */
async function servedMeanwhile<T>(read: Promise<T>): Promise<{ answer: T; longest: number }> {
  let last = performance.now();
  let longest = 0;
  const beat = () => {
    longest = Math.max(longest, performance.now() - last);
    last = performance.now();
  };
  const heart = setInterval(beat, 5);
  const answer = await read;
  beat();
  clearInterval(heart);
  return { answer, longest };
}

const allWays: ((file: Uint8Array) => Promise<Result<unknown>>)[] = [
  (file) => readOutside('questionsInFile', file, {}, null),
  (file) => readOutside('sheet', file, sheetLimit),
  (file) => readOutside('marks', file, sheetLimit),
  (file) => readOutside('pages', file),
  (file) => readOutside('mediaType', file),
];

describe.each(Object.entries(hostileFiles))('%s', (_name, make) => {
  it('is read or given up in words by every reading, while others are served', async () => {
    const file = make();
    expect(file.length).toBeLessThan(4_000_000);
    const before = process.memoryUsage.rss();
    for (const read of allWays) {
      const { answer, longest } = await servedMeanwhile(read(file));
      expect(longest).toBeLessThan(2_000);
      if (!answer.ok) expect(answer.problems[0]?.message).toMatch(/^[A-Z].{15,}\.$/);
    }
    expect(process.memoryUsage.rss() - before).toBeLessThan((limits.growth + 400) * 1_048_576);
  }, 120_000);
});

describe('the thread that reads', () => {
  const table = (rows: number) =>
    zipSync({
      'xl/workbook.xml': strToU8('<workbook/>'),
      'xl/worksheets/sheet1.xml': strToU8(
        `<worksheet><sheetData>${'<row><c t="str"><v>x</v></c></row>'.repeat(rows)}</sheetData></worksheet>`,
      ),
    });

  it('is ended when it takes too long, and the next file is read by another', async () => {
    readingLimits.milliseconds = 1;
    expect(await readOutside('sheet', table(900), sheetLimit)).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringContaining('was given up') }],
    });
    Object.assign(readingLimits, limits);
    expect(await readOutside('sheet', table(2), sheetLimit)).toEqual({ ok: true, value: [['x'], ['x']] });
  });

  it('is ended when it takes too much memory', async () => {
    readingLimits.objects = 8;
    // Threads that run already have the memory they were given: all of them are made anew.
    readingLimits.milliseconds = 1;
    await Promise.all([readOutside('sheet', table(9), sheetLimit), readOutside('sheet', table(9), sheetLimit)]);
    readingLimits.milliseconds = limits.milliseconds;
    const text = `1. x\na) y\n*b) z\n`.repeat(200_000);
    expect(await readOutside('questionsInLines', text, {}, {})).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringContaining('was given up') }],
    });
    readingLimits.objects = limits.objects;
    expect((await readOutside('sheet', table(2), sheetLimit)).ok).toBe(true);
  });

  it('reads one at a time, lets others wait, and sends away who would wait too long', async () => {
    const answers = await Promise.all(Array.from({ length: 30 }, () => readOutside('sheet', table(3), sheetLimit)));
    expect(answers.filter((one) => one.ok).length).toBe(21);
    expect(answers.filter((one) => !one.ok && one.problems[0]?.code === 'busy').length).toBe(9);
  });
});
