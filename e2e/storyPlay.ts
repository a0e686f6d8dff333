import { and, eq } from 'drizzle-orm';
import type { CDPSession, Page } from 'puppeteer-core';
import { expect } from 'vitest';
import { minute, second } from '../src/core/base/time';
import type { ExamDesign } from '../src/core/exam/design';
import { attempt, paperSlot, response, responseAside, user } from '../src/db/schema';
import { deadlineOf } from '../src/server/attempt/deadlineOf';
import { attemptWithRules, type RunningAttempt } from '../src/server/records/audience';
import { addTime, handInFor, reopen, restoreAttempt, voidAttempt } from '../src/server/room/invigilate';
import type { Feature, NetMode, Step, Story } from '../src/stories/story';
import { type Clocks, onItsWay } from './clocks';
import { courseIdOf, giveExam } from './giveExam';
import { type House, teacher } from './house';
import { post } from './serve';

/** Two browsers of one student, each with a page that stays open, beside which windows are opened. */
export type Devices = { email: string; pages: readonly [Page, Page] };

type Window = { page: Page; wire: CDPSession; mode: NetMode; onTheirWay: string[] };

/** The real page reacts within this many milliseconds, or not at all. */
const soon = 600;
/** A question is turned to within this many, or cannot be. */
const turning = 300;
const text = (value: unknown): string => JSON.stringify(value ?? null);

/** Gives an exam of five single choices under the rules of a story. */
export function giveStory(house: House, rules: readonly Feature[], title: string): string {
  const has = (one: Feature) => rules.includes(one);
  const ids = house.db.$client
    .prepare(
      "select distinct q.id from question q join paper_slot p on p.question_id = q.id join attempt a on a.id = p.attempt_id join sitting s on s.id = a.sitting_id where s.title = 'Steering-rules quiz' and q.type = 'single-choice' and q.retired_at is null order by q.id limit 5",
    )
    .pluck()
    .all() as string[];
  const line = (i: number, more: object = {}) => ({
    kind: 'fixed' as const,
    id: `story-${i}-line`,
    questionId: ids[i] ?? '',
    points: 1,
    ...more,
  });
  const change = (design: ExamDesign): ExamDesign => {
    const [part] = design.parts;
    if (!part) throw new Error('An exam begins with a part');
    const lines = [line(0, has('required') ? { required: true } : {}), line(1, has('own-time') ? { minutes: 3 } : {})];
    const chosen = has('choose') ? { choose: { count: 2, extra: 'refused' as const } } : {};
    return {
      ...design,
      parts: [
        { ...part, lines },
        { ...part, id: `${part.id}-2`, title: 'Choose', lines: [line(2), line(3), line(4)], ...chosen },
      ],
    };
  };
  return giveExam(house.db, title, change, {
    timeLimitMinutes: has('no-limit') ? null : 10,
    fullTimeOnceStarted: has('full-time'),
    further: {
      ...(has('grace') ? { expiry: { kind: 'grace', minutes: 2 } } : {}),
      onwardOnly: has('onward'),
      ...(has('time-for-each') ? { minutesPerQuestion: 4 } : {}),
      ...(has('tries') ? { tries: { most: 2, cost: 0 } } : {}),
    },
  }).sittingId;
}

/** Whether a browser keeps nothing more that the server has not confirmed. */
const keepsNothing = (page: Page): Promise<boolean> =>
  page.evaluate(() => !Object.keys(localStorage).some((key) => /^wuzzen-(answers|hand-in)/.test(key)));

/** Plays a story on the real page, as a student would with mouse and patience. */
export class PlayOnPage {
  private windows: (Window | null)[] = [null, null];
  private accepted: { place: number; value: string }[] = [];
  private attemptId = '';
  private pages: Page[] = [];

  constructor(
    private house: House,
    private clocks: Clocks,
    private story: Story,
    private devices: Devices,
    private sittingId: string,
  ) {}

  private get db() {
    return this.house.db;
  }

  private row() {
    const found = this.db
      .select({ row: attempt })
      .from(attempt)
      .innerJoin(user, eq(user.id, attempt.userId))
      .where(and(eq(attempt.sittingId, this.sittingId), eq(user.email, this.devices.email)))
      .get()?.row;
    if (!found) throw new Error('an attempt');
    return found;
  }

