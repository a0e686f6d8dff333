import { eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { exam, examRevision, publication, sitting } from '../src/db/schema';
import { fill, openHouse, press, shows, teacher } from './house';

const house = openHouse();
const course = () => `${house.served.origin}/c/${house.db.select().from(sitting).get()?.courseId}`;
const examOf = (title: string) => house.db.select().from(exam).where(eq(exam.title, title)).get();

it('lines are edited as sentences; competing lines are named with how many questions are missing', async () => {
  const page = await house.page(teacher);
  const id = examOf('Steering-rules quiz')?.id ?? '';
  await page.goto(`${course()}/exams/${id}`);
  await shows(page, 'given in a sitting: a change makes the next revision');
  await shows(page, 'of 11 in the pool');
  await page.locator('section[aria-label="Who keeps clear"] ::-p-text(Add a draw)').click();
  await shows(
    page,
    'Lines 1.1, 1.2 together draw 12 questions, but their pools hold only 11 different ones: 1 missing.',
  );
  await page.locator('#work li:nth-child(2) button[aria-label^="How many to draw"]').click();
  await fill(page, 'How many questions', '4');
  await page.keyboard.press('Enter');
  await shows(page, 'Papers can be drawn: no line is short of questions.');
  await shows(page, 'Revision 2');
  await page.waitForFunction(
    () =>
      document.querySelector('[role=status]')?.textContent?.includes('saved') &&
      !document.querySelector('[role=status]')?.textContent?.includes('not saved'),
  );
  const revisions = house.db.select().from(examRevision).where(eq(examRevision.examId, id)).all();
  expect(revisions.map((one) => [one.number, one.frozenAt !== null, one.design.parts[0]?.lines.length])).toEqual([
    [1, true, 1],
    [2, false, 2],
  ]);
  expect(house.db.select().from(sitting).where(eq(sitting.title, 'Steering-rules quiz')).get()?.revisionId).toBe(
    revisions[0]?.id,
  );
});

it('a fixed question is found and added, lines move, and what was done stays after a reload', async () => {
  const page = await house.page(teacher);
  const id = examOf('Weekly check: heights of tide')?.id ?? '';
  await page.goto(`${course()}/exams/${id}`);
  await page.waitForSelector('#exam-title');
  await press(page, 'Add a fixed question');
  await fill(page, 'Find a question', 'datum heights');
  await page.locator('::-p-xpath(//li//button[contains(., "Chart datum")])').click();
  await press(page, 'Done');
  await press(page, 'Move line 1.2 up');
  await shows(page, 'of 12 in the pool');
  await page.waitForFunction(() => document.querySelector('[role=status]')?.textContent?.match(/· saved/));
  await page.reload();
  await page.waitForSelector('#exam-title');
  expect(
    await page.$$eval('section[aria-label="Heights"] ol > li', (lines) =>
      lines.map((line) => line.textContent?.includes('Chart datum')),
    ),
  ).toEqual([true, false]);
});

it('sample papers differ from one another and are the same when looked at again', async () => {
  const page = await house.page(teacher);
  const id = examOf('Final theory exam')?.id ?? '';
  const paper = async (n: number) => {
    await page.goto(`${course()}/exams/${id}/sample?paper=${n}`);
    await shows(page, `Sample paper ${n}`);
    return page.$$eval('main ol > li', (slots) => slots.map((slot) => slot.textContent).join('\n'));
  };
  const [one, two, again] = [await paper(1), await paper(2), await paper(1)];
  expect(one).toBe(again);
  expect(one).not.toBe(two);
});

it('a rehearsal runs beside the page, can be cancelled, and shows what the class would get', async () => {
  const page = await house.page(teacher);
  const id = examOf('Final theory exam')?.id ?? '';
  await page.goto(`${course()}/exams/${id}/rehearsal`);
  await fill(page, 'Students', '2000');
  await fill(page, 'Attempts of each', '0');
  await shows(page, 'A whole number from 1 to 10.');
  await fill(page, 'Attempts of each', '10');
  const rehearse = () => page.locator('form button[type=submit]').click();
  await rehearse();
  await shows(page, 'papers drawn');
  await press(page, 'Cancel');
  await shows(page, 'Cancelled. Nothing was kept.');
  // Papers are drawn beside the page: it is kept from answering for a small part of that time, however busy the machine
  // is. Work on the page itself would keep it from answering nearly all of the time.
  await page.evaluate(() => {
    const seen = { blocked: 0, begun: 0, drawing: 0 };
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) if (seen.begun && !seen.drawing) seen.blocked += entry.duration;
    }).observe({ type: 'longtask' });
    Object.assign(window, { seen });
  });
  await rehearse();
  await page.waitForFunction(
    () => {
      const { seen } = window as unknown as { seen: { blocked: number; begun: number; drawing: number } };
      const running = document.querySelector('progress') !== null;
      if (running && !seen.begun) seen.begun = performance.now();
      if (!running && seen.begun && !seen.drawing) seen.drawing = performance.now() - seen.begun;
      return seen.drawing > 0 && document.querySelector('[data-rehearsal]') !== null;
    },
    { polling: 20, timeout: 60_000 },
  );
  const { blocked, drawing } = await page.evaluate(
    () => (window as unknown as { seen: { blocked: number; drawing: number } }).seen,
  );
  expect(blocked / drawing).toBeLessThan(0.25);
  await page.waitForSelector('[data-rehearsal=drawn] canvas[role=img]');
  await shows(page, '2 × 20000 papers of 34 questions');
  // 11.0 is the sum of n²/M over the demo's draws, whatever was drawn.
  const shared = await page.$eval('[data-rehearsal] tbody tr', (row) => row.textContent ?? '');
  const [mean = 0, expected = 0] = [
    /(\d+\.\d+) questions/.exec(shared)?.[1],
    /expected to share (\d+\.\d+)/.exec(shared)?.[1],
  ].map(Number);
  expect(expected).toBeGreaterThan(5);
  expect(Math.abs(mean - expected)).toBeLessThan(0.1);
  await shows(page, 'Pools that run short');
});

