import { read as readBook, utils, write as writeBook } from '@e965/xlsx';
import { and, desc, eq, isNull } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import type { Page } from 'puppeteer-core';
import { expect, it } from 'vitest';
import { course, mark, membership, outbox, publication, sitting, user } from '../src/db/schema';
import { differences } from '../src/server/testing/everywhere';
import { plainRound, recomputed } from '../src/server/testing/recomputed';
import { fill, openHouse, press, pressLike, shows, teacher } from './house';

const house = openHouse();
const sittingOf = (title: string) => house.db.select().from(sitting).where(eq(sitting.title, title)).get();
const courseId = () => sittingOf('Mid-course theory exam')?.courseId ?? '';
const here = () => `${house.served.origin}/c/${courseId()}`;
const results = (title: string) => `${here()}/sittings/${sittingOf(title)?.id}/results`;
const teacherId = () => house.db.select({ id: user.id }).from(user).where(eq(user.email, teacher)).get()?.id ?? '';
const plain = () => recomputed(house.db.$client, courseId(), Date.now());
/** Everything that pages and exports say, against what is worked out from the database alone. */
const differing = () =>
  differences({ db: house.db, actor: { userId: teacherId(), name: 'Instructor' }, now: Date.now() }, courseId());

/** Somebody with a published result of a sitting. */
function publishedOne(title: string) {
  const one = house.db
    .select({ userId: user.id, name: user.name, email: user.email, earned: publication.earned })
    .from(publication)
    .innerJoin(user, eq(user.id, publication.userId))
    .innerJoin(membership, and(eq(membership.userId, user.id), isNull(membership.removedAt)))
    .where(and(eq(publication.sittingId, sittingOf(title)?.id ?? ''), isNull(publication.withdrawnAt)))
    .orderBy(user.name)
    .get();
  return { ...one, email: one?.email ?? '', name: one?.name ?? '', userId: one?.userId ?? '' };
}
/** The cells of the gradebook as they stand on the page: by student, the total first. */
async function cellsOf(page: Page): Promise<Map<string, string[]>> {
  await page.goto(`${here()}/gradebook`);
  await page.waitForSelector('tr[data-row]');
  const rows = await page.$$eval('tr[data-row]', (all) =>
    all.map((row) => [
      (row as HTMLElement).dataset.row ?? '',
      [...row.querySelectorAll('[data-cell]')].map((cell) => /\d[\d.]*/.exec(cell.textContent ?? '')?.[0] ?? ''),
    ]),
  );
  return new Map(rows as [string, string[]][]);
}
const lastMessage = (userId: string) =>
  house.db.select().from(outbox).where(eq(outbox.userId, userId)).orderBy(desc(outbox.id)).get()?.body ?? '';

it('the demo says everywhere what is worked out a second time from its database alone', async () => {
  expect(await differing()).toEqual([]);
  const { book, results: scores } = plain();
  const page = await house.page(teacher);
  const shown = await cellsOf(page);
  expect(shown.size).toBe(book.size);
  for (const [userId, [total, ...cells]] of shown) {
    const worked = book.get(userId);
    const text = (value: number | null | undefined) => (value == null ? '' : plainRound(value, 1).toFixed(1));
    expect([userId, total, ...cells]).toEqual([userId, text(worked?.total), ...(worked?.cells.map(text) ?? [])]);
  }
  // What a student reads on their own pages.
  const { userId, email } = publishedOne('Mid-course theory exam');
  const student = await house.page(email);
  await student.goto(`${house.served.origin}/my/totals/${courseId()}`);
  await shows(student, `${plainRound(book.get(userId)?.total ?? 0, 1).toFixed(1)} %`);
  const score = scores.get(`${sittingOf('Mid-course theory exam')?.id}/${userId}`);
  await student.goto(`${house.served.origin}/my/results/${sittingOf('Mid-course theory exam')?.id}`);
  await shows(student, `${Number(plainRound(score?.earned ?? 0, 2))} of ${score?.possible}`);
  // And the page of results, each row.
  await page.goto(results('Mid-course theory exam'));
  await shows(page, 'published');
  const said = await page.$eval('main', (main) => main.textContent ?? '');
  for (const [key, one] of scores)
    if (key.startsWith(sittingOf('Mid-course theory exam')?.id ?? ''))
      expect(said).toContain(`${plainRound(one.earned, 2)} of ${one.possible}`);
});

