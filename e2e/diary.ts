import type { Page } from 'puppeteer-core';

const diaries = new WeakMap<Page, string[]>();
const mark = 'diary:';

/** Keeps what a page asks the server, prints, and is pressed, for the message of a failing test. */
export async function keepDiary(page: Page): Promise<void> {
  const begun = Date.now();
  const lines: string[] = [];
  diaries.set(page, lines);
  const note = (...what: unknown[]) => lines.push(`${String(Date.now() - begun).padStart(7)} ${what.join(' ')}`);
  const where = (address: string) => address.replace(/^https?:\/\/[^/]+/, '').slice(0, 160);
  page.on('request', (request) => note('asks', request.method(), where(request.url())));
  page.on('response', (response) => note('  gets', response.status(), where(response.url())));
  page.on('requestfinished', (request) => note('  has', where(request.url())));
  page.on('requestfailed', (request) => note('  LOST', request.failure()?.errorText, where(request.url())));
  page.on('framenavigated', (frame) => frame === page.mainFrame() && note('is at', where(frame.url())));
  // A question of the browser itself would stop the page, and the test with it, without a word.
  page.on('dialog', (dialog) => {
    note('ASKED', dialog.type(), dialog.message());
    void dialog.accept();
  });
  page.on('pageerror', (why) => note('ERROR', why instanceof Error ? (why.stack ?? why.message) : why));
  page.on('console', (message) => note(message.text().startsWith(mark) ? '' : message.type(), message.text()));
  await page.evaluateOnNewDocument((ours: string) => {
    for (const kind of ['mousedown', 'click', 'submit', 'keydown'])
      addEventListener(
        kind,
        (event) => {
          const on = event.target as Element | null;
          const key = event instanceof KeyboardEvent && event.key.length > 1 ? event.key : '';
          if (kind === 'keydown' && !key) return;
          // After every listener of the page has had its say.
          setTimeout(() =>
            console.debug(
              `${ours} ${kind} ${key} on ${on?.tagName} "${(on?.textContent ?? '').trim().slice(0, 40)}"${event.defaultPrevented ? ', taken' : ''}`,
            ),
          );
        },
        { capture: true },
      );
  }, mark);
}

export const diaryOf = (page: Page): string => (diaries.get(page) ?? []).join('\n');