it('what was published is withdrawn and published again, with its numbers said; a guest sees no names', async () => {
  const page = await house.page(teacher);
  const row = house.db.select().from(sitting).where(eq(sitting.title, 'Mid-course theory exam')).get();
  const address = `${course()}/sittings/${row?.id}/results`;
  const standing = () =>
    house.db
      .select()
      .from(publication)
      .where(eq(publication.sittingId, row?.id ?? ''))
      .all()
      .filter((one) => one.withdrawnAt === null).length;
  await page.goto(address);
  await shows(page, '27 published, 0 ready to publish, 1 not handed in.');
  await press(page, 'Withdraw');
  await shows(page, '27 students no longer see what was published');
  await press(page, 'Withdraw 27');
  await shows(page, '27 results have been withdrawn.');
  expect(standing()).toBe(0);
  await press(page, 'Publish 27 results');
  await shows(page, '27 students get a message');
  await press(page, 'Publish');
  await shows(page, '27 results have been published');
  expect(standing()).toBe(27);

  const guest = await house.page('guest@ternpoint.example');
  await guest.goto(address);
  await shows(guest, 'Student 1');
  const text = await guest.$eval('main', (main) => main.textContent ?? '');
  for (const name of ['Benhaddou', 'Vogtland', 'Papathanou']) expect(text).not.toContain(name);
  expect(await guest.$('::-p-aria([name="Withdraw"])')).toBeNull();
});

it('draws are added for several sources at once, take from another exam, and are narrowed in place', async () => {
  const page = await house.page(teacher);
  const id = examOf('Weekly check: heights of tide')?.id ?? '';
  await page.goto(`${course()}/exams/${id}`);
  await page.waitForSelector('#exam-title');
  const lines = () => {
    const row = house.db.select().from(exam).where(eq(exam.id, id)).get();
    const revision = house.db
      .select()
      .from(examRevision)
      .where(eq(examRevision.id, row?.currentRevisionId ?? ''))
      .get();
    return revision?.design.parts.flatMap((part) => part.lines) ?? [];
  };
  const before = new Set(lines().map((line) => line.id));
  await press(page, 'Add a draw for each of …');
  await press(page, 'Weather');
  await press(page, 'the questions of Steering-rules quiz');
  await fill(page, 'Questions each', '2');
  await press(page, 'Add 2 draws');
  const added = () => lines().filter((line) => !before.has(line.id));
  await expect.poll(() => added().length).toBe(2);
  const [weather, quiz] = added();
  expect(quiz).toMatchObject({
    kind: 'draw',
    count: 2,
    pool: { categories: [], exams: [examOf('Steering-rules quiz')?.id] },
  });
  await shows(page, 'the questions of Steering-rules quiz');
  await page.waitForFunction(
    (selector) => /of [1-9]\d* in the pool/.test(document.querySelector(selector)?.textContent ?? ''),
    {},
    `#line-${quiz?.id}`,
  );
  const row = `#line-${weather?.id}`;
  const size = () =>
    page.$eval(row, (line) => Number(/of (\d+) in the pool/.exec(line.textContent ?? '')?.[1] ?? Number.NaN));
  const all = await size();
  await page.locator(`${row} button[aria-label^="Narrow"]`).click();
  await page.locator('::-p-xpath(//summary[contains(., "Difficulty")])').click();
  await page.locator('::-p-xpath(//fieldset//label[contains(., "easy")])').click();
  await press(page, 'Done');
  await page.waitForSelector(`${row} button[aria-label="Difficulty: easy"]`);
  await page.waitForFunction(
    (selector, was) => {
      const now = /of (\d+) in the pool/.exec(document.querySelector(selector)?.textContent ?? '')?.[1];
      return now !== undefined && Number(now) < was;
    },
    {},
    row,
    all,
  );

  // The quiz cannot draw from an exam that draws from it.
  await page.goto(`${course()}/exams/${examOf('Steering-rules quiz')?.id}`);
  await page.waitForSelector('#exam-title');
  await page.locator('button[aria-label^="Where from"]').click();
  await shows(page, 'Whatever these exams can ask');
  expect(
    await page.$$eval('fieldset', (sets) =>
      sets.some((set) => set.textContent?.includes('Whatever') && set.textContent.includes('Weekly check')),
    ),
  ).toBe(false);
});