it('who joins late owes nothing that was over before, and takes part from then on', async () => {
  const page = await house.page(teacher);
  const before = plain();
  await page.goto(`${here()}/people`);
  await press(page, 'Add one');
  await fill(page, 'Name', 'Lena Late');
  await fill(page, 'Email', 'lena.late@sailing.example');
  await press(page, 'Add');
  await shows(page, 'Lena Late has been added.');
  await page.goto(`${here()}/gradebook`);
  await page.waitForSelector('[aria-label="Total of Lena Late: nothing counts yet"]');
  await page.waitForSelector('[aria-label="Mid-course theory exam of Lena Late: over before they joined"]');
  // Nobody else's numbers have moved by it.
  const after = plain();
  expect(after.total).toEqual(before.total);
  expect(after.columns).toEqual(before.columns);
  // Was it missed for a reason of theirs, they are given it later, in the same column.
  await page.locator('[aria-label^="Mid-course theory exam of Lena Late"]').click();
  await pressLike(page, 'Give a make-up in the same column');
  await shows(page, 'Writes on');
  expect(await differing()).toEqual([]);
});

it('who leaves keeps their results, is shown as having left, and counts in nothing that is said of all', async () => {
  const page = await house.page(teacher);
  const whom = publishedOne('Mid-course theory exam');
  const before = plain();
  await page.goto(`${here()}/people`);
  await press(page, `Take out ${whom.name}`);
  await shows(page, `${whom.name}`);
  await expect
    .poll(() =>
      house.db
        .select()
        .from(membership)
        .where(and(eq(membership.userId, whom.userId), eq(membership.courseId, courseId())))
        .get(),
    )
    .not.toMatchObject({ removedAt: null });
  const total = before.book.get(whom.userId)?.total ?? null;
  await page.goto(`${here()}/gradebook`);
  await page.waitForSelector(`tr[data-row="${whom.userId}"] th span`);
  const row = await page.$eval(`tr[data-row="${whom.userId}"]`, (one) => one.textContent ?? '');
  expect(row).toContain('left');
  expect(row).toContain(plainRound(total ?? 0, 1).toFixed(1));
  expect(plain().total?.[0]).toBe((before.total?.[0] ?? 0) - 1);
  expect(await differing()).toEqual([]);
  const student = await house.page(whom.email);
  await student.goto(`${house.served.origin}/my/results`);
  await shows(student, 'Mid-course theory exam');
  // Taken back, everything stands as it did.
  await page.goto(`${here()}/done`);
  await press(page, `Take it back: ${whom.name} taken out of the course`);
  await expect.poll(() => plain().total).toEqual(before.total);
});

it('what is withdrawn leaves page, gradebook and total, is told, and comes back as it was', async () => {
  const title = 'Mid-course theory exam';
  const whom = publishedOne(title);
  const before = plain();
  const page = await house.page(teacher);
  const student = await house.page(whom.email);
  await page.goto(results(title));
  await press(page, 'Withdraw');
  await pressLike(page, 'Withdraw ');
  await shows(page, 'have been withdrawn.');
  expect(lastMessage(whom.userId)).toContain('was taken back for now');
  await student.goto(`${house.served.origin}/my/results/${sittingOf(title)?.id}`);
  await shows(student, 'Your instructor took this result back on');
  await student.goto(`${house.served.origin}/my/totals/${courseId()}`);
  await shows(student, `${title}: handed in; it counts once your result is published.`);
  await page.goto(`${here()}/gradebook`);
  await page.waitForSelector(`[aria-label="${title} of ${whom.name}: handed in, not published"]`);
  expect(await differing()).toEqual([]);
  await page.goto(results(title));
  await pressLike(page, 'Publish ');
  await page.waitForSelector('[role=dialog]');
  await press(page, 'Publish');
  await shows(page, 'have been published');
  expect(lastMessage(whom.userId)).toContain('has been published');
  expect(plain().book).toEqual(before.book);
  expect(await differing()).toEqual([]);
});

