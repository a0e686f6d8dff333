import { eq } from 'drizzle-orm';
import { launchBrowser, pageAs } from '../../e2e/browser';
import { signIn } from '../../e2e/serve';
import { databaseFile, openDatabase } from '../../src/db/client';
import { sitting, user } from '../../src/db/schema';
import { setPassword } from '../../src/server/people/auth';
import { lightClient } from './client';
import { report } from './measure';
import { benchPassword, serveClass } from './server';

const students = 500;
const seconds = 30;
/** Saves in a second, as of students who save every 20 s. */
const rate = students / 20;

/**
 * room.live: an invigilator's page over 500 students who save 25 times a second. value: the share of the time, in percent,
 * in which the page is kept from answering by tasks longer than 50 ms. Baseline: the same page while nothing happens.
 */
export async function roomLive(): Promise<void> {
  const bench = await serveClass(students);
  const { origin, folder } = bench.served;
  const client = lightClient(origin);
  const db = openDatabase(databaseFile(folder));
  const row = db.select().from(sitting).where(eq(sitting.id, bench.sittingId)).get();
  const teacher = db.select().from(user).where(eq(user.email, 'teacher@bench.example')).get();
  await setPassword(db, teacher?.id ?? '', benchPassword);
  db.$client.close();
  const writers: { cookie: string; attemptId: string; epoch: number; slots: string[] }[] = [];
  for (let i = 0; i < students; i += 25)
    writers.push(
      ...(await Promise.all(
        bench.cookies.slice(i, i + 25).map(async (cookie) => {
          const { attemptId, opening } = JSON.parse(
            (await client.send('/api/attempts/start', cookie, { sittingId: bench.sittingId })).text,
          ) as { attemptId: string; opening: { epoch: number; slots: { slotId: string }[] } };
          return { cookie, attemptId, epoch: opening.epoch, slots: opening.slots.map((slot) => slot.slotId) };
        }),
      )),
    );
  const browser = await launchBrowser();
  const page = await pageAs(browser, origin, await signIn(origin, 'teacher@bench.example', benchPassword));
  await page.goto(`${origin}/c/${row?.courseId}/sittings/${bench.sittingId}/room`);
  await page.evaluate(() => {
    const seen = window as unknown as { blocked: number[] };
    seen.blocked = [];
    new PerformanceObserver((list) => seen.blocked.push(...list.getEntries().map((entry) => entry.duration))).observe({
      type: 'longtask',
    });
  });
  const blocked = async (work: () => Promise<void>): Promise<{ share: number; longest: number }> => {
    await page.evaluate(() => {
      (window as unknown as { blocked: number[] }).blocked = [];
    });
    const begun = performance.now();
    await work();
    const tasks = await page.evaluate(() => (window as unknown as { blocked: number[] }).blocked);
    const whole = performance.now() - begun;
    return { share: (100 * tasks.reduce((sum, one) => sum + one, 0)) / whole, longest: Math.max(0, ...tasks) };
  };
  const wait = (milliseconds: number) => new Promise<void>((resolve) => setTimeout(resolve, milliseconds));
  let sequence = 0;
  const busy = async () => {
    const until = Date.now() + seconds * 1_000;
    while (Date.now() < until) {
      sequence += 1;
      const writer = writers[(sequence * 37) % writers.length] as (typeof writers)[number];
      void client.send(`/api/attempts/${writer.attemptId}/save`, writer.cookie, {
        slotId: writer.slots[sequence % writer.slots.length],
        epoch: writer.epoch,
        sequence,
        value: null,
        comeBack: sequence % 2 === 1,
      });
      await wait(1_000 / rate);
    }
  };
  const quiet = await blocked(() => wait(seconds * 1_000));
  const value = await blocked(busy);
  await browser.close();
  client.close();
  report({
    name: 'room.live',
    value: value.share,
    unit: '% of the time',
    baseline: quiet.share,
    ratio: quiet.share > 0 ? value.share / quiet.share : 0,
    longestMs: Math.round(value.longest),
    peakMemoryMB: Math.round(bench.peakMemory()),
  });
  await bench.stop();
}
