import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, eq, isNull } from 'drizzle-orm';
import { strToU8, zipSync } from 'fflate';
import type { ElementHandle } from 'puppeteer-core';
import { expect, it } from 'vitest';
import { question, questionDraft, questionTag, questionVersion, sitting } from '../src/db/schema';
import { fill, openHouse, press, shows, teacher } from './house';

const house = openHouse();
/** The questions of the demo's bank that are in use. */
const inBank = () =>
  house.db
    .select()
    .from(question)
    .where(and(eq(question.bankId, named('Isophase')?.bankId ?? ''), isNull(question.retiredAt)))
    .all();
const named = (name: string) => house.db.select().from(question).where(eq(question.shortName, name)).get();
const base = () =>
  `${house.served.origin}/c/${house.db.select().from(sitting).get()?.courseId}/banks/${named('Isophase')?.bankId}`;
type Page = Awaited<ReturnType<typeof house.page>>;

const contentOf = (name: string) => {
  const row = named(name);
  return (
    row && house.db.select().from(questionVersion).where(eq(questionVersion.id, row.currentVersionId)).get()?.content
  );
};
const keys = async (page: Page, modifier: 'Alt' | 'Control', key: string) => {
  await page.keyboard.down(modifier);
  await page.keyboard.press(key as 'g');
  await page.keyboard.up(modifier);
};
/** Opens the preview and brings it clear of the foot of the sheet. */
async function openPreview(page: Page): Promise<void> {
  await page.evaluate(() => {
    const preview = [...document.querySelectorAll('details')].find((one) =>
      one.querySelector('summary')?.textContent?.includes('As the student sees it'),
    );
    preview?.querySelector('summary')?.click();
    preview?.scrollIntoView({ block: 'start' });
  });
}

/** Selects the word before the caret. */
async function selectWord(page: Page): Promise<void> {
  await page.keyboard.down('Shift');
  await keys(page, 'Control', 'ArrowLeft');
  await page.keyboard.up('Shift');
}

it('a gap-fill is written by keyboard: selected words become gaps, and the preview earns full credit', async () => {
  const page = await house.page(teacher);
  await page.goto(`${base()}?begin=gap-fill`);
  await page.waitForSelector('[role=textbox]');
  await fill(page, 'Short name (private)', 'Written by keys');
  await page.locator('[role=textbox]').click();
  await page.keyboard.type('The stream that comes in is the flood');
  await selectWord(page);
  await keys(page, 'Alt', 'g');
  await page.waitForSelector('.gap-chip');
  await page.keyboard.type(', the one that goes out the ebb');
  await selectWord(page);
  await keys(page, 'Alt', 'g');
  await page.waitForFunction(() => document.querySelectorAll('.gap-chip').length === 2);
  await expect.poll(() => house.db.select().from(questionDraft).all().length).toBeGreaterThan(0);
  await openPreview(page);
  await press(page, 'Fill in the right answer');
  await shows(page, 'Earns 3 of 3 points.');
  await fill(page, 'Gap 2', 'nothing');
  await shows(page, 'Earns 1.5 of 3 points.');
  await page.locator('[role=textbox]').click();
  await keys(page, 'Control', 's');
  await expect
    .poll(() => contentOf('Written by keys'))
    .toMatchObject({
      type: 'gap-fill',
      gaps: [{ accepted: [{ text: 'flood' }] }, { accepted: [{ text: 'ebb' }] }],
    });
  await shows(page, 'Version 1');
  expect(house.db.select().from(questionDraft).all()).toHaveLength(0);
});

