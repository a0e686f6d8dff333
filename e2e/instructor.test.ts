import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import type { ElementHandle } from 'puppeteer-core';
import { expect, it } from 'vitest';
import { localFromInstant } from '../src/core/base/localTime';
import { outbox, publication, question, sitting } from '../src/db/schema';
import { fill, openHouse, press, shows, teacher } from './house';

const house = openHouse();

/** Puts a moment into a date-and-time field, as its picker would. */
async function setMoment(page: Awaited<ReturnType<typeof house.page>>, label: string, at: number) {
  await fill(page, label, localFromInstant(at, 'Europe/Oslo'));
  await page.keyboard.press('Enter');
}

it('the whole job once: questions, exam, sitting, taking, marking, publishing, gradebook, the student’s result', async () => {
  const page = await house.page(null);
  const { origin } = house.served;

  const before = house.db.select().from(question).all().length;

  // Signing in, and the bank.
  await page.goto(`${origin}/sign-in`);
  await press(page, 'Ingrid Sollie');
  await shows(page, 'To be marked by hand');
  await press(page, 'Banks');
  await shows(page, 'Charts & position');
  await page.locator('::-p-xpath(//button[contains(., "Charts & position")])').click();
  await press(page, 'New category beside this one');
  await page.locator('form input').fill('Ropework');
  await press(page, 'Add');
  await shows(page, 'in 13 categories');

  // A single choice without a right text is refused at its field, then saved; the next one is a written answer.
  await press(page, 'Write a question');
  await press(page, 'Single choice');
  await page.waitForSelector('[role=textbox]');
  await press(page, 'Save');
  await shows(page, 'The question has no text yet.');
  await page.locator('[role=textbox]').click();
  await page.keyboard.type('Which knot makes a loop that does not slip?');
  for (const [letter, text] of [
    ['A', 'Bowline'],
    ['B', 'Slip knot'],
    ['C', 'Half hitch'],
    ['D', 'Clove hitch'],
  ] as const) {
    await page.locator(`::-p-aria([name="Choice ${letter}"][role="textbox"])`).click();
    await page.keyboard.type(text);
  }
  // No choice is right until someone says so.
  await press(page, 'Save');
  await shows(page, 'Mark the right choice.');
  await press(page, 'Choice A is right');
  await press(page, 'Save');
  await shows(page, 'Version 1');
  await shows(page, 'Which knot makes a loop');
  await press(page, 'Write a question');
  await press(page, 'Written answer');
  await page.waitForSelector('section[aria-label="New question: Written answer"] [role=textbox]');
  await page.locator('[role=textbox]').click();
  await page.keyboard.type('When would you not trust a knot?');
  await page.keyboard.down('Control');
  await page.keyboard.press('s');
  await page.keyboard.up('Control');
  await expect.poll(() => house.db.select().from(question).all().length).toBe(before + 2);

  // An exam with a draw and a fixed question; too many to draw is said at once.
  await press(page, 'Exams');
  await fill(page, 'Title of a new exam', 'Ropework check');
  await press(page, 'Begin an exam');
  await shows(page, 'No lines yet.');
  await press(page, 'Add a draw');
  await shows(page, 'Draw');
  await page.locator('button[aria-label^="Where from"]').click();
  const first = await page.$eval('fieldset label input[type=checkbox]:checked', (one) =>
    one.closest('label')?.textContent?.trim(),
  );
  // The names of categories stand elsewhere on the page too.
  const tick = (name: string) =>
    page.locator(`::-p-xpath(//fieldset//label[normalize-space(.)="${name}"]/input)`).click();
  await tick(first ?? '');
  await shows(page, 'nowhere yet');
  await tick('Ropework');
  await press(page, 'Done');
  await shows(page, 'Line 1.1 draws 3 from a pool of 2: 1 missing.');
  await page.locator('button[aria-label^="How many to draw"]').click();
  await fill(page, 'How many questions', '2');
  await page.keyboard.press('Enter');
  await shows(page, 'Papers can be drawn: no line is short of questions.');
  await shows(page, '· saved');
  await press(page, 'Sample papers');
  await shows(page, 'Bowline');
  await page.goBack();
  await page.waitForSelector('#exam-title');

  // A sitting: what stands in the way is said, then it is scheduled.
  await press(page, 'Give as a sitting');
  await shows(page, 'It never closes');
  const topOfRules = () => page.$eval('section[aria-label="Rules"]', (sheet) => sheet.getBoundingClientRect().top);
  const resting = await topOfRules();
  await setMoment(page, 'Opens', Date.now() - 3_600_000);
  // What is stored and shown above moves nothing that the hand is at.
  await page.waitForSelector('figure[aria-label="Timeline"]');
  expect(await topOfRules()).toBe(resting);
  await setMoment(page, 'Closes', Date.now() + 86_400_000);
  await fill(page, 'Minutes from the start', '20');
  await page.keyboard.press('Enter');
  // The written answer waits for someone: that is taken on by name.
  await page.waitForFunction(() => !document.body?.textContent?.includes('It never closes'));
  await shows(page, 'no marker is assigned');
  await page.locator('::-p-xpath(//label[contains(., "I have read this")])').click();
  await press(page, 'Schedule');
  await shows(page, 'open now');
  const sittingId = page.url().split('/').at(-1) ?? '';
  expect(
    house.db
      .select()
      .from(outbox)
      .all()
      .filter((message) => message.subject.startsWith('Ropework check:')),
  ).toHaveLength(28);

  // A student takes it.
  const student = await house.page('zoe.papathanou@ternpoint.example');
  await student.goto(`${origin}/my/exams/${sittingId}`);
  await press(student, 'Start now: 20 min');
  for (let i = 0; i < 2; i++) {
    await shows(student, `Question ${i + 1} of 2`);
    await student.waitForSelector('main input[type=radio]:not(:disabled), main textarea:not(:disabled)');
    const choice = await student.$('::-p-xpath(//label[contains(., "Bowline")])');
    if (choice) await choice.click();
    else await student.locator('main textarea').fill('When it is wet and I have not tied it myself.');
    await press(student, i === 0 ? 'Next' : 'To the hand-in');
  }
  await shows(student, '2 of 2 questions are answered.');
  await press(student, 'Hand in');
  await shows(student, 'You handed it in.');
  await student.goto(`${origin}/my/results`);
  expect(await student.$eval('main', (main) => main.textContent)).not.toContain('Ropework');

  // Marking by keyboard: points out of range are refused, Enter saves.
  await page.locator('nav a[href$="/marking"]').click();
  await page.waitForFunction(() => document.querySelector('h1')?.textContent?.includes('Marking'));
  await page.locator('::-p-xpath(//section[@aria-label="Ropework check"]//a[contains(., "waiting")])').click();
  await shows(page, 'When it is wet');
  expect(await page.$eval('main', (main) => main.textContent)).not.toContain('Papathanou');
  await page.keyboard.type('9');
  await page.keyboard.press('Enter');
  await shows(page, 'This question carries 1 point at most.');
  await page.keyboard.press('Backspace');
  await page.keyboard.type('0,5');
  await page.keyboard.press('Enter');
  await shows(page, 'All answers to this question are marked.');

  // Publishing says its numbers before; then the score stands in the gradebook and with the student.
  await page.goto(`${origin}${new URL(page.url()).pathname.replace(/marking.*/, '')}sittings/${sittingId}/results`);
  await shows(page, '1 ready to publish, 27 not handed in.');
  await press(page, 'Publish 1 result');
  await shows(page, '1 student gets a message');
  await press(page, 'Publish');
  await shows(page, '1 result has been published');
  expect(house.db.select().from(publication).where(eq(publication.sittingId, sittingId)).all()).toMatchObject([
    { earned: 1.5, possible: 2 },
  ]);
  await press(page, 'Gradebook');
  await shows(page, 'Ropework check');
  await press(page, 'In and out');
  await page.waitForSelector('a[download][href*="csv"]');
  const csv = await page.evaluate(async () =>
    (await fetch(document.querySelector<HTMLAnchorElement>('a[download][href*="csv"]')?.href ?? '')).text(),
  );
  expect(csv).toMatch(/Zoë Papathanou,1028,[^,]*,Evening,.*,1\.5,/);
  await student.reload();
  await shows(student, '1.5 of 2');
  await shows(student, '75.0 %');
  expect(house.db.select().from(sitting).where(eq(sitting.id, sittingId)).get()?.state).toBe('scheduled');
});