it('papers are held equally hard on request, the spread is said, and sample papers keep to it', async () => {
  const page = await house.page(teacher);
  const id = examOf('Final theory exam')?.id ?? '';
  await page.goto(`${course()}/exams/${id}`);
  await page.waitForSelector('#exam-title');
  await shows(page, 'Expected score about');
  // The demo's final exam asks for them from the beginning.
  await shows(page, '(else ');
  await fill(page, 'Allowed difference in points of 100', '1.5');
  const design = () => {
    const row = house.db.select().from(exam).where(eq(exam.id, id)).get();
    return house.db
      .select()
      .from(examRevision)
      .where(eq(examRevision.id, row?.currentRevisionId ?? ''))
      .get()?.design;
  };
  await expect.poll(() => design()?.equalHardness).toEqual({ within: 1.5 });
  await page.waitForFunction(() => {
    const said = document.querySelector('section[aria-label="How hard papers are"]')?.textContent ?? '';
    const [, mean, low, high] = /about ([\d.]+) of 100; papers from ([\d.]+) to ([\d.]+)/.exec(said) ?? [];
    return Number(high) - Number(low) <= 3.1 && Number(low) <= Number(mean) && Number(mean) <= Number(high);
  });
  await fill(page, 'Allowed difference in points of 100', '0');
  await shows(page, 'A number from 0.1 to 50.');
  expect(design()?.equalHardness).toEqual({ within: 1.5 });
  await press(page, 'Equally hard papers');
  await expect.poll(() => design()?.equalHardness).toBeUndefined();
  // What the answer takes away moves the box below it.
  await page.waitForFunction(() => !document.body?.textContent?.includes('(else '));
  await press(page, 'Equally hard papers');
  await expect.poll(() => design()?.equalHardness?.within).toBeGreaterThan(0);
  await shows(page, '(else ');
});

it('an exam is labelled, found by its labels, duplicated, put away and brought back', async () => {
  const page = await house.page(teacher);
  const id = examOf('Passage-planning paper')?.id ?? '';
  await page.goto(`${course()}/exams/${id}`);
  await page.waitForSelector('#exam-title');
  await press(page, 'Year or term: not set');
  await fill(page, 'Year or term', 'Autumn 2026');
  await page.keyboard.press('Enter');
  await page.waitForSelector('button[aria-label="Year or term: Autumn 2026"]');
  await page.goto(`${course()}/exams`);
  await fill(page, 'Find exams', 'autumn passage');
  await page.waitForFunction(() => document.querySelectorAll('main li').length === 1);
  await press(page, 'Duplicate Passage-planning paper');
  await page.waitForFunction(
    () => document.querySelector<HTMLInputElement>('#exam-title')?.value === 'Passage-planning paper (copy)',
  );
  expect(examOf('Passage-planning paper (copy)')?.year).toBe('Autumn 2026');
  await page.goto(`${course()}/exams`);
  await press(page, 'Archive Passage-planning paper (copy)');
  await shows(page, 'Passage-planning paper (copy) is archived.');
  expect(examOf('Passage-planning paper (copy)')?.archivedAt).not.toBeNull();
  await press(page, '1 archived');
  await press(page, 'Bring back Passage-planning paper (copy)');
  await shows(page, 'Passage-planning paper (copy) is back among the exams.');
  await press(page, 'Undo');
  await expect.poll(() => examOf('Passage-planning paper (copy)')?.archivedAt).not.toBeNull();
});
