import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, asc, eq, isNull } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import { expect, it, onTestFinished } from 'vitest';
import { attempt, membership, sheetPage, user } from '../src/db/schema';
import { courseIdOf, giveExam } from './giveExam';
import { openHouse, press, pressLike, shows, teacher } from './house';

const house = openHouse();

it('sheets are printed, filled in by a made-up class, read in the browser, settled by keyboard, taken over and marked', async () => {
  const studentIds = house.db
    .select({ id: membership.userId })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    // Devices of a round are members too, some under the name of their owner.
    .where(
      and(
        eq(membership.courseId, courseIdOf(house.db)),
        eq(membership.role, 'student'),
        isNull(membership.onlySitting),
      ),
    )
    .orderBy(asc(user.name))
    .limit(4)
    .all()
    .map((one) => one.id);
  const { sittingId } = giveExam(
    house.db,
    'Written on sheets',
    (design) => {
      const ids = house.db.$client
        .prepare(
          "select id from question where type in ('single-choice', 'true-false', 'numeric') and retired_at is null order by short_name limit 12",
        )
        .pluck()
        .all() as string[];
      const lines = ids.map((questionId, i) => ({
        kind: 'fixed' as const,
        id: `row-${i}-line`,
        questionId,
        points: 1,
      }));
      return { ...design, parts: design.parts.slice(0, 1).map((part) => ({ ...part, lines })) };
    },
    { who: { kind: 'some', sectionIds: [], studentIds } },
  );
  const page = await house.page(teacher);
  const here = `${house.served.origin}/c/${courseIdOf(house.db)}/sittings/${sittingId}/answer-sheets`;
  await page.goto(here);
  await shows(page, 'Print the sheets of this sitting first');
  await press(page, 'What would be printed');
  await shows(page, '4 sheets of');
  await page.locator('summary').click();
  await press(page, 'Have them filled in');
  await page.waitForSelector('::-p-xpath(//a[contains(., "Keep 4 filled sheets")])', { timeout: 120_000 });
  const cookie = await house.cookiesOf(teacher);
  const archive = await fetch(`${here}/filled`, { headers: { cookie } });
  const files = unzipSync(new Uint8Array(await archive.arrayBuffer()));
  const truth = JSON.parse(new TextDecoder().decode(files['truth.json'])) as {
    name: string;
    rows: { clear: boolean }[];
  }[];
  expect(new Set(truth.map((one) => one.name)).size).toBe(4);
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-scan-'));
  onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
  writeFileSync(join(folder, 'scan.pdf'), files['scan.pdf'] as Uint8Array);
  writeFileSync(join(folder, 'letter.png'), await page.screenshot());

  await page.goto(here);
  const input = await page.waitForSelector('input[type=file]');
  await (input as unknown as { uploadFile: (...paths: string[]) => Promise<void> }).uploadFile(
    join(folder, 'scan.pdf'),
    join(folder, 'letter.png'),
  );
  await page.waitForFunction(() => location.pathname.endsWith('/review'), { timeout: 120_000 });
  // What is no sheet is put aside with its picture, and the rest goes on.
  await shows(page, 'No sheet was found on this page.');
  await shows(page, '4 of 4 students');
  for (let left = 60; left > 0; left--) {
    const said = await page.$eval('section[aria-label="In doubt"]', (sheet) => (sheet as HTMLElement).textContent);
    if (said.includes('Nothing is in doubt.')) break;
    const first = await page.$eval('section[aria-label="In doubt"] button', (button) => button.textContent ?? '');
    await page.keyboard.press(said.includes('So it is (Enter)') ? 'Enter' : (first.toLowerCase() as 'a'));
    await page.waitForFunction(
      (before) => (document.querySelector('section[aria-label="In doubt"]') as HTMLElement).textContent !== before,
      {},
      said,
    );
  }
  await shows(page, 'Nothing is in doubt.');
  expect(house.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).all()).toEqual([]);
  await press(page, 'See what comes in');
  await shows(page, 'What comes in');
  await pressLike(page, 'Read 4 sheets in');
  await shows(page, '4 answer sheets have been read in.');
  const made = house.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).all();
  expect(made.map((one) => [one.state, one.endedBy])).toEqual(studentIds.map(() => ['handed-in', 'answer-sheet']));
  // The pictures stay with the attempts, and strangers do not see them.
  const evidence = house.db
    .select()
    .from(sheetPage)
    .where(eq(sheetPage.attemptId, made[0]?.id ?? ''))
    .get();
  const picture = `${house.served.origin}/sheet-pictures/${evidence?.id}`;
  expect((await fetch(picture, { headers: { cookie } })).headers.get('content-type')).toBe('image/webp');
  expect((await fetch(picture)).status).toBe(403);
  await press(page, 'To the results');
  await shows(page, '4 ready to publish');
}, 300_000);
