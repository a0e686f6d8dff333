import { and, desc, eq } from 'drizzle-orm';
import type { Page } from 'puppeteer-core';
import { expect, it } from 'vitest';
import { instructors } from '../demo/people';
import { richText } from '../src/core/base/rich';
import { contentText } from '../src/core/question/content';
import { exam, question, questionVersion, sitting } from '../src/db/schema';
import { openHouse, press, shows } from './house';

const house = openHouse();
const teacher = instructors[0]?.email ?? '';
const course = () => `/c/${house.db.select().from(sitting).get()?.courseId}`;
const bankId = () => house.db.select().from(question).where(eq(question.shortName, 'Isophase')).get()?.bankId ?? '';

/** What somebody copied elsewhere, put into the text that has the focus. */
const paste = (page: Page, html: string, plain: string) =>
  page.evaluate(
    (given) => {
      const clipboardData = new DataTransfer();
      if (given.html) clipboardData.setData('text/html', given.html);
      clipboardData.setData('text/plain', given.plain);
      document.activeElement?.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
      );
    },
    { html, plain },
  );

async function begin(type: string): Promise<Page> {
  const page = await house.page(teacher);
  await page.goto(`${house.served.origin}${course()}/banks/${bankId()}?begin=${type}`);
  await page.waitForSelector('[role=textbox]');
  await page.locator('[role=textbox]').click();
  return page;
}
const newest = () =>
  house.db
    .select({ content: questionVersion.content })
    .from(question)
    .innerJoin(questionVersion, eq(questionVersion.questionId, question.id))
    .where(and(eq(question.bankId, bankId())))
    .orderBy(desc(question.createdAt))
    .get()?.content;

it('a page copied from elsewhere, with a table in a table, pictures, relative links and words from right to left, is kept', async () => {
  const page = await begin('written');
  await paste(
    page,
    `<table><tr><td>Outer <table><tr><td>inner 1</td><td>inner 2</td></tr></table></td><td>second</td></tr></table>
     <p dir="rtl">מה צבע האור?</p>
     <p>A <img src="https://elsewhere.example/x.png" onerror="document.title='ran'"> picture,
     <a href="/relative">a way</a>, <a href="javascript:document.title='ran'">another</a>,
     <a href="https://elsewhere.example/">a third</a><script>document.title = 'ran'</script></p>`,
    'plain',
  );
  await shows(page, 'A picture in what you pasted was left out. Paste it by itself, or put it in with Alt+P.');
  await page.keyboard.type(' And typed on.');
  await press(page, 'Save');
  await expect.poll(() => contentText(newest() as never)).toContain('And typed on.');
  const content = newest();
  const words = content && 'stem' in content ? richText(content.stem) : '';
  for (const one of ['inner 1', 'second', 'מה צבע האור?', 'a way', 'another', 'a third']) expect(words).toContain(one);
  const stored = JSON.stringify(content);
  expect(stored).toContain('https://elsewhere.example/');
  expect(stored).not.toMatch(/relative|javascript:|x\.png/);
  expect(await page.title()).not.toBe('ran');
});

it('two megabytes do not go into a text: it is said, and what was typed before and after is kept', async () => {
  const page = await begin('written');
  await page.keyboard.type('Describe the light.');
  await paste(page, '', 'A very long text of words. '.repeat(78_000));
  await shows(page, 'At most 100,000 characters fit into one text.');
  await page.keyboard.type(' Then say when it shows.');
  await press(page, 'Save');
  await expect.poll(() => contentText(newest() as never)).toContain('Describe the light. Then say when it shows.');
});

it('what an older version of the app left in the browser harms nothing, and goes', async () => {
  const page = await house.page(teacher);
  const examId = house.db.select().from(exam).where(eq(exam.title, 'Final theory exam')).get()?.id;
  await page.goto(`${house.served.origin}${course()}`);
  const mine = await page.evaluate((about) => {
    localStorage.setItem('wuzzen-draft/single-choice', '{"fields":{"content":{}}}');
    localStorage.setItem('wuzzen-kept/0/somebody/exam/x', 'of another make');
    const own = `wuzzen-kept/1/${about}`;
    localStorage.setItem(own, 'not to be read');
    return own;
  }, `nobody/exam/${examId}`);
  await page.goto(`${house.served.origin}${course()}/exams/${examId}`);
  await page.waitForFunction(() => (document.querySelector('#exam-title') as HTMLInputElement)?.value !== '');
  await page.waitForFunction(() => localStorage.getItem('wuzzen-draft/single-choice') === null);
  expect(await page.evaluate(() => localStorage.getItem('wuzzen-kept/0/somebody/exam/x'))).toBeNull();
  // What somebody else keeps at this machine is theirs, and stays.
  expect(await page.evaluate((own) => localStorage.getItem(own), mine)).toBe('not to be read');
  expect(await page.$eval('main', (element) => element.textContent)).toContain('· saved');
});