it('a class list is previewed with a message per bad row, then added', async () => {
  const page = await house.page(teacher);
  const courseId = house.db.select().from(sitting).get()?.courseId;
  await page.goto(`${house.served.origin}/c/${courseId}/people`);
  await press(page, 'Add a class list');
  await page.locator('textarea').click();
  await page.keyboard.type(
    'name,email,section\nNew One,new.one@x.example,Weekday\nNo Mail,,Weekday\n=1+1,,Weekday\nTwice,new.one@x.example,Weekday',
  );
  await press(page, 'Preview');
  await shows(page, '1 row has no email');
  await shows(page, 'The same email stands on line 2.');
  await press(page, 'Add 2 students');
  await shows(
    page,
    '2 students have been added and invited. 1 has no email: print their addresses to hand out. 2 rows were left out.',
  );
  await page.locator('button[aria-label="Take out New One"]').click();
  await shows(page, 'New One is no longer in this course.');
  await press(page, 'Undo');
  await page.waitForSelector('button[aria-label="Take out New One"]');
});

it('a class list that is not UTF-8 is met with what to do, and nothing is added', async () => {
  const page = await house.page(teacher);
  const courseId = house.db.select().from(sitting).get()?.courseId;
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-list-'));
  const file = join(folder, 'list.csv');
  writeFileSync(file, Buffer.from('name,email\nJ\xfcrgen,juergen@x.example', 'latin1'));
  await page.goto(`${house.served.origin}/c/${courseId}/people`);
  await press(page, 'Add a class list');
  const field = await page.waitForSelector('input[type=file]');
  await (field as ElementHandle<HTMLInputElement>).uploadFile(file);
  await shows(page, 'The file is not UTF-8 text.');
  writeFileSync(file, 'name;email\nJürgen;juergen@x.example');
  await (field as ElementHandle<HTMLInputElement>).uploadFile(file);
  await shows(page, '1 can be added');
  rmSync(folder, { recursive: true, force: true });
});

