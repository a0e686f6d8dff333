import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { attempt, audit, exam, paperSlot, question, sitting, user } from '../src/db/schema';
import { phone, type Size } from './browser';
import { markerEmail, openHouse, teacher } from './house';
import { post, serve } from './serve';

const house = openHouse();
const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

const course = () => `/c/${house.db.select().from(sitting).get()?.courseId}`;
const sittingOf = (title: string) => house.db.select().from(sitting).where(eq(sitting.title, title)).get()?.id;
const running = () =>
  house.db
    .select({ id: attempt.id, email: user.email })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .where(and(eq(attempt.state, 'running')))
    .all()[0];
const isophase = () => house.db.select().from(question).where(eq(question.shortName, 'Isophase')).get();

type View = { name: string; who: () => string | null; path: () => string; size?: Size; ready?: string };
const asTeacher = () => teacher;

const examPath = (title: string) =>
  `${course()}/exams/${house.db.select().from(exam).where(eq(exam.title, title)).get()?.id}`;

const views: View[] = [
  { name: 'sign-in', who: () => null, path: () => '/sign-in' },
  { name: 'desk', who: asTeacher, path: course },
  {
    name: 'bank',
    who: asTeacher,
    path: () => `${course()}/banks/${isophase()?.bankId}?category=${isophase()?.categoryId}&question=${isophase()?.id}`,
    ready: '[role=textbox]',
  },
  { name: 'bank, filtered', who: asTeacher, path: () => `${course()}/banks/${isophase()?.bankId}?type=numeric` },
  {
    name: 'gap-fill sheet',
    who: asTeacher,
    path: () => `${course()}/banks/${isophase()?.bankId}?begin=gap-fill`,
    ready: '[role=textbox]',
  },
  { name: 'health', who: asTeacher, path: () => `${course()}/banks/${isophase()?.bankId}/health` },
  { name: 'bring in', who: asTeacher, path: () => `${course()}/banks/${isophase()?.bankId}/bring-in` },
  { name: 'passages', who: asTeacher, path: () => `${course()}/banks/${isophase()?.bankId}/passages?passage=new` },
  { name: 'bank settings', who: asTeacher, path: () => `${course()}/banks/${isophase()?.bankId}/settings` },
  { name: 'exams', who: asTeacher, path: () => `${course()}/exams` },
  {
    name: 'exam plan',
    who: asTeacher,
    path: () =>
      `${course()}/exams/${house.db.select().from(exam).where(eq(exam.title, 'Final theory exam')).get()?.id}`,
    ready: '[role=textbox]',
  },
  {
    name: 'sample paper',
    who: asTeacher,
    path: () =>
      `${course()}/exams/${house.db.select().from(exam).where(eq(exam.title, 'Final theory exam')).get()?.id}/sample`,
  },
  { name: 'rehearsal', who: asTeacher, path: () => `${examPath('Final theory exam')}/rehearsal` },
  { name: 'revisions', who: asTeacher, path: () => `${examPath('Final theory exam')}/revisions` },
  { name: 'new question', who: asTeacher, path: () => `${examPath('Final theory exam')}/new-question` },
  {
    name: 'trial',
    who: asTeacher,
    path: () => examPath('Final theory exam').replace('/c/', '/trial/').replace('/exams/', '/'),
    ready: 'article',
  },
  {
    name: 'off-screen exam',
    who: asTeacher,
    path: () => examPath('Chart room test, on paper'),
    ready: '[data-answer] [aria-checked=true]',
  },
  {
    name: 'answer sheet',
    who: asTeacher,
    path: () => examPath('Chart room test, on paper').replace('/c/', '/trial/').replace('/exams/', '/'),
    size: phone,
    ready: 'ol[aria-label="Items"]',
  },
  { name: 'look', who: () => markerEmail, path: () => `${examPath('Final theory exam')}/look` },
  { name: 'next term', who: asTeacher, path: () => `${course()}/people/next-term` },
  { name: 'course', who: asTeacher, path: () => `${course()}/people/course` },
  { name: 'notes', who: asTeacher, path: () => `${course()}/people/notes` },
  {
    name: 'a student’s paper',
    who: asTeacher,
    path: () =>
      `${course()}/sittings/${sittingOf('Mid-course theory exam')}/papers/${house.db.select().from(user).where(eq(user.email, 'keoni.kahananui@ternpoint.example')).get()?.id}`,
  },
  { name: 'sittings', who: asTeacher, path: () => `${course()}/sittings` },
  { name: 'print', who: asTeacher, path: () => `${course()}/sittings/${sittingOf('Mid-course theory exam')}/print` },
  {
    name: 'answers',
    who: asTeacher,
    path: () => `${course()}/sittings/${sittingOf('Mid-course theory exam')}/answers`,
  },
  { name: 'sitting', who: asTeacher, path: () => `${course()}/sittings/${sittingOf('Final theory exam, Weekday')}` },
  {
    name: 'results',
    who: asTeacher,
    path: () => `${course()}/sittings/${sittingOf('Mid-course theory exam')}/results`,
  },
  { name: 'marking queue', who: () => markerEmail, path: () => `${course()}/marking` },
  {
    name: 'marking',
    who: () => markerEmail,
    path: () =>
      `${course()}/marking/${sittingOf('Passage-planning paper')}/${house.db.select().from(question).where(eq(question.shortName, 'Alternatives')).get()?.id}`,
  },
  { name: 'gradebook', who: asTeacher, path: () => `${course()}/gradebook` },
  { name: 'people', who: asTeacher, path: () => `${course()}/people` },
  { name: 'messages', who: asTeacher, path: () => `${course()}/people/outbox` },
  { name: 'my exams', who: () => running()?.email ?? '', path: () => '/my', size: phone },
  { name: 'my results', who: () => running()?.email ?? '', path: () => '/my/results', size: phone },
  {
    name: 'taking',
    who: () => running()?.email ?? '',
    path: () => `/take/${running()?.id}`,
    size: phone,
    ready: 'input[type=radio]:not(:disabled)',
  },
];

