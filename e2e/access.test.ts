import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, eq, ne, notLike } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { attempt, audit, paperSlot, sitting, user } from '../src/db/schema';
import { openHouse, press, shows, teacher } from './house';
import { post, serve } from './serve';

const house = openHouse();

const course = () => `/c/${house.db.select().from(sitting).get()?.courseId}`;
const strangerEmail = 'zoe.papathanou@ternpoint.example';
/** An attempt of somebody else than the stranger. */
const running = () =>
  house.db
    .select({ id: attempt.id, email: user.email })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .where(and(eq(attempt.state, 'running'), ne(user.email, strangerEmail)))
    .all()[0];
describe('what does not belong to someone', () => {
  it('answers 404 on every page and changes nothing', async () => {
    /** What was done; what was refused is written down too. */
    const done = () => house.db.select().from(audit).where(notLike(audit.action, 'refused.%')).all().length;
    const before = done();
    const student = await house.cookiesOf(strangerEmail);
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
    expect(await status(`${course()}/gradebook/sheet`, student)).toBe(403);
    for (const path of [course(), `${course()}/gradebook`, `${course()}/people`])
      expect([307, 404]).toContain(await status(path, student));
    expect(done()).toBe(before);
    expect(house.db.select().from(audit).where(eq(audit.action, 'refused.attempt.open')).all().length).toBeGreaterThan(
      0,
    );
  });

  it('is refused over the wire: foreign attempts, other origins, no session, nonsense', async () => {
    const { origin } = house.served;
    const own = running();
    const stranger = await house.cookiesOf(strangerEmail);
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
    expect((await post(origin, '/api/sign-in', { name: teacher, password: 'wrong' })).status).toBe(403);
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
      name: 'pilar.etxeberri@ternpoint.example',
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

describe('what fails on the server', () => {
  it('is said with the reference under which the log tells it, and a button tries again', async () => {
    const page = await house.page(teacher);
    house.db.$client.exec('alter table feedback_reply rename to gone');
    try {
      const answer = await page.goto(house.served.origin + course());
      const id = answer?.headers()['x-request-id'] ?? '';
      expect(id).toMatch(/^[0-9a-f]{12}$/);
      await shows(page, 'Something went wrong here');
      await shows(page, id);
      const line = house.served
        .printed()
        .split('\n')
        .find((one) => one.startsWith('{') && one.includes(id));
      expect(JSON.parse(line ?? '{}')).toMatchObject({ level: 'error', requestId: id, reference: id, method: 'GET' });
      expect(line).toContain('no such table: feedback_reply');
    } finally {
      house.db.$client.exec('alter table gone rename to feedback_reply');
    }
    await press(page, 'Try again');
    await shows(page, 'Ready to publish');
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
    // A worker has the policy of its own script: compiled decoders run there, and on no page.
    const script = /src="(\/_next\/static\/[^"]+\.js)"/.exec((await answers[0]?.text()) ?? '')?.[1];
    const worker = (await fetch(`${house.served.origin}${script}`)).headers.get('content-security-policy');
    expect(worker).toContain("script-src 'self' 'wasm-unsafe-eval';");
    expect(policies[0]).not.toContain('wasm');
  });
});

describe('a production start', () => {
  it('says what is missing, refuses a folder of another kind, and offers a set-up address once', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'wuzzen-production-'));
    await expect(serve(folder, 'production', { WUZZEN_SECRET: '' })).rejects.toThrow(/WUZZEN_SECRET is not set/);
    await expect(serve(folder, 'production', { WUZZEN_SECRET: 'short' })).rejects.toThrow(/too short/);
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
