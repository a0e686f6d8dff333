import { eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { seededRandom } from '../src/core/base/random';
import { minute } from '../src/core/base/time';
import { attempt, attemptEvent, exam, mark, paperSlot, response } from '../src/db/schema';
import { giveSitting } from './giveExam';
import { openHouse } from './house';
import { moveClock, post } from './serve';

const house = openHouse();
const students = 100;
const kills = 5;

type Writer = { attemptId: string; cookies: string; slots: string[]; epoch: number; sequence: number };

/** Before asking again, as a browser does. */
const pause = () => new Promise<void>((resolve) => setTimeout(resolve, 400));

type Answer = { status: number; body: unknown };

/** What the server answers, read to its end; null where it is down, or goes down while it answers. */
async function ask(path: string, body: unknown, cookies: string): Promise<Answer | null> {
  try {
    const answer = await post(house.served.origin, path, body, cookies);
    return { status: answer.status, body: await answer.json() };
  } catch {
    return null;
  }
}

/** Asks until a server answers. */
async function insist(path: string, body: unknown, cookies: string): Promise<Answer> {
  for (;;) {
    const answer = await ask(path, body, cookies);
    if (answer && answer.status < 500) return answer;
    await pause();
  }
}

it('a hundred students save while the server is killed five times: every acknowledged answer is there, every deadline held, every attempt handed in once', async () => {
  const { db } = house;
  const examId = db.select().from(exam).where(eq(exam.title, 'Steering-rules quiz')).get()?.id ?? '';
  const link = giveSitting(db, examId, 'Drill', { attemptsAllowed: null, who: { kind: 'link' }, timeLimitMinutes: 40 });
  const secret = db.$client
    .prepare("select ref_id from sitting_audience where sitting_id = ? and kind = 'link'")
    .pluck()
    .get(link) as string;
  const random = seededRandom('faults', '1');

  // A hundred people come by the link, a few at a time.
  const writers: Writer[] = [];
  for (let i = 0; i < students; i += 10)
    await Promise.all(
      Array.from({ length: 10 }, async (_, k) => {
        const joined = await post(house.served.origin, '/api/join', { secret, name: `Student ${i + k}` });
        const cookies = joined.headers
          .getSetCookie()
          .map((cookie) => cookie.split(';')[0])
          .join('; ');
        const started = (await (
          await post(house.served.origin, '/api/attempts/start', { sittingId: link }, cookies)
        ).json()) as {
          attemptId: string;
          opening: { epoch: number; slots: { slotId: string }[] };
        };
        const { attemptId, opening } = started;
        writers.push({
          attemptId,
          cookies,
          slots: opening.slots.map((slot) => slot.slotId),
          epoch: opening.epoch,
          sequence: 0,
        });
      }),
    );
  const acknowledged = new Map<string, { epoch: number; sequence: number }>();
  let saves = 0;
  let over = false;
  const write = async (writer: Writer, i: number) => {
    const chance = seededRandom('faults', `student ${i}`);
    while (!over) {
      writer.sequence += 1;
      const { attemptId, cookies, epoch, sequence } = writer;
      const slotId = writer.slots[chance.below(writer.slots.length)] as string;
      const body = { slotId, epoch, sequence, value: { picked: `${epoch}.${sequence}` } };
      const saved = await ask(`/api/attempts/${attemptId}/save`, body, cookies);
      if (saved?.status === 200) {
        acknowledged.set(slotId, { epoch, sequence });
        saves += 1;
        // A third of the time the answer is lost on its way: the same save comes again.
        if (chance.below(3) === 0) await ask(`/api/attempts/${attemptId}/save`, body, cookies);
      } else if (!saved) {
        // The line is gone: the page is opened anew once somebody answers.
        const opened = await insist(`/api/attempts/${attemptId}/open`, null, cookies);
        if (opened.status === 200) {
          writer.epoch = (opened.body as { epoch: number }).epoch;
          writer.sequence = 0;
        }
      }
    }
  };
  const writing = writers.map(write);
  for (let kill = 0; kill < kills; kill++) {
    const until = saves + 150 + random.below(200);
    while (saves < until) await pause();
    await house.restart('SIGKILL');
  }
  over = true;
  await Promise.all(writing);

  // A third hand in, some of them twice; the server is down at the deadline of the rest.
  await Promise.all(
    writers.slice(0, 33).flatMap(({ attemptId, cookies }, i) => {
      const send = () => post(house.served.origin, `/api/attempts/${attemptId}/hand-in`, null, cookies);
      return i % 2 ? [send()] : [send(), send()];
    }),
  );
  await house.restart('SIGKILL');
  await moveClock(house.served.origin, 90 * minute);
  const rows = () => db.select().from(attempt).where(eq(attempt.sittingId, link)).all();
  await expect.poll(() => rows().filter((row) => row.state === 'running').length, { timeout: 30_000 }).toBe(0);

  expect(acknowledged.size).toBeGreaterThan(students);
  const stored = new Map(
    db
      .select()
      .from(response)
      .all()
      .map((row) => [row.slotId, row]),
  );
  for (const [slotId, { epoch, sequence }] of acknowledged) {
    const row = stored.get(slotId);
    const isLater = row && (row.epoch > epoch || (row.epoch === epoch && row.sequence >= sequence));
    expect(isLater).toBe(true);
    expect(row?.value).toEqual({ picked: `${row?.epoch}.${row?.sequence}` });
  }
  expect(rows()).toHaveLength(students);
  for (const row of rows()) {
    expect(row.state).toBe('handed-in');
    expect(row.endedAt).toBeLessThanOrEqual(row.startedAt + 40 * minute);
    const ends = db
      .select()
      .from(attemptEvent)
      .where(eq(attemptEvent.attemptId, row.id))
      .all()
      .filter((one) => one.kind === 'handed-in');
    expect(ends).toHaveLength(1);
    const slots = db.select({ id: paperSlot.id }).from(paperSlot).where(eq(paperSlot.attemptId, row.id)).all();
    for (const { id } of slots) expect(db.select().from(mark).where(eq(mark.slotId, id)).all()).toHaveLength(1);
  }
}, 300_000);