  /** A window of one of the two browsers, at a place of the app. */
  private async window(device: 0 | 1, path: string): Promise<Window> {
    const page = await this.house.beside(this.devices.pages[device]);
    this.pages.push(page);
    await this.clocks.follow(page);
    const wire = await page.createCDPSession();
    await page.goto(this.house.served.origin + path);
    return { page, wire, mode: 'up', onTheirWay: [] };
  }

  async play(): Promise<void> {
    const cookies = await this.house.cookiesOf(this.devices.email);
    const started = await post(this.house.served.origin, '/api/attempts/start', { sittingId: this.sittingId }, cookies);
    if (!started.ok) throw new Error(`not started: ${started.status}, ${await started.text()}`);
    this.attemptId = this.row().id;
    const first = await this.window(0, `/take/${this.attemptId}`);
    this.windows[0] = first;
    await first.page.waitForSelector('article');
    for (const step of this.story.steps) await this.does(step);
    await this.end();
    for (const page of this.pages) await page.close().catch(() => undefined);
  }

  private async does(step: Step): Promise<void> {
    if (step.kind === 'wait') return this.pass(step.seconds * second);
    if (step.kind === 'to-end') {
      const one = attemptWithRules(this.db, this.attemptId) as RunningAttempt;
      const deadline = deadlineOf(one);
      const grace = this.story.rules.includes('grace') && step.of === 'grace' ? 2 * minute : 0;
      if (deadline === null || step.of === 'question') return;
      const left = deadline + grace + step.seconds * second - (Date.now() + this.clocks.at);
      if (left > 0 && left < 60 * minute) await this.pass(left);
      return;
    }
    if (!('window' in step)) return this.invigilates(step);
    const window = this.windows[step.window];
    if (step.kind === 'open' && !window) return this.open(step.window);
    if (!window || window.page.isClosed()) return;
    const { page } = window;
    // What lies behind another tab draws nothing.
    if (this.story.oneBrowser) await page.bringToFront();
    if (step.kind === 'net') return this.net(window, step.mode);
    if (!page.url().includes('/take/')) return;
    if (step.kind === 'close') {
      this.windows[step.window] = null;
      return page.close();
    }
    if (step.kind === 'reload' && window.mode === 'up') await page.reload();
    if (step.kind === 'press') await this.press(page);
    if (step.kind === 'next') await this.click(page, '[data-next]');
    if (step.kind === 'type') await this.types(page, step.question, step.value);
  }

  private async open(n: number): Promise<void> {
    if (this.row().state !== 'running') return;
    const window = await this.window(n === 1 && !this.story.oneBrowser ? 1 : 0, `/take/${this.attemptId}`);
    this.windows[n] = window;
    await window.page.waitForSelector('article, h1');
  }

  private async net(window: Window, mode: NetMode): Promise<void> {
    const { page, wire } = window;
    if (window.mode === 'answers-lost' || window.mode === 'slow') {
      wire.removeAllListeners('Fetch.requestPaused');
      for (const requestId of window.onTheirWay.splice(0))
        await wire.send('Fetch.continueResponse', { requestId }).catch(() => undefined);
      await wire.send('Fetch.disable');
    }
    if (mode === 'down') await this.clocks.cut(page);
    else if (window.mode === 'down') await page.setOfflineMode(false);
    if (mode === 'answers-lost' || mode === 'slow') {
      // The server has taken what was sent; the browser never hears of it, or not before the network is another.
      wire.on('Fetch.requestPaused', ({ requestId }) => {
        if (mode === 'answers-lost')
          void wire.send('Fetch.failRequest', { requestId, errorReason: 'ConnectionReset' }).catch(() => undefined);
        else window.onTheirWay.push(requestId);
      });
      await wire.send('Fetch.enable', { patterns: [{ urlPattern: '*/api/attempts/*', requestStage: 'Response' }] });
    }
    window.mode = mode;
  }

  /** Clicks what a selector finds, where it can be clicked. @returns whether it could */
  private click = (page: Page, selector: string): Promise<boolean> =>
    page
      .evaluate((wanted) => {
        const element = document.querySelector<HTMLElement>(wanted);
        if (!element || element.matches(':disabled') || element.getAttribute('aria-disabled') === 'true') return false;
        element.click();
        return true;
      }, selector)
      .catch(onItsWay(false));

  private clickNamed = (page: Page, names: readonly string[]): Promise<boolean> =>
    page
      .evaluate((wanted) => {
        const button = [...document.querySelectorAll<HTMLButtonElement>('button')].find(
          (one) => wanted.some((name) => one.textContent?.trim().startsWith(name)) && !one.disabled,
        );
        button?.click();
        return Boolean(button);
      }, names as string[])
      .catch(onItsWay(false));