it('values are declared, shown as samples with their answers, and what cannot be drawn is refused where it stands', async () => {
  const page = await house.page(teacher);
  await page.goto(`${base()}?begin=numeric`);
  await page.waitForSelector('[role=textbox]');
  await fill(page, 'Short name (private)', 'With values');
  await page.locator('[role=textbox]').click();
  await page.keyboard.type('Twice as far as ');
  await press(page, 'Different values on each paper');
  await page.locator('[role=textbox]').click();
  await page.keyboard.press('End');
  await page.select('select[aria-label="Put in a value"]', 'v0');
  await shows(page, '10 different papers');
  await fill(page, 'Value or formula', '2 * a / (a - 3)');
  await shows(page, 'The answer has no value (a division by zero?) in 1 of 10 cases, such as a = 3.');
  await press(page, 'Save');
  await shows(page, 'Not saved: 1 thing is to be mended above.');
  await press(page, 'A condition');
  await fill(page, 'Condition 1', 'a > 3');
  await shows(page, '7 different papers; the conditions are met by 7 of 10 combinations.');
  await press(page, 'Save');
  await expect
    .poll(() => contentOf('With values'))
    .toMatchObject({
      variables: [{ name: 'a' }],
      constraints: ['a > 3'],
      stem: { content: [{ content: [{ type: 'text' }, { type: 'variable', attrs: { id: 'v0' } }] }] },
    });
});

it('the next question of a kind begins with the settings of the last, by keyboard alone', async () => {
  const page = await house.page(teacher);
  await page.goto(`${base()}?begin=multiple-choice`);
  // The cursor stands in the question, and Tab leads from choice to choice.
  await page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'textbox');
  await page.keyboard.type('Which are buoys?');
  for (const [letter, text] of Object.entries({ A: 'nun', B: 'can', C: 'lamp', D: 'rope' })) {
    await page.keyboard.press('Tab');
    await page.keyboard.type(text);
    if (letter === 'A' || letter === 'B') await keys(page, 'Alt', 'm');
  }
  await page.select('select:has(option[value="each-judged"])', 'each-judged');
  await keys(page, 'Control', 'Enter');
  await shows(page, 'Saved. Here is the next.');
  expect(await page.$eval('select:has(option[value="each-judged"])', (one) => (one as HTMLSelectElement).value)).toBe(
    'each-judged',
  );
  const made = house.db
    .select()
    .from(questionVersion)
    .all()
    .map((row) => row.content)
    .find((one) => JSON.stringify(one.stem).includes('Which are buoys?'));
  expect(made?.type === 'multiple-choice' && made.choices.map((choice) => choice.right)).toEqual([
    true,
    true,
    false,
    false,
  ]);
});

it('all that match a filter are changed at once, counted, and taken back', async () => {
  const page = await house.page(teacher);
  await page.goto(`${base()}?type=true-false`);
  const matching = inBank().filter((row) => row.type === 'true-false').length;
  await shows(page, `${matching} questions`);
  await page.locator('input[aria-label^="Select "]').click();
  await press(page, `Select all ${matching} that match`);
  await shows(page, `All ${matching} that match`);
  await fill(page, 'Tag', 'judge, quick');
  await press(page, `Do it for ${matching}`);
  await shows(page, `${matching} questions changed.`);
  const tagged = () => house.db.select().from(questionTag).all().length;
  expect(tagged()).toBe(matching * 2);
  await press(page, 'Undo');
  await expect.poll(tagged).toBe(0);
  await press(page, 'Keep this filter');
  await fill(page, 'Name of the filter', 'Statements');
  await press(page, 'Keep');
  await page.waitForSelector('::-p-aria([name="Statements"][role="link"])');
  await page.goto(base());
  await press(page, 'Statements');
  await shows(page, `${matching} questions`);
  expect(new URL(page.url()).searchParams.get('type')).toBe('true-false');
});

it('pasted questions are previewed, brought in, and taken back with one undo', async () => {
  const page = await house.page(teacher);
  await page.goto(`${base()}/bring-in`);
  const live = () => inBank().length;
  const before = live();
  await page.locator('textarea').click();
  await page.keyboard.type(
    '1. Which knot joins two ropes of different thickness?\na) clove hitch\n*b) sheet bend\n2. Broken\na) x\nb) y\n3. How many fathoms are a cable, nearly?\nAnswer: 100',
  );
  await press(page, 'Read it');
  await shows(page, '2 new, 0 already there, 1 that cannot be read');
  await shows(page, 'No choice is marked as right.');
  await press(page, 'Bring in 2');
  await shows(page, '2 questions brought in; what was not taken stands below, to be mended.');
  expect(live()).toBe(before + 2);
  expect(await page.$eval('textarea', (field) => field.value)).toBe('2. Broken\na) x\nb) y');
  await press(page, 'Undo');
  await expect.poll(live).toBe(before);
});

