import { readFileSync } from 'node:fs';
import { request } from 'node:http';
import { eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { attempt, courseBank, user } from '../src/db/schema';
import { hostileFiles } from '../src/server/testing/hostileFiles';
import { courseIdOf } from './giveExam';
import { openHouse, teacher } from './house';
import { post } from './serve';

const house = openHouse();
const course = () => courseIdOf(house.db);
const bankId = () => house.db.select().from(courseBank).where(eq(courseBank.courseId, course())).get()?.bankId;
const bringIn = () => `/c/${course()}/banks/${bankId()}/bring-in/file`;

/** Somebody at their paper. */
async function writer() {
  const row = house.db
    .select({ id: attempt.id, email: user.email })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .where(eq(attempt.state, 'running'))
    .get();
  return { attemptId: row?.id ?? '', cookie: await house.cookiesOf(row?.email ?? '') };
}

/** Begins to send a body and never ends it. @returns the status that is answered without it */
const answeredBeforehand = (path: string, headers: Record<string, string>): Promise<number> =>
  new Promise((resolve, reject) => {
    const { origin } = house.served;
    const sent = request(`${origin}${path}`, { method: 'POST', headers: { origin, ...headers } }, (answer) => {
      resolve(answer.statusCode ?? 0);
      sent.destroy();
    });
    sent.once('error', reject);
    sent.write('x'.repeat(1_000));
  });

it('a large body is answered before it is read, unless somebody sends it who may', async () => {
  const { cookie } = await writer();
  const large = { 'content-length': '5000000' };
  for (const path of ['/sign-in', '/api/sign-in', bringIn(), '/nothing'])
    expect(await answeredBeforehand(path, large), path).toBe(401);
  expect(await answeredBeforehand('/api/sign-in', { 'content-length': '300000000' })).toBe(413);
  // A student has no business in the bank: told at once, whatever is still to come.
  expect(await answeredBeforehand(bringIn(), { ...large, cookie })).toBe(403);
  const made = `/c/${course()}x/banks/${bankId()}/bring-in/file`;
  expect(await answeredBeforehand(made, { ...large, cookie: await house.cookiesOf(teacher) })).toBe(404);
});

it('whatever file is brought in, it is told so, and who writes an exam is served meanwhile', async () => {
  const { origin } = house.served;
  const { attemptId, cookie } = await writer();
  const brings = await house.cookiesOf(teacher);
  const memory = () =>
    Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${house.served.process.pid}/status`, 'utf8'))?.[1] ?? 0) / 1_024;
  const before = memory();
  for (const [name, make] of Object.entries(hostileFiles)) {
    let over = false;
    const brought = fetch(`${origin}${bringIn()}`, {
      method: 'POST',
      headers: { origin, cookie: brings },
      body: Buffer.from(make()),
    }).finally(() => {
      over = true;
    });
    do expect((await post(origin, `/api/attempts/${attemptId}/pulse`, { epoch: 1 }, cookie)).status).toBe(200);
    while (!over);
    expect([200, 400], name).toContain((await brought).status);
  }
  expect(memory() - before).toBeLessThan(700);
}, 180_000);