  private async press(page: Page): Promise<void> {
    await this.clickNamed(page, ['To the hand-in', 'I am finished']);
    await page
      .waitForFunction(() => document.body.textContent?.includes('Before you hand in'), { timeout: soon })
      .catch(() => undefined);
    await this.clickNamed(page, ['Hand in', 'Send my answers']);
  }

  private async types(page: Page, place: number, choice: number | null): Promise<void> {
    await this.click(page, `header button[title^="Question ${place + 1}:"]`);
    const isThere = await page
      .waitForFunction(
        (n) => document.querySelector('article h2')?.textContent?.startsWith(`Question ${n} of`),
        { timeout: turning },
        place + 1,
      )
      .then(() => true)
      .catch(() => false);
    if (!isThere) return void (await this.clickNamed(page, ['Stay here']));
    if (await this.clickNamed(page, ['Open the question']))
      await page.waitForSelector('article input', { timeout: soon }).catch(() => null);
    const taken = await page
      .evaluate(
        async (wanted, heading) => {
          // What the page did not take, it has set back once it has drawn itself anew.
          const drawn = () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
          // Going on may have been under way.
          if (!document.querySelector('article h2')?.textContent?.startsWith(heading)) return null;
          const inputs = [...document.querySelectorAll<HTMLInputElement>('article input[type=radio]')];
          const input = wanted === null ? inputs.find((one) => one.checked) : inputs[wanted];
          if (!input || input.matches(':disabled')) return null;
          if (wanted !== null) {
            if (input.checked) return null;
            input.click();
            await drawn();
            return input.isConnected && input.checked ? JSON.stringify({ picked: input.value }) : null;
          }
          const clear = [...document.querySelectorAll<HTMLButtonElement>('article button')].find(
            (one) => one.textContent === 'Clear my choice',
          );
          clear?.click();
          await drawn();
          return input.isConnected && !input.checked ? 'null' : null;
        },
        choice,
        `Question ${place + 1} of`,
      )
      .catch(onItsWay(null));
    if (taken !== null) this.accepted.push({ place, value: taken });
  }

  /** Time passes: every page sees another time on its clock. */
  private async pass(length: number): Promise<void> {
    if (length < second) return;
    const pages = this.windows.flatMap((one) => (one && !one.page.isClosed() ? [one.page] : []));
    const before = await Promise.all(pages.map((page) => this.clockOf(page)));
    await this.clocks.pass(length);
    await Promise.all(
      pages.map(async (page, i) => {
        if (!/\d left/.test(before[i] ?? '')) return;
        await page
          .waitForFunction((old) => document.querySelector('header')?.textContent !== old, { timeout: soon }, before[i])
          .catch(() => undefined);
        await page.evaluate(() => document.dispatchEvent(new Event('visibilitychange'))).catch(() => undefined);
      }),
    );
  }

  private clockOf = (page: Page): Promise<string> =>
    page.evaluate(() => document.querySelector('header')?.textContent ?? '').catch(() => '');

  private invigilates(step: Exclude<Step, { window: number }>): void {
    const row = this.db.select().from(user).where(eq(user.email, teacher)).get();
    const context = {
      db: this.db,
      actor: { userId: row?.id ?? '', name: row?.name ?? '' },
      now: Date.now() + this.clocks.at,
    };
    const course = courseIdOf(this.db);
    if (step.kind === 'more-time') addTime(context, course, this.sittingId, [this.attemptId], step.minutes);
    if (step.kind === 'reopen')
      reopen(context, course, this.sittingId, this.attemptId, { minutes: step.minutes, reason: 'a reason' });
    if (step.kind === 'void') voidAttempt(context, course, this.sittingId, this.attemptId, 'a reason');
    if (step.kind === 'restore') restoreAttempt(context, course, this.sittingId, this.attemptId);
    if (step.kind === 'hand-in-for') handInFor(context, course, this.sittingId, this.attemptId);
  }

