import { and, eq, isNotNull, isNull } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { category, question, questionVersion, sitting } from '../src/db/schema';
import { fill, openHouse, press, shows, teacher } from './house';

const house = openHouse();
const isophase = () => house.db.select().from(question).where(eq(question.shortName, 'Isophase')).get();
const base = () =>
  `${house.served.origin}/c/${house.db.select().from(sitting).get()?.courseId}/banks/${isophase()?.bankId}`;
const outlineOf = (page: Awaited<ReturnType<typeof house.page>>) =>
  page.$$eval('[data-row]', (rows) => rows.map((row) => row.querySelector('span span')?.textContent ?? ''));

/** Waits until the outline answers to the mouse: a drag that begins before is the browser's own. */
const isAlive = (page: Awaited<ReturnType<typeof house.page>>) =>
  page.waitForFunction(() =>
    Object.keys(document.querySelector('[data-row]') ?? {}).some((key) => key.startsWith('__reactProps')),
  );

it('the tree is renamed, moved, filled and emptied, each with one undo, and the counts follow', async () => {
  const page = await house.page(teacher);
  await page.goto(base());
  await shows(page, 'questions in 12 categories');
  await page.locator('::-p-xpath(//button[contains(., "Weather")])').click();
  await shows(page, 'Backing wind');
  await press(page, 'Rename');
  await page.locator('form input').fill('Weather at sea');
  await press(page, 'Rename');
  await shows(page, 'Renamed to Weather at sea.');
  await press(page, 'Undo');
  await page.waitForFunction(() => !document.querySelector('main')?.textContent?.includes('Weather at sea'));

  const places = () =>
    house.db
      .select()
      .from(category)
      .where(eq(category.bankId, isophase()?.bankId ?? ''))
      .all();
  const placeOf = (name: string) => places().find((one) => one.name === name);
  await press(page, 'Move into the category above');
  await expect.poll(() => placeOf('Weather')?.parentId).toBe(placeOf('Steering & sailing rules')?.id);
  await shows(page, ' / ');
  await press(page, 'Undo');
  await expect.poll(() => placeOf('Weather')?.parentId).toBeNull();

  // Deleting a category that holds something asks where its contents go, and moves them.
  const weather = placeOf('Weather')?.id ?? '';
  const held = () => house.db.select().from(question).where(eq(question.categoryId, weather)).all().length;
  const before = held();
  await press(page, 'Delete this category');
  await shows(page, 'Move what Weather holds, and delete it');
  await press(page, 'Move and delete');
  await shows(page, 'Category deleted; ');
  expect([placeOf('Weather'), held()]).toEqual([undefined, 0]);
  await press(page, 'Undo');
  await expect.poll(held).toBe(before);
  await page.goto(`${base()}?category=${weather}`);
  await press(page, 'New category below this one');
  await page.locator('form input').fill('Fog');
  await press(page, 'Add');
  await shows(page, 'in 13 categories');
  await press(page, 'Delete this category');
  await shows(page, 'Category deleted.');
  await shows(page, 'in 12 categories');
});

it('questions are found by any word, walked with the keyboard, and the address names what is open', async () => {
  const page = await house.page(teacher);
  await page.goto(base());
  await page.waitForSelector('[data-row]');
  await page.keyboard.press('/');
  await page.keyboard.type('prolonged blast');
  await shows(page, '1 question');
  await shows(page, 'Fog signal under way');
  expect(await outlineOf(page)).toHaveLength(1);
  await page.focus('[data-row="0"]');
  await page.keyboard.press('Enter');
  await page.waitForSelector('[role=textbox]');
  expect(new URL(page.url()).searchParams.get('find')).toBe('prolonged blast');
  expect(new URL(page.url()).searchParams.get('question')).toBe(
    house.db.select().from(question).where(eq(question.shortName, 'Fog signal under way')).get()?.id,
  );
  await page.reload();
  await page.waitForSelector('[role=textbox]');
  await fill(page, 'Find questions', 'nothing of the kind');
  await shows(page, 'No question holds “nothing of the kind”');
});