it('every type earns full credit in its preview when it is filled in, or waits for a person', async () => {
  const page = await house.page(teacher);
  const names = [
    'Towards springs',
    'Steady bearing',
    'Marks and topmarks',
    'Distress call',
    'Brief the crew',
    'Your own plan',
    'Pace of the course',
    'First sail',
    'Spring tides',
    'Leeway',
    'Urgency word',
    'Cables to metres',
  ];
  for (const name of names) {
    const row = named(name);
    expect(row, name).toBeDefined();
    await page.goto(`${base()}?all=yes&question=${row?.id}`);
    await page.waitForSelector('[role=textbox]');
    await openPreview(page);
    await press(page, 'Fill in the right answer');
    await page.waitForFunction(() =>
      /Earns ([\d.]+) of \1 points?|Marked by hand/.test(document.querySelector('details[open]')?.textContent ?? ''),
    );
  }
});

it('what stands out in a formatted text marks the right choices; a file is read, its own way out is known again', async () => {
  const page = await house.page(teacher);
  await page.goto(`${base()}/bring-in`);
  await page.locator('textarea').click();
  await page.evaluate(() => {
    const clipboardData = new DataTransfer();
    clipboardData.setData(
      'text/html',
      '<ol><li>Which topmark has a mark of the west?<ol type="a"><li>cones up</li><li><b>cones point to point</b></li></ol></li></ol>',
    );
    document.activeElement?.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
    );
  });
  await shows(page, 'What is bold, underlined, highlighted or coloured is remembered: it marks right choices.');
  expect(await page.$eval('textarea', (field) => field.value)).toBe(
    '1. Which topmark has a mark of the west?\na) cones up\nb) cones point to point',
  );
  await press(page, 'Read it');
  await shows(page, '1 new, 0 already there, 0 that cannot be read');
  await press(page, 'Bring in 1');
  await shows(page, '1 question brought in.');
  const made = house.db
    .select()
    .from(questionVersion)
    .all()
    .map((row) => row.content)
    .find((one) => JSON.stringify(one.stem).includes('a mark of the west'));
  expect(made?.type === 'single-choice' && made.choices.map((choice) => choice.right)).toEqual([false, true]);

  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-files-'));
  const choose = async (name: string, bytes: Uint8Array) => {
    writeFileSync(join(folder, name), bytes);
    const picker = (await page.waitForSelector('#bring-in-file')) as ElementHandle<HTMLInputElement>;
    await picker.uploadFile(join(folder, name));
  };
  const run = (words: string, look = '') => `<w:r><w:rPr>${look}</w:rPr><w:t xml:space="preserve">${words}</w:t></w:r>`;
  const lines = ['1. Which wind follows a warm front?', 'a) backing', 'b) veering'];
  await choose(
    'questions.docx',
    zipSync({
      '[Content_Types].xml': strToU8('<Types/>'),
      'word/document.xml': strToU8(
        `<?xml version="1.0"?><w:document xmlns:w="w"><w:body>${lines
          .map((line) => `<w:p>${run(line, line.startsWith('b)') ? '<w:b/>' : '')}</w:p>`)
          .join('')}</w:body></w:document>`,
      ),
    }),
  );
  await shows(page, '1 new, 0 already there, 0 that cannot be read');
  await press(page, 'Back to the text');
  await choose('picture.docx', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13));
  await page.waitForSelector('[role=alert]');
  expect(page.url()).toContain('/bring-in');

  // The bank taken out as a spreadsheet is wholly known when it is brought in again.
  const answer = await fetch(`${base()}/take-out?as=xlsx`, { headers: { cookie: await house.cookiesOf(teacher) } });
  await choose('bank.xlsx', new Uint8Array(await answer.arrayBuffer()));
  await shows(page, '0 new, ');
  const live = inBank().length;
  await shows(page, `0 new, ${live} already there, 0 that cannot be read`);
  rmSync(folder, { recursive: true, force: true });
});