  /** The networks are back: what waits is sent, its student gets out, nothing is lost, and the receipt says what is so. */
  private async end(): Promise<void> {
    const open = this.windows.filter((one): one is Window => one !== null && !one.page.isClosed());
    for (const window of open) {
      await window.page.bringToFront();
      await this.net(window, 'up');
      await window.page.evaluate(() => globalThis.dispatchEvent(new Event('online'))).catch(() => undefined);
      await window.page.waitForFunction(
        () => !/No connection|Waiting for the connection|Handing in …|Saving …/.test(document.body?.textContent ?? ''),
        { timeout: 25_000 },
      );
    }
    // As the student would look at it afterwards, in the first browser.
    const page = open[0]?.page ?? (await this.window(0, '/my')).page;
    const { origin } = this.house.served;
    await page.bringToFront();
    if (this.row().state === 'running') {
      await page.goto(`${origin}/take/${this.attemptId}`);
      await this.leave(page);
    } else if (!page.url().includes('/my/receipts/')) await page.goto(`${origin}/my/receipts/${this.attemptId}`);
    // A window that was closed may have left something in its browser.
    const closed = await Promise.all(this.devices.pages.map(async (own) => ((await keepsNothing(own)) ? [] : [own])));
    for (const own of closed.flat()) await this.lookAround(own);
    this.everyAnswerIsSomewhere();
    await this.receiptIsTrue(page);
  }

  /** Every page of a student sends what an earlier one could not. */
  private async lookAround(page: Page): Promise<void> {
    await page.bringToFront();
    await page.goto(`${this.house.served.origin}/my`);
    await expect.poll(() => keepsNothing(page), { timeout: 25_000 }).toBe(true);
  }

  private async leave(page: Page): Promise<void> {
    await page.waitForFunction(
      () =>
        location.pathname.startsWith('/my/receipts/') ||
        /Before you hand in|Question \d of/.test(document.body?.textContent ?? ''),
      {
        timeout: 20_000,
      },
    );
    for (let tries = 0; tries < 4 && !page.url().includes('/my/receipts/'); tries++) {
      const owed = await page
        .evaluate(() => /Question 1 has to be answered/.test(document.body.textContent ?? ''))
        .catch(onItsWay(false));
      if (owed) await this.types(page, 0, 0);
      await this.press(page);
      await page
        .waitForFunction(
          () =>
            location.pathname.startsWith('/my/receipts/') || /has to be answered/.test(document.body.textContent ?? ''),
          { timeout: 10_000 },
        )
        .catch(() => undefined);
    }
    // The clock may have been quicker.
    await expect.poll(() => this.row().state, { timeout: 20_000 }).not.toBe('running');
    const { state } = this.row();
    if (state !== 'handed-in' && state !== 'not-handed-in')
      throw new Error(`nobody gets out: ${state}, ${await page.evaluate(() => document.body.textContent)}`);
  }

  private everyAnswerIsSomewhere(): void {
    const last = new Map(this.accepted.map(({ place, value }) => [place, value]));
    for (const [place, value] of last) {
      const slot = this.db
        .select()
        .from(paperSlot)
        .where(and(eq(paperSlot.attemptId, this.attemptId), eq(paperSlot.position, place)))
        .get();
      const slotId = slot?.id ?? '';
      const stored = this.db.select().from(response).where(eq(response.slotId, slotId)).get();
      const aside = this.db.select().from(responseAside).where(eq(responseAside.slotId, slotId)).all();
      const kept = [text(stored?.value), ...aside.map((one) => text(one.value))];
      if (!kept.includes(value)) throw new Error(`the answer ${value} to question ${place + 1} is lost: ${kept}`);
    }
  }

  private async receiptIsTrue(page: Page): Promise<void> {
    const { state, endedBy } = this.row();
    const words = {
      'handed-in': 'Handed in: ',
      'not-handed-in': 'Not handed in in time: ',
      voided: 'Voided: ',
      running: 'Your attempt is running: ',
    }[state];
    const by = {
      student: 'You handed it in.',
      page: 'the open page',
      clock: 'by itself',
      invigilator: 'for you',
      'answer-sheet': 'answer sheet',
    };
    const answered = this.db
      .select()
      .from(response)
      .where(eq(response.attemptId, this.attemptId))
      .all()
      .filter((row) => text(row.value) !== 'null').length;
    const wanted = [
      words,
      ...(state === 'handed-in' && endedBy ? [by[endedBy]] : []),
      `${answered} of 5 questions answered`,
    ];
    const said = () => page.evaluate(() => document.querySelector('main')?.textContent ?? '');
    // What an invigilator did here reached the database behind the server's back: the receipt is asked for anew.
    const now = await said();
    if (!wanted.every((one) => now.includes(one)))
      await page.goto(`${this.house.served.origin}/my/receipts/${this.attemptId}`);
    await expect
      .poll(async () => {
        const shown = await said();
        return wanted.filter((one) => !shown.includes(one));
      })
      .toEqual([]);
  }
}