describe('every main view', () => {
  it.each(views)(
    '$name has no serious finding of axe, no error in the browser, and its own title',
    async ({ who, path, size, ready }) => {
      const page = await house.page(who(), size);
      const errors: string[] = [];
      page.on('pageerror', (error) => errors.push(String(error)));
      page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
      const response = await page.goto(house.served.origin + path(), { waitUntil: 'networkidle0' });
      expect(response?.status()).toBe(200);
      if (ready) await page.waitForSelector(ready);
      expect(await page.title()).toContain('Wuzzen');
      await page.evaluate(axe);
      const found = await page.evaluate(async () => {
        const { violations } = await (
          globalThis as unknown as {
            axe: { run: () => Promise<{ violations: { id: string; impact: string; nodes: { html: string }[] }[] }> };
          }
        ).axe.run();
        return violations
          .filter((one) => one.impact === 'serious' || one.impact === 'critical')
          .map((one) => `${one.id}: ${one.nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`);
      });
      expect(found).toEqual([]);
      expect(errors).toEqual([]);
    },
  );
});

describe('what does not belong to someone', () => {
  it('answers 404 on every page and changes nothing', async () => {
    const before = house.db.select().from(audit).all().length;
    const student = await house.cookiesOf('zoe.papathanou@ternpoint.example');
    const instructor = await house.cookiesOf(teacher);
    const status = async (path: string, cookie: string) =>
      (await fetch(house.served.origin + path, { headers: { cookie }, redirect: 'manual' })).status;
    for (const path of [
      '/c/nobody',
      `${course()}/banks/nobody`,
      `${course()}/exams/nobody`,
      `${course()}/sittings/nobody`,
      `${course()}/sittings/nobody/results`,
      `${course()}/marking/nobody/nobody`,
      `/take/${running()?.id}`,
      '/take/nobody',
      '/my/exams/nobody',
      '/my/receipts/nobody',
    ])
      expect([path, await status(path, instructor)]).toEqual([path, 404]);
    expect(await status(`/take/${running()?.id}`, student)).toBe(404);
    expect(await status(`${course()}/gradebook/csv`, student)).toBe(403);
    for (const path of [course(), `${course()}/gradebook`, `${course()}/people`])
      expect([307, 404]).toContain(await status(path, student));
    expect(house.db.select().from(audit).all().length).toBe(before);
  });

  it('is refused over the wire: foreign attempts, other origins, no session, nonsense', async () => {
    const { origin } = house.served;
    const own = running();
    const stranger = await house.cookiesOf('zoe.papathanou@ternpoint.example');
    const slot = house.db
      .select()
      .from(paperSlot)
      .where(eq(paperSlot.attemptId, own?.id ?? ''))
      .get();
    const save = { slotId: slot?.id, epoch: 1, sequence: 1, value: { picked: 'x' } };
    const path = `/api/attempts/${own?.id}`;
    for (const [action, body] of [
      ['open', null],
      ['save', save],
      ['hand-in', null],
      ['pulse', { epoch: 1 }],
    ] as const) {
      expect((await post(origin, `${path}/${action}`, body, stranger)).status).toBe(404);
      expect((await post(origin, `${path}/${action}`, body)).status).toBe(401);
      const elsewhere = await fetch(`${origin}${path}/${action}`, {
        method: 'POST',
        headers: { origin: 'https://evil.example', cookie: stranger },
        body: JSON.stringify(body),
      });
      expect(elsewhere.status).toBe(403);
    }
    for (const body of ['{', '[]', '"x"', '{"slotId":1}', 'x'.repeat(1_000_001)]) {
      const answer = await fetch(`${origin}${path}/save`, {
        method: 'POST',
        headers: { origin, cookie: stranger, 'content-type': 'application/json' },
        body,
      });
      expect(answer.status).toBe(400);
    }
    expect((await post(origin, '/api/attempts/start', { sittingId: 7 }, stranger)).status).toBe(404);
    expect((await post(origin, '/api/sign-in', { email: teacher, password: 'wrong' })).status).toBe(403);
    expect((await post(origin, '/api/house/clock', { offset: 1 })).status).toBe(404);
    expect(
      house.db
        .select()
        .from(attempt)
        .where(eq(attempt.id, own?.id ?? ''))
        .get()?.state,
    ).toBe('running');
  });

  it('signing out ends the session at once', async () => {
    const { origin } = house.served;
    const answer = await post(origin, '/api/sign-in', {
      email: 'pilar.etxeberri@ternpoint.example',
      password: 'tern-point-demo',
    });
    const cookies = answer.headers
      .getSetCookie()
      .map((cookie) => cookie.split(';')[0])
      .join('; ');
    expect((await post(origin, '/api/health/session', {}, cookies)).status).toBe(200);
    expect((await post(origin, '/api/sign-out', null, cookies)).status).toBe(200);
    expect((await post(origin, '/api/health/session', {}, cookies)).status).toBe(401);
  });
});