it('what is typed into a question survives a closed tab', async () => {
  const page = await house.page(teacher);
  const row = house.db.select().from(question).where(eq(question.shortName, 'Isophase')).get();
  const courseId = house.db.select().from(sitting).get()?.courseId;
  const address = `${house.served.origin}/c/${courseId}/banks/${row?.bankId}?category=${row?.categoryId}&question=${row?.id}`;
  await page.goto(address);
  await page.waitForSelector('[role=textbox]');
  await page.locator('[role=textbox]').click();
  await page.keyboard.type('Half-typed words ');
  await shows(page, 'Draft kept');
  await page.goto('about:blank');
  await page.goto(address);
  await shows(page, 'What you typed here before has been brought back.');
  await page.waitForFunction(() => document.querySelector('[role=textbox]')?.textContent?.includes('Half-typed words'));
});

it('a list of three hundred long names is read as it stands, and moves as far as it is scrolled', async () => {
  const page = await house.page(teacher);
  const courseId = house.db.select().from(sitting).get()?.courseId;
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-list-'));
  const file = join(folder, 'list.csv');
  const names = [
    'Bo Ek',
    'Wilhelmina Josephine von Hohenlohe-Waldenburg',
    'Konstantin-Alexander de la Cruz y Fernández',
  ];
  writeFileSync(
    file,
    Array.from({ length: 300 }, (_, i) => `${names[i % 3]} ${i},long.name.${i}@x.example,S${i},Weekday,555`).join('\n'),
  );
  await page.goto(`${house.served.origin}/c/${courseId}/people`);
  await press(page, 'Add a class list');
  const field = await page.waitForSelector('input[type=file]');
  await (field as ElementHandle<HTMLInputElement>).uploadFile(file);
  await shows(page, '300 can be added');
  await shows(page, 'Not read, and not kept: column 5.');
  expect(
    await page.$$eval('table[aria-label="As the list is read"] tbody tr', (rows) =>
      [...(rows[0]?.children ?? [])].map((cell) => cell.textContent),
    ),
  ).toEqual(['Bo Ek 0', 'long.name.0@x.example', 'S0', 'Weekday']);
  await press(page, 'Add 300 students');
  await shows(page, '300 students have been added and invited.');
  rmSync(folder, { recursive: true, force: true });
  await page.setViewport({ width: 1000, height: 800, deviceScaleFactor: 1 });
  await page.goto(`${house.served.origin}/c/${courseId}/people`);
  const off = await page.$eval('section[aria-label="People"]', async (list) => {
    const drawn = () => [...list.querySelectorAll('tbody tr')].filter((row) => row.children.length > 1);
    const heights = new Set<number>();
    const furthest: number[] = [];
    for (let step = 0; step < 60; step++) {
      for (const row of drawn()) heights.add(Math.round(row.getBoundingClientRect().height));
      const top = list.getBoundingClientRect().top;
      const row = drawn().find((one) => one.getBoundingClientRect().top > top + 200);
      const was = row?.getBoundingClientRect().top ?? 0;
      const name = row?.firstElementChild?.textContent;
      const from = list.scrollTop;
      list.scrollTop = from + 150;
      const by = list.scrollTop - from;
      for (let wait = 0; wait < 2; wait++) await new Promise((frame) => requestAnimationFrame(frame));
      const now = drawn().find((one) => one.firstElementChild?.textContent === name);
      if (now) furthest.push(Math.abs(was - by - now.getBoundingClientRect().top));
    }
    return { heights: heights.size, steps: furthest.length, furthest: Math.max(...furthest) };
  });
  expect(off.heights).toBeGreaterThan(1);
  expect(off.steps).toBe(60);
  expect(off.furthest).toBeLessThan(5);
});
