import { eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { category, question, questionVersion, sitting } from '../src/db/schema';
import { fill, openHouse, press, shows, teacher } from './house';

const house = openHouse();
const isophase = () => house.db.select().from(question).where(eq(question.shortName, 'Isophase')).get();
const base = () =>
  `${house.served.origin}/c/${house.db.select().from(sitting).get()?.courseId}/banks/${isophase()?.bankId}`;
const outlineOf = (page: Awaited<ReturnType<typeof house.page>>) =>
  page.$$eval('[data-row]', (rows) => rows.map((row) => row.querySelector('span span')?.textContent ?? ''));

it('the tree is renamed, moved, filled and emptied, each with one undo, and the counts follow', async () => {
  const page = await house.page(teacher);
  await page.goto(base());
  await shows(page, '63 questions in 11 categories');
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
  await shows(page, '10 / 16');
  await press(page, 'Undo');
  await expect.poll(() => placeOf('Weather')?.parentId).toBeNull();

  expect(
    await page.$eval('[aria-label="Delete this category"]', (button) => button.getAttribute('aria-disabled')),
  ).toBe('true');
  await press(page, 'New category below this one');
  await page.locator('form input').fill('Fog');
  await press(page, 'Add');
  await shows(page, 'in 12 categories');
  await press(page, 'Delete this category');
  await shows(page, 'Category deleted.');
  await shows(page, 'in 11 categories');
});

it('questions are found by any word, walked with the keyboard, and the address names what is open', async () => {
  const page = await house.page(teacher);
  await page.goto(base());
  await page.waitForSelector('[data-row]');
  await page.keyboard.press('/');
  await page.keyboard.type('prolonged blast');
  await shows(page, '1 found');
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
  await shows(page, 'No question holds “nothing of the kind”.');
});

it('an edit of a question that stands on papers makes the next version, and the second of two editors is told', async () => {
  const address = `${base()}?category=${isophase()?.categoryId}&question=${isophase()?.id}`;
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
      .where(eq(questionVersion.questionId, isophase()?.id ?? ''))
      .all();
  const frozen = versions().some((one) => one.frozenAt !== null);
  await first.bringToFront();
  await first.locator('[role=textbox]').click();
  await first.keyboard.type(' First.');
  await press(first, 'Save');
  await shows(first, frozen ? 'Saved as version 2' : 'Saved ');
  expect(versions()).toHaveLength(frozen ? 2 : 1);
  await second.bringToFront();
  await second.locator('[role=textbox]').click();
  await second.keyboard.type(' Second.');
  await press(second, 'Save');
  await shows(second, 'Someone else has changed this question since you opened it.');
  await second.waitForFunction(() => document.querySelector('[role=textbox]')?.textContent?.includes('Second.'));
  expect(JSON.stringify(versions().at(-1)?.content)).toContain('First.');
});

it('the preview can be answered, filled with the right answer, and shows the credit', async () => {
  const page = await house.page(teacher);
  const row = house.db.select().from(question).where(eq(question.shortName, 'True to magnetic')).get();
  await page.goto(`${base()}?category=${row?.categoryId}&question=${row?.id}`);
  await page.waitForSelector('[role=textbox]');
  await fill(page, 'Try an answer', '66,0');
  await shows(page, 'Read as 66: 25 % of the points');
  await page.locator('summary').click();
  await shows(page, 'Nothing entered: 0 points.');
  await press(page, 'Fill in the right answer');
  await shows(page, 'Earns 2 of 2 points.');
  await fill(page, 'Your answer, a number', '70');
  await shows(page, 'Earns 0 of 2 points.');
});