describe('headers', () => {
  it('hold a policy that lets only this response’s scripts run', async () => {
    const answers = await Promise.all([1, 2].map(() => fetch(`${house.served.origin}/sign-in`)));
    const policies = answers.map((answer) => answer.headers.get('content-security-policy') ?? '');
    expect(policies[0]).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic'/);
    expect(policies[0]).not.toContain('unsafe-eval');
    expect(policies[0]).not.toBe(policies[1]);
    expect(answers[0]?.headers.get('x-content-type-options')).toBe('nosniff');
  });
});

describe('a production start', () => {
  it('says what is missing, refuses a folder of another kind, and offers a set-up address once', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'wuzzen-production-'));
    await expect(serve(folder, 'production', { WUZZEN_SECRET: '' })).rejects.toThrow(/WUZZEN_SECRET is not set/);
    const secret = { WUZZEN_SECRET: 'a production secret for this test only' };
    const served = await serve(folder, 'production', secret);
    const address = /http\S+\/set-up\/\S+/.exec(served.printed())?.[0] ?? '';
    expect((await (await fetch(address)).text()).includes('Your first course')).toBe(true);
    expect((await post(served.origin, '/api/demo/sign-in', { userId: 'x' })).status).toBe(404);
    expect((await (await fetch(`${served.origin}/sign-in`)).text()).includes('Enter the demo')).toBe(false);
    await expect(serve(folder, 'production', secret)).rejects.toThrow(/is in use by process/);
    await served.stop();
    await expect(serve(folder, 'demo', secret)).rejects.toThrow(/was created as production/);
    rmSync(folder, { recursive: true, force: true });
  });
});