it('an edit of a question that stands on papers makes the next version, and the second of two editors is told', async () => {
  const held = house.db
    .select({ id: question.id, categoryId: question.categoryId })
    .from(question)
    .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
    .where(
      and(
        eq(question.bankId, isophase()?.bankId ?? ''),
        eq(question.type, 'single-choice'),
        isNull(question.retiredAt),
        isNotNull(questionVersion.frozenAt),
      ),
    )
    .get();
  const address = `${base()}?category=${held?.categoryId}&question=${held?.id}`;
  const [first, second] = [await house.page(teacher), await house.page(teacher)];
  for (const page of [first, second]) {
    await page.goto(address);
    await page.waitForSelector('[role=textbox]');
    await page.locator('[role=textbox]').click();
    await page.keyboard.press('End');
  }
  const versions = () =>
    house.db
      .select()
      .from(questionVersion)
      .where(eq(questionVersion.questionId, held?.id ?? ''))
      .orderBy(questionVersion.number)
      .all();
  const before = versions().length;
  await first.bringToFront();
  await first.locator('[role=textbox]').click();
  await first.keyboard.type(' First.');
  await press(first, 'Save');
  await shows(first, `Saved as version ${before + 1}`);
  expect(versions()).toHaveLength(before + 1);
  await second.bringToFront();
  await second.locator('[role=textbox]').click();
  await second.keyboard.type(' Second.');
  await press(second, 'Save');
  await shows(second, 'Someone else saved this question while you were writing. Nothing has been overwritten.');
  await shows(second, 'Save mine over it');
  await second.waitForFunction(() => document.querySelector('[role=textbox]')?.textContent?.includes('Second.'));
  expect(JSON.stringify(versions().at(-1)?.content)).toContain('First.');
  // Having seen both, the second saves theirs; the first, who has changed the short name alone, is joined with it.
  await press(second, 'Save mine over it');
  await expect.poll(() => JSON.stringify(versions().at(-1)?.content)).toContain('Second.');
  await first.bringToFront();
  await fill(first, 'Short name (private)', 'Renamed meanwhile');
  await press(first, 'Save');
  await shows(first, 'Someone else had changed the question meanwhile: it stands as they saved it.');
  expect(JSON.stringify(versions().at(-1)?.content)).toContain('Second.');
  await first.waitForFunction(() => document.querySelector('[role=textbox]')?.textContent?.includes('Second.'));
  const stored = house.db
    .select()
    .from(question)
    .where(eq(question.id, held?.id ?? ''))
    .get();
  expect(stored?.shortName).toBe('Renamed meanwhile');
});

it('the preview can be answered, filled with the right answer, and shows the credit', async () => {
  const page = await house.page(teacher);
  const row = house.db.select().from(question).where(eq(question.shortName, 'True to magnetic')).get();
  await page.goto(`${base()}?category=${row?.categoryId}&question=${row?.id}`);
  await page.waitForSelector('[role=textbox]');
  await fill(page, 'Try an answer', '66,0');
  await shows(page, 'Read as 66: 25 %, within the tolerance of 66.');
  await page.locator('::-p-xpath(//summary[contains(., "As the student sees it")])').click();
  await shows(page, 'Nothing entered: 0 points.');
  await press(page, 'Fill in the right answer');
  await shows(page, 'Earns 2 of 2 points.');
  await fill(page, 'Your answer, a number', '70');
  await shows(page, 'Earns 0 of 2 points.');
});

it('categories and questions are dragged to where they belong, and each move can be taken back', async () => {
  const page = await house.page(teacher);
  await page.goto(base());
  await isAlive(page);
  const places = () => house.db.select().from(category).all();
  const named = (name: string) => places().find((one) => one.name === name);
  const row = (name: string) => page.locator(`::-p-xpath(//button[@data-category][contains(., "${name}")])`);
  /** Carries what stands under a locator to a share of the height of a category, and lets go once it is welcome there. */
  const drag = async (from: { hover: () => Promise<void> }, to: string, share: number, where: string) => {
    await from.hover();
    await page.mouse.down();
    const box = await (await row(to).waitHandle()).boundingBox();
    if (!box) throw new Error('The target is not in view.');
    const move = (y: number) => page.mouse.move(box.x + 40, box.y + box.height * y);
    for (let i = 0; ; i++) {
      await move(share + (i % 2 ? 0.04 : 0));
      const over = await page.$eval(`::-p-xpath(//button[@data-category][contains(., "${to}")])`, (one) =>
        one.getAttribute('data-drop'),
      );
      if (over === where) break;
      if (i > 200) throw new Error(`It is not welcome: ${over}`);
    }
    await page.mouse.up();
  };
  await drag(row('Safety at sea'), 'Weather', 0.6, 'into');
  await expect.poll(() => named('Safety at sea')?.parentId).toBe(named('Weather')?.id);
  await shows(page, 'Category moved.');
  await press(page, 'Undo');
  await expect.poll(() => named('Safety at sea')?.parentId).toBeNull();
  await page.goto(base());
  await isAlive(page);
  await drag(row('Safety at sea'), 'Compass & variation', 0.15, 'before');
  const top = () =>
    places()
      .filter((one) => one.bankId === isophase()?.bankId && one.parentId === null)
      .sort((a, b) => a.position - b.position)
      .map((one) => one.name)
      .slice(0, 3);
  await expect.poll(top).toEqual(['Charts & position', 'Safety at sea', 'Compass & variation']);
  await press(page, 'Undo');
  await expect.poll(top).toEqual(['Charts & position', 'Compass & variation', 'Tides & streams']);

  // A question goes into the category it is dropped on.
  await page.goto(`${base()}?category=${isophase()?.categoryId}`);
  await isAlive(page);
  const dragged = page.locator('::-p-xpath(//div[@draggable="true"][contains(., "Isophase")])');
  await drag(dragged, 'Charts & position', 0.6, 'into');
  await expect.poll(() => isophase()?.categoryId).toBe(named('Charts & position')?.id);
  await press(page, 'Undo');
  await expect.poll(() => isophase()?.categoryId).toBe(named('Lights, buoys & sounds')?.id);
});
