import { and, eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { attempt, response, sitting, user } from '../src/db/schema';
import { openHouse } from './house';
import { freePort, post, serve } from './serve';

const house = openHouse();

it('every answer that was acknowledged is there after the server is killed and started again', async () => {
  const running = house.db
    .select({ attemptId: attempt.id, email: user.email })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(and(eq(attempt.state, 'running'), eq(sitting.title, 'Steering-rules quiz')))
    .all();
  expect(running.length).toBeGreaterThanOrEqual(3);
  const acknowledged = new Map<string, number>();
  const writers = await Promise.all(
    running.map(async ({ attemptId, email }) => {
      const cookies = await house.cookiesOf(email ?? '');
      const opened = (await (
        await post(house.served.origin, `/api/attempts/${attemptId}/open`, null, cookies)
      ).json()) as { epoch: number; slots: { slotId: string }[] };
      return { attemptId, cookies, ...opened };
    }),
  );
  let killed = false;
  let count = 0;
  const enough = new Promise<void>((resolve) => {
    for (const { attemptId, cookies, epoch, slots } of writers) {
      void (async () => {
        for (let sequence = 1; !killed; sequence++) {
          const slotId = slots[sequence % slots.length]?.slotId ?? '';
          const body = { slotId, epoch, sequence, value: { picked: `v${sequence}` } };
          const saved = await post(house.served.origin, `/api/attempts/${attemptId}/save`, body, cookies).catch(
            () => null,
          );
          if (!saved?.ok) break;
          await saved.arrayBuffer().catch(() => null);
          acknowledged.set(slotId, sequence);
          count += 1;
          if (count === 400) resolve();
        }
      })();
    }
  });
  await enough;
  const killing = house.restart('SIGKILL');
  killed = true;
  await killing;
  const stored = new Map(
    house.db
      .select()
      .from(response)
      .all()
      .map((row) => [row.slotId, row]),
  );
  expect(acknowledged.size).toBeGreaterThan(10);
  for (const [slotId, sequence] of acknowledged) {
    const row = stored.get(slotId);
    expect(row?.sequence).toBeGreaterThanOrEqual(sequence);
    expect(row?.value).toEqual({ picked: `v${row?.sequence}` });
  }
  const again = writers[0];
  const reopened = await post(house.served.origin, `/api/attempts/${again?.attemptId}/open`, null, again?.cookies);
  expect(((await reopened.json()) as { epoch: number }).epoch).toBe((again?.epoch ?? 0) + 1);
});

it('who asks while the server is still starting waits and is answered', async () => {
  await house.served.stop();
  const port = await freePort();
  const starting = serve(house.served.folder, 'test', { PORT: String(port) });
  let answered: Response | null = null;
  // The first request that finds the port open comes long before the app is prepared.
  while (!answered) answered = await fetch(`http://127.0.0.1:${port}/sign-in`).catch(() => null);
  expect(answered.status).toBe(200);
  house.served = await starting;
});