it('bands that are moved after publishing change nothing that was told, until it is published again', async () => {
  const title = 'Mid-course theory exam';
  const bands = house.db.select().from(course).where(eq(course.id, courseId())).get()?.gradebook?.bands ?? [];
  const [, good, passed] = bands;
  const told = () =>
    house.db
      .select()
      .from(publication)
      .where(and(eq(publication.sittingId, sittingOf(title)?.id ?? ''), isNull(publication.withdrawnAt)))
      .all();
  const percent = (one: { earned: number; possible: number }) => plainRound((100 * one.earned) / one.possible, 1);
  const between = told().filter((one) => percent(one) < (good?.from ?? 0) && percent(one) >= (passed?.from ?? 0));
  expect(between.length).toBeGreaterThan(0);
  const whom = house.db
    .select()
    .from(user)
    .where(eq(user.id, between[0]?.userId ?? ''))
    .get();
  const page = await house.page(teacher);
  const student = await house.page(whom?.email ?? '');
  const mine = `${house.served.origin}/my/results/${sittingOf(title)?.id}`;
  await student.goto(mine);
  await shows(student, passed?.label ?? '');
  // The boundary of the second band goes down to that of the third, which begins a little lower then.
  await page.goto(`${here()}/gradebook/bands`);
  await page.waitForSelector('::-p-aria([name="from %"])');
  for (const [i, from] of [
    [2, String((passed?.from ?? 0) - 5)],
    [1, String(passed?.from ?? 0)],
  ] as const) {
    const field = (await page.$$('::-p-aria([name="from %"])'))[i];
    await field?.evaluate((input) => {
      (input as HTMLInputElement).focus();
      (input as HTMLInputElement).select();
    });
    await page.keyboard.type(from);
  }
  await press(page, 'Save the bands');
  await shows(page, 'The bands are kept.');
  await student.reload();
  await shows(student, passed?.label ?? '');
  expect(await student.$eval('main', (main) => main.textContent)).not.toContain(`“${good?.label}” now`);
  expect(await differing()).toEqual([]);
  // It is said on the results, and told with its reason once it is published.
  await page.goto(results(title));
  await shows(page, 'from what was published.');
  await press(page, 'Look and publish the changes');
  await page.waitForSelector('[role=dialog]');
  await press(page, 'Publish');
  await shows(page, 'have been published');
  await student.reload();
  await shows(student, `It was called “${passed?.label}” and is “${good?.label}” now, because the bands have changed.`);
  expect(await differing()).toEqual([]);
});

it('marks come back in a sheet that a spreadsheet program has saved', async () => {
  const title = 'Passage-planning paper';
  const page = await house.page(teacher);
  const at = `${here()}/marking/${sittingOf(title)?.id}/offline`;
  await page.goto(at);
  await shows(page, 'Bring the marks back');
  const archive = await page.evaluate(async (address) => {
    const bytes = new Uint8Array(await (await fetch(`${address}/archive?layout=question`)).arrayBuffer());
    return [...bytes];
  }, at);
  const sheet = unzipSync(new Uint8Array(archive))['marks.xlsx'] as Uint8Array;
  const workbook = readBook(sheet);
  const first = workbook.Sheets[workbook.SheetNames[0] ?? ''];
  const rows = utils.sheet_to_json<Record<string, unknown>>(first as object, { defval: '' });
  const waiting = rows.filter((row) => row.Points === '').slice(0, 3);
  expect(waiting).toHaveLength(3);
  for (const [i, row] of waiting.entries()) {
    row.Points = i + 1;
    row.Comment = `Comment ${i + 1}`;
  }
  const saved = utils.book_new();
  utils.book_append_sheet(saved, utils.json_to_sheet(rows), 'Sheet1');
  const bytes: number[] = [...new Uint8Array(writeBook(saved, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer)];
  const input = await page.waitForSelector('input[type=file]');
  await input?.evaluate((element, content) => {
    const files = new DataTransfer();
    files.items.add(new File([new Uint8Array(content)], 'marks.xlsx'));
    (element as HTMLInputElement).files = files.files;
    element.dispatchEvent(new Event('change', { bubbles: true }));
  }, bytes);
  const hand = () => house.db.select().from(mark).where(eq(mark.kind, 'hand')).all().length;
  const before = hand();
  await shows(page, 'Comment 3');
  await pressLike(page, 'Take over 3 marks');
  await expect.poll(hand).toBe(before + 3);
  const given = house.db.select().from(mark).where(eq(mark.kind, 'hand')).orderBy(desc(mark.id)).all().slice(0, 3);
  expect(given.map((one) => [one.points, one.comment]).sort()).toEqual([
    [1, 'Comment 1'],
    [2, 'Comment 2'],
    [3, 'Comment 3'],
  ]);
  expect(await differing()).toEqual([]);
});
